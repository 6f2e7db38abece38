import { describe, expect, it } from 'vitest'
import { parseRate } from '../rate/parse'
import { rateName } from '../rate/rate'
import { barred, count, drawn, enlarged, fielded, filmed, held, stone, yard } from './drawn.fixture'
import type { Evidence } from './evidence'
import type { Luma } from '../planes/luma'
import { samplingOf, startMeasuring } from './measure'

const rate = (text: string) => parseRate(text)!.rate
/** What frames say, numbered from `first`. */
function said(frames: readonly Luma[], at = '25', first = 0): Evidence {
  const measuring = startMeasuring()
  frames.forEach((luma, i) => measuring.frame(first + i, luma))
  return measuring.finish(rate(at))
}
const fields = (frames: readonly Luma[]) => {
  const { combing, fieldOrder } = said(frames)
  return `${combing.verdict}, ${fieldOrder.verdict}`
}
const repeats = (frames: readonly Luma[], at: string, first = 0) => {
  const { verdict, pattern, phase, trueRate } = said(frames, at, first).repeats
  return [verdict, pattern, phase, trueRate && rateName(trueRate)].filter((part) => part !== null).join(' ')
}
const halves = (n: number) => count(n).map((i) => [i, i + 0.5] as const)

describe('combs and the order of fields', () => {
  it('are found in what moves, whichever field is first', () => {
    expect(fields(filmed(count(12)))).toBe('clean, progressive')
    expect(fields(fielded(halves(12)))).toBe('combed, top-first')
    expect(fields(fielded(halves(12).map(([a, b]) => [b, a])))).toBe('combed, bottom-first')
    const noise = { noise: 5 }
    expect(fields(filmed(count(12), noise))).toBe('clean, progressive')
    expect(fields(fielded(halves(12), noise))).toBe('combed, top-first')
  })

  it('are found where one small thing moves', () => {
    const still = yard(3, 9)
    const scene = (time: number) => (x: number, y: number) =>
      Math.hypot(x - 30 - 5 * time, y - 64) < 12 ? 225 : still(x, y)
    const moving = (order: 'top' | 'bottom' | 'none') =>
      count(14).map((i) =>
        drawn((line) => line, {
          across: 0,
          down: 0,
          scene: (x, y) => {
            const late = order !== 'none' && (y % 2 === 0) !== (order === 'top')
            return scene(i + (late ? 0.5 : 0))(x, y)
          },
        }),
      )
    expect(['top', 'bottom', 'none'].map((order) => fields(moving(order as 'top')))).toEqual([
      'combed, top-first',
      'combed, bottom-first',
      'clean, progressive',
    ])
  })

  it('are not told where nothing moves, not even over stripes of one line', () => {
    expect(fields(filmed(count(12).map(() => 0)))).toBe('cannot-tell, cannot-tell')
    const stripes = (_x: number, y: number) => (Math.floor(y) % 2 ? 60 : 190)
    expect(fields(filmed(count(12), { scene: stripes, across: 3, down: 0 }))).toBe('cannot-tell, cannot-tell')
    expect(fields(filmed(count(3)))).toBe('cannot-tell, cannot-tell')
  })
})

describe('repeats', () => {
  const shown = (holds: number[], phase = 0, frames = 60) => filmed(held(frames, holds, phase))

  it('have a pattern, a true rate, and the place of the first frame in it', () => {
    for (const phase of [0, 1, 2, 3, 4])
      expect(repeats(shown([2, 3], phase), '59.94')).toBe(`pattern 2:3 ${phase} 23.976`)
    expect(repeats(shown([2, 3], 3), '60')).toBe('pattern 2:3 3 24')
    expect(repeats(shown([2]), '50')).toBe('pattern 2:2 0 25')
    expect(repeats(shown([2], 1), '50')).toBe('pattern 2:2 1 25')
    expect(repeats(shown([1, 1, 1, 2], 2), '30')).toBe('pattern 1 in 5 2 24')
    expect(repeats(shown([3], 1), '75')).toBe('pattern 3:3 1 25')
    // What is reckoned is the place of the clip's own first frame, wherever the run begins.
    expect(repeats(shown([2, 3], 0), '60', 7)).toBe('pattern 2:3 3 24')
  })

  it('are none where every frame is new, and not told where all stand still or little moves', () => {
    expect(repeats(shown([1]), '25')).toBe('none 25')
    expect(repeats(filmed(count(40).map(() => 0)), '25')).toBe('cannot-tell')
    expect(repeats(filmed(count(40), { across: 0.05, down: 0 }), '25')).toBe('cannot-tell')
    expect(repeats(filmed(count(5)), '25')).toBe('cannot-tell')
  })

  it('come from an even row of another rate', () => {
    const row = count(75).map((i) => Math.floor((i * 24000) / 1001 / 25 + 1e-9))
    expect(repeats(filmed(row), '25')).toMatch(/^pattern (1 in 2[45] )?\d* ?2(4|3\.976)$/)
    const odd = held(60, [1, 2, 1, 1, 3, 1, 2, 2, 1, 4, 1, 1, 1, 2, 3, 1, 1, 2, 1])
    expect(repeats(filmed(odd), '50')).toMatch(/^irregular|^cannot-tell/)
  })

  it('are never called irregular where a pattern nearly holds: a codec has smeared it', () => {
    const smeared = [2, 3, 2, 3, 1, 4, 2, 3, 2, 3, 2, 3, 2, 3, 1, 4, 2, 3, 2, 3, 2, 3, 1, 4, 2, 3, 2, 3, 2, 3]
    expect(repeats(filmed(held(75, smeared)), '60')).toBe('cannot-tell')
    // Without any order they are irregular still.
    const none = [
      1, 4, 2, 1, 1, 3, 5, 1, 2, 2, 1, 3, 1, 1, 4, 1, 2, 5, 1, 1, 3, 2, 4, 1, 1, 2, 1, 5, 3, 1, 1, 2,
    ]
    expect(repeats(filmed(held(70, none)), '50')).toMatch(/^irregular/)
  })

  it('of a still in the midst of a clip are none', () => {
    const rest = [...count(25), ...count(25).map(() => 24), ...count(25).map((i) => 25 + i)]
    expect(repeats(filmed(rest), '25')).toBe('none 25')
  })

  it('and cuts are told apart', () => {
    const cut = [...filmed(count(20)), ...filmed(count(20), { scene: yard(3, 77) })]
    expect(said(cut).fieldOrder.verdict).toBe('progressive')
    expect(repeats(cut, '25')).toBe('none 25')
  })
})

