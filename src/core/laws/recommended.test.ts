import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { footage } from '../choice/bloc.fixture'
import { proposed } from '../choice/proposed'
import { rank } from '../choice/rank'
import { plainly } from '../choice/untreated'
import { formatText, pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import type { Picture } from '../picture/picture'
import { rational } from '../rational/rational'
import { Ranking, defaultPolicy, defaultWeights } from '../toll/policy'
import { tollOf } from '../toll/toll'
import { type Override, plainTreatment, treated } from '../treatment/treatment'

/** Random mixes and clips; `LAWS=100000` for as many. */
const runs = Number(process.env.LAWS ?? 300)
const longest = 40_000 + runs * 40

const format = (text: string) => parseFormat(text)!.format
const sizes = [
  '1920x1080',
  '3840x2160',
  '1280x720',
  '2048x1080',
  '4096x2160',
  '2704x1520',
  '1440x1080/4:3',
  '720x576/16:15',
  '720x480/32:27',
  '1080x1920',
  '2160x3840',
  '1440x900',
  '1080x1080',
  '640x480',
  '5120x2880',
  '3840x2160/4:3',
]
const rates = [
  '23.976p',
  '24p',
  '25p',
  '29.97p',
  '30p',
  '48p',
  '50p',
  '59.94p',
  '60p',
  '100p',
  '119.88p',
  '9p',
  '12.5p',
  '15p',
  '50i',
  '59.94i',
]
/** What the trade sets up, upright or lying; a tape's frame counts where it was recorded. */
const usual = new Set(
  ['1920x1080', '3840x2160', '1280x720', '2048x1080', '4096x2160', '7680x4320'].flatMap((size) => [
    size,
    size.split('x').reverse().join('x'),
  ]),
)
const sizeIn = (text: string) => text.split('@')[0]!

const clip = fc.tuple(fc.constantFrom(...sizes), fc.constantFrom(...rates)).map((parts) => parts.join('@'))
const mixes = fc.array(fc.tuple(fc.integer({ min: 1, max: 99 }), clip), { minLength: 1, maxLength: 7 })
const delivered = fc.array(
  fc
    .tuple(
      fc.constantFrom('1920x1080', '3840x2160', '1080x1920', '1080x1080', '1280x720'),
      fc.constantFrom('25p', '50i', '29.97p', '59.94p', '23.976p'),
    )
    .map((parts) => parts.join('@')),
  { maxLength: 2 },
)

describe('what is put first', () => {
  it(
    'is a size that is usual, or delivered, or nearly all of the footage, however it is mixed',
    () => {
      fc.assert(
        fc.property(
          mixes,
          delivered,
          fc.constantFrom(...Ranking.options),
          fc.constantFrom(50, 60, null),
          (mix, deliver, lean, mains) => {
            const blocs = footage(mix.map(([weight, text]) => `${weight} ${text}`).join(', '))
            const [first] = rank(blocs, {
              policy: defaultPolicy,
              lean,
              mains,
              deliverables: deliver.map(format),
              explained: 0,
            })
            const size = sizeIn(formatText(first!.format))
            if (usual.has(size) || deliver.some((text) => sizeIn(text) === size)) return
            // Filmed to be slowed or sped up counts a tenth beside what is not.
            const isOther = (text: string) => /@(100|119\.88|9|12\.5|15)p/.test(text)
            const own = mix.reduce((sum, [weight, text]) => sum + (isOther(text) ? 0 : weight), 0)
            const all = mix.reduce((sum, [weight]) => sum + weight, 0)
            const counts = ([weight, text]: readonly [number, string]) =>
              isOther(text) && own >= all / 20 ? weight / 10 : weight
            const total = mix.reduce((sum, each) => sum + counts(each), 0)
            const shown = (text: string) => {
              const { width, height, pixelAspect } = format(text)
              const square = Math.floor((width * pixelAspect.num) / pixelAspect.den / 2 + 0.5) * 2
              return [sizeIn(text), `${square}x${height}`]
            }
            const held = mix
              .filter(([, text]) => shown(text).includes(size))
              .reduce((sum, each) => sum + counts(each), 0)
            expect(held / total, size).toBeGreaterThanOrEqual((lean === 'majority' ? 0.5 : 0.9) - 1e-9)
          },
        ),
        { numRuns: runs },
      )
    },
    longest,
  )
})

const motions: readonly Override[] = [
  { motion: { kind: 'auto' } },
  { motion: { kind: 'hold' } },
  { motion: { kind: 'blend' } },
]
const fields: readonly Override[] = [
  {},
  { fields: { kind: 'from-frames' } },
  ...(['adaptive', 'interpolate', 'single'] as const).flatMap((method): Override[] => [
    { fields: { kind: 'deinterlace', method, rate: { kind: 'double' } } },
    { fields: { kind: 'deinterlace', method, rate: { kind: 'same', keep: 'first' } } },
  ]),
]
const framings: readonly Override[] = [{}, { framing: { mode: { kind: 'fill' } } }]

/** The least that a clip can lose whole or filling the frame, at its own length. */
function leastLoss(picture: Picture, into: string): number {
  let least = 1
  for (const motion of motions)
    for (const field of fields)
      for (const framing of framings) {
        const { loss } = tollOf(picture, format(into), treated([motion, field, framing], plainTreatment))
        if (loss < least) least = loss
      }
  return least
}

describe('what is proposed', () => {
  it(
    'never mixes or stretches, changes no speed but of near rates, and says where something loses less',
    () => {
      const into = fc
        .tuple(
          fc.constantFrom('1920x1080', '3840x2160', '1440x1080/4:3', '1080x1920', '720x576/16:15'),
          fc.constantFrom('23.976p', '24p', '25p', '29.97p', '50p', '59.94p', '50i', '59.94i'),
        )
        .map((parts) => parts.join('@'))
      fc.assert(
        fc.property(clip, into, fc.boolean(), fc.boolean(), (own, timeline, isSlowed, varies) => {
          const picture = { ...pictureOfFormat(format(own)), ...(varies ? { offNominalShare: 0.05 } : {}) }
          const untreated = { ...plainly(picture), captureRate: isSlowed ? rational(240) : null }
          const found = proposed(untreated, format(timeline), plainTreatment, defaultWeights)
          const { set, toll, way, less } = found
          expect('mixed' in way.taking && way.taking.mixed).toBe(false)
          expect(set.framing?.mode?.kind ?? 'fit').toMatch(/^(fit|fill)$/)
          if (set.motion?.kind === 'speed' && !isSlowed) {
            const [from, to] = [own, timeline].map((text) => {
              const { rate } = format(text)
              return rate.num / rate.den
            }) as [number, number]
            const isFilm = (rate: number) =>
              [24000 / 1001, 24, 25].some((film) => Math.abs(rate - film) < 1e-9)
            expect(Math.abs(to / from - 1) <= 0.0011 || (isFilm(from) && isFilm(to))).toBe(true)
          }
          const least = leastLoss(picture, timeline)
          if (least < toll.loss - 1e-9) expect(less?.toll.loss).toBeLessThanOrEqual(least + 1e-9)
          if (less) expect(less.toll.loss).toBeLessThan(toll.loss)
        }),
        { numRuns: runs },
      )
    },
    longest,
  )
})
