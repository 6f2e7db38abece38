import { describe, expect, it } from 'vitest'
import { aVideo } from '../model/doc.fixture'
import { proxySize, playingWeightOf } from './heavy'

const reading = (format: string, codec = 'H.264') => {
  const { reading: reading } = aVideo('bell', format, 4)
  return { ...reading!, video: { ...reading!.video!, codec } }
}

describe('how heavy a clip is to play', () => {
  it('goes by its pixels and its codec', () => {
    expect(playingWeightOf(reading('1920x1080@50p'), null)).toMatchObject({ heavy: false })
    expect(playingWeightOf(reading('3840x2160@25p'), null)).toMatchObject({ heavy: true })
    expect(playingWeightOf(reading('1920x1080@50p', 'HEVC'), null)!.heavy).toBe(true)
    expect(playingWeightOf(reading('1920x1080@25p', 'ProRes'), null)!.heavy).toBe(true)
    expect(playingWeightOf(reading('720x576@25p', 'DNxHD'), null)!.heavy).toBe(false)
    expect(playingWeightOf(reading('1920x1080@25p', 'DNxHD'), null)).toEqual({
      heavy: true,
      says: '52 million pixels a second, DNxHD, by the engine that ships',
    })
  })
  it('goes by what was measured, where it was', () => {
    expect(playingWeightOf(reading('3840x2160@25p'), 60)!.heavy).toBe(false)
    expect(playingWeightOf(reading('1920x1080@25p'), 18)).toEqual({
      heavy: true,
      says: '52 million pixels a second, H.264: 18 of 25 frames a second decoded here',
    })
  })
  it('is none of a still or of sound', () => {
    expect(playingWeightOf({ ...reading('1920x1080@25p'), kind: 'still' }, null)).toBeNull()
    expect(playingWeightOf(null, null)).toBeNull()
  })
})

describe('the raster of a proxy', () => {
  it('has a quarter of the pixels, in even sides; fields keep their lines', () => {
    expect(proxySize(3840, 2160, false)).toEqual({ width: 1920, height: 1080 })
    expect(proxySize(1920, 1080, true)).toEqual({ width: 480, height: 1080 })
    expect(proxySize(1081, 721, false)).toEqual({ width: 540, height: 360 })
  })
})