describe('pulldown', () => {
  /** Film frames in the fields of video: AA BB BC CD DD from a place on. */
  const letters = [
    [0, 0],
    [1, 1],
    [1, 2],
    [2, 3],
    [3, 3],
  ] as const
  const pulled = (phase: number, topFirst: boolean, frames = 40) =>
    fielded(
      count(frames).map((i) => {
        const place = i + phase
        const [first, second] = letters[(place % 5) as 0].map((letter) => letter + 4 * Math.floor(place / 5))
        return topFirst ? [first!, second!] : [second!, first!]
      }),
    )

  it('is found in both orders, with its phase', () => {
    for (const phase of [0, 1, 2, 3, 4])
      for (const topFirst of [true, false]) {
        const evidence = said(pulled(phase, topFirst), '29.97')
        expect(evidence.pulldown).toEqual({ pattern: '2:3', phase })
        expect(evidence.fieldOrder.verdict).toBe(topFirst ? 'top-first' : 'bottom-first')
        expect(evidence.repeats).toMatchObject({ verdict: 'pattern', pattern: '2:3' })
        expect(rateName(evidence.repeats.trueRate!)).toBe('23.976')
      }
    expect(said(pulled(0, true), '29.97', 3).pulldown).toEqual({ pattern: '2:3', phase: 2 })
  })

  it('is not found where fields are of two moments each, or frames are whole', () => {
    expect(said(fielded(halves(40)), '29.97').pulldown).toBeNull()
    expect(said(filmed(count(40)), '29.97').pulldown).toBeNull()
    expect(said(filmed(held(40, [2, 3])), '60').pulldown).toBeNull()
  })
})

describe('baked bars', () => {
  const none = { top: 0, bottom: 0, left: 0, right: 0 }
  const found = (bars: typeof none, frames = 15, black = 16) => {
    const { confidence, ...sides } = said(filmed(count(frames)).map((luma) => barred(luma, bars, black))).bars
    return [sides, Number(confidence.toFixed(2))]
  }
  it('are told on each side, to the line', () => {
    expect(found(none)).toEqual([none, 1])
    const letterbox = { ...none, top: 16, bottom: 14 }
    expect(found(letterbox)).toEqual([letterbox, 1])
    expect(found({ ...none, left: 20, right: 22 }, 15, 0)).toEqual([{ ...none, left: 20, right: 22 }, 1])
    const window = { top: 12, bottom: 12, left: 16, right: 16 }
    expect(found(window)).toEqual([window, 1])
    expect(found(letterbox, 6)).toEqual([letterbox, 0.5])
  })
  it('are none of a card that is black, or of a picture that is dark at its edge', () => {
    const black = count(13).map(() => ({ width: 160, height: 128, data: new Uint8Array(160 * 128).fill(16) }))
    expect(said(black).bars).toMatchObject({ ...none, confidence: 0 })
    const vignette = (x: number, y: number) => 16 + (200 * Math.max(0, 64 - Math.abs(y - 64))) / 64 + x * 0
    const dark = said(filmed(count(13), { scene: vignette, across: 0, down: 0 })).bars
    expect({ ...dark, confidence: 0 }).toEqual({ ...none, confidence: 0 })
    expect(dark.confidence).toBeLessThan(1)
  })
})

