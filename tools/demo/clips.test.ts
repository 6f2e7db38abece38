import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { memorySource } from '../../src/core/reading/bytes/source'
import { read } from '../../src/core/reading/read'
import { drawnClips } from './clips'

const readClip = async (file: string) =>
  read(memorySource(await readFile(join(import.meta.dirname, 'clips', file))))

/** The facts by which the demo was drawn, against what is read from its bytes. */
describe('the demo clips', () => {
  const whole = drawnClips.filter((clip) => !clip.cut)

  it.each(whole.map((clip) => [clip.file, clip] as const))('%s reads as it was drawn', async (file, clip) => {
    const { reading } = await readClip(file)
    const filter = clip.encode[clip.encode.indexOf('-vf') + 1]
    const interlaced = filter!.includes('interlace')
    const says = clip.says ?? {
      scan: interlaced ? 'interlaced' : 'progressive',
      fieldOrder: interlaced ? 'top-first' : null,
    }
    const scaled = /^scale=(\d+):(\d+)/.exec(filter!)
    const [num, den = 1] = clip.rate.split('/').map(Number)
    const video = reading!.video!
    expect([video.width, video.height]).toEqual(
      scaled ? [Number(scaled[1]), Number(scaled[2])] : [clip.width, clip.height],
    )
    expect({ scan: video.scan, fieldOrder: video.fieldOrder }).toEqual(says)
    expect(video.frameCount).toBe(interlaced ? clip.count / 2 : clip.count)
    expect(video.rotation).toBe(clip.onItsSide ? 90 : 0)
    const aspect = /setsar=(\d+)\/(\d+)/.exec(filter!)
    expect(video.pixelAspect).toEqual({ num: Number(aspect?.[1] ?? 1), den: Number(aspect?.[2] ?? 1) })
    const start = clip.encode[clip.encode.indexOf('-timecode') + 1]
    expect(reading!.timecode?.start).toBe(clip.encode.includes('-timecode') ? start : undefined)
    if (clip.time && clip.onItsSide) {
      expect(video.rateMode).toBe('variable')
      expect(video.minRate).toBeCloseTo(24, -0.5)
      expect(video.meanRate).toBeCloseTo(clip.count / (clip.time(clip.count - 1) + 1 / 30), 0)
    } else {
      expect(video.rateMode).toBe('constant')
      expect((video.rate!.num * den) / video.rate!.den).toBeCloseTo(interlaced ? num! / 2 : num!, 9)
      expect(reading!.durationSec).toBeCloseTo((clip.count * den) / num!, 2)
    }
  })

  it('that is cut off says so, and keeps its facts', async () => {
    const result = await readClip('pour_backup_B015.mp4')
    expect(result).toMatchObject({
      ok: false,
      error: { code: 'truncated' },
      reading: { video: { width: 1920, frameCount: 100 } },
    })
  })

  it('that make sound or stand still', async () => {
    expect((await readClip('hall_sound.wav')).reading).toMatchObject({
      kind: 'audio',
      durationSec: 5,
      audio: [{ codec: 'PCM', channels: 2, sampleRate: 48000, bitDepth: 24 }],
    })
    expect((await readClip('bell_strike.wav')).reading!.audio[0]).toMatchObject({
      sampleRate: 44100,
      channels: 1,
      bitDepth: 16,
    })
    expect((await readClip('title_card.png')).reading).toMatchObject({
      kind: 'still',
      video: { width: 1280, alpha: true },
    })
  })
})
