import { describe, expect, it } from 'vitest'
import { parsePicture, parseSize } from '../../../core/format/parse'
import { fitPicture } from '../../../core/framing/framing'
import { sameScene } from './detail'

const scene = (source: string, frame: string, at: { x: number; y: number }) => {
  const picture = parsePicture(source)!
  return sameScene(fitPicture(picture, parseSize(frame)!), picture, at, 48, 40)
}

describe('the same piece of the scene', () => {
  it('takes more stored pixels where the clip is reduced, fewer where it is enlarged', () => {
    const middle = { x: 0.5, y: 0.5 }
    expect(scene('3840x2160', '1920x1080', middle)).toEqual({
      timeline: { x: 936, y: 520, width: 48, height: 40 },
      stored: { x: 1872, y: 1040, width: 96, height: 80 },
    })
    expect(scene('1920x1080', '3840x2160', middle).stored).toEqual({ x: 948, y: 530, width: 24, height: 20 })
    expect(scene('720x576/64:45', '1920x1080', middle).stored.width).toBeCloseTo(18, 9)
  })
  it('stays inside the picture', () => {
    expect(scene('1920x1080', '1920x1080', { x: 1, y: 0 }).stored).toEqual({
      x: 1872,
      y: 0,
      width: 48,
      height: 40,
    })
  })
})