describe('true detail', () => {
  const picture = (width: number, height: number, seed = 1) =>
    drawn(() => 0, { width, height, scene: stone(seed) })
  const detail = (frames: readonly Luma[]) => {
    const { verdict, width, height } = said(frames).detail
    return [verdict, width, height].filter((part) => part !== null).join(' ')
  }
  const from = (w: number, h: number, W: number, H: number, filter: 'bilinear' | 'bicubic') =>
    [1, 2, 3].map((seed) => enlarged(picture(w, h, seed), W, H, filter))

  it('of an enlarged picture is what it came from', () => {
    expect(detail(from(480, 320, 720, 480, 'bicubic'))).toBe('enlarged 480 320')
    expect(detail(from(640, 360, 960, 540, 'bilinear'))).toBe('enlarged 640 360')
    expect(detail(from(640, 360, 800, 450, 'bicubic'))).toBe('enlarged 640 360')
    // One axis alone only as it was recorded.
    expect(detail(from(640, 480, 960, 480, 'bicubic'))).toBe('cannot-tell')
    expect(detail(from(960, 720, 1280, 720, 'bicubic'))).toBe('enlarged 960 720')
  })

  it('is never told too small, and not at all of what is soft or small', () => {
    expect(detail([1, 2, 3].map((seed) => picture(720, 480, seed)))).toMatch(/^full 720 480$|^cannot-tell$/)
    const soft = [1, 2, 3].map((seed) => drawn(() => 0, { width: 720, height: 480, scene: yard(9, seed) }))
    expect(detail(soft)).toBe('cannot-tell')
    expect(detail(from(100, 80, 200, 160, 'bicubic'))).toBe('cannot-tell')
  })

  it('is not taken for enlarged by a wall of lights in a part of the picture', () => {
    const grain = stone(4)
    const wall = (x: number, y: number) =>
      x > 240 && x < 720 && y > 135 && y < 405 && x % 6 < 3.6 && y % 6 < 3.6 ? 200 : 40
    const scene = (x: number, y: number) =>
      x > 240 && x < 720 && y > 135 && y < 405 ? 0.3 * grain(x, y) + 0.7 * wall(x, y) : grain(x, y)
    expect(detail(filmed(count(3), { width: 960, height: 540, scene, across: 0, down: 0 }))).not.toMatch(
      /^enlarged/,
    )
  })
})

describe('a clip that is measured in runs', () => {
  const hd = { width: 1920, height: 1080 }
  it('is looked at in its middle and all over, or whole where it is short', () => {
    expect(samplingOf(0, hd)).toEqual([])
    expect(samplingOf(243, hd)).toEqual([{ first: 0, count: 243 }])
    const [long, ...short] = samplingOf(10_000, hd)
    expect(long).toEqual({ first: 4962, count: 75 })
    expect(short.map(({ count }) => count)).toEqual(Array(7).fill(24))
    expect(Math.max(...short.map(({ first, count }) => first + count))).toBeGreaterThan(8500)
  })

  it('is looked at nowhere twice, and never beyond its end', () => {
    for (const size of [hd, { width: 3840, height: 2160 }, { width: 7680, height: 4320 }])
      for (let frames = 1; frames < 700; frames++) {
        const seen = samplingOf(frames, size).flatMap(({ first, count }) =>
          Array.from({ length: count }, (_, i) => first + i),
        )
        expect(new Set(seen).size, `${frames} frames`).toBe(seen.length)
        expect(Math.min(...seen)).toBeGreaterThanOrEqual(0)
        expect(Math.max(...seen)).toBeLessThan(frames)
        expect(seen.length).toBeGreaterThanOrEqual(Math.min(frames, size.width > 4000 ? 25 : 75))
      }
  })

  it('is of one verdict where its runs agree, and mixed where they surely do not', () => {
    const runs = (parts: readonly (readonly Luma[])[]) => {
      const measuring = startMeasuring()
      parts.forEach((frames, r) => frames.forEach((luma, i) => measuring.frame(1000 * r + i, luma)))
      return measuring.finish(rate('25'))
    }
    const alike = runs([filmed(count(14)), filmed(count(14), { scene: yard(3, 4) })])
    expect(alike).toMatchObject({ frames: 28, fieldOrder: { verdict: 'progressive' }, mixed: [] })
    const mixed = runs([filmed(count(24)), fielded(halves(24))])
    expect(mixed.fieldOrder).toEqual({ verdict: 'cannot-tell', confidence: 0 })
    expect(mixed.combing.verdict).toBe('cannot-tell')
    expect(mixed.mixed).toEqual([
      { about: 'field order', first: 0, says: 'progressive' },
      { about: 'field order', first: 1000, says: 'top-first' },
    ])
  })

  it('says nothing of no frame, and nothing sure of one', () => {
    expect(startMeasuring().finish(null)).toMatchObject({ frames: 0, detail: { verdict: 'cannot-tell' } })
    expect(said(filmed([0]))).toMatchObject({ frames: 1, repeats: { verdict: 'cannot-tell' } })
  })
})
