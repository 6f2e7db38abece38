import { type Doc, formatOf, weightsOf } from '../model/project'
import { settlePlacement } from '../plan/running'
import type { Placement, Timeline } from '../model/timeline'
import { differencesOf } from '../format/compare'
import type { Format } from '../format/format'
import { fitPicture } from '../framing/framing'
import { mixedShare } from '../motion/mixed'
import { everyFrame } from '../motion/speed'
import type { Picture } from '../picture/picture'
import { filmRate } from '../rate/rate'
import { equal, multiply, rational, toNumber } from '../rational/rational'
import { type Toll, tollFrom } from '../toll/charge'
import { type Grade, worse } from '../toll/grade'
import { aspectOfCharge, shortWords } from '../toll/sentence'
import { settleToll } from '../toll/toll'
import type { Aspect } from '../toll/words'
import type { Fields, Motion, Override, Phase, Treatment } from '../treatment/treatment'
import { treated } from '../treatment/treatment'
import { figure, percent, speedWords, timesLonger } from '../words/figures'

/** What of a treatment is chosen together. */
export type ChoiceGroup = 'framing' | 'reduction' | 'fields' | 'motion' | 'quality' | 'colour'

/** One way that placements in hand can be treated, with what it does and what it costs. */
export interface Choice {
  readonly group: ChoiceGroup
  /** The same for the same choice, whatever is in hand. */
  readonly id: string
  readonly name: string
  readonly set: Override
  /** What it does to them, in figures; of several that differ, of the first. */
  readonly does: string
  /** What its side of the toll comes to, over the running time of all in hand; the whole toll beside it. */
  readonly price: { readonly grade: Grade; readonly loss: number }
  readonly whole: { readonly grade: Grade; readonly loss: number }
  /** By how many it is taken of those in hand that it is for. */
  readonly taken: 'all' | 'some' | 'none'
}

/** The charges that a group of choices decides about. */
const sides: Readonly<Record<ChoiceGroup, readonly Aspect[]>> = {
  framing: ['size'],
  reduction: ['size'],
  fields: ['fields', 'motion'],
  motion: ['motion', 'fields'],
  quality: [],
  colour: ['colour'],
}

/** A choice before it is priced: what it sets, and what of a treatment says that it is taken. */
interface Offer {
  readonly group: ChoiceGroup
  readonly id: string
  readonly name: string
  readonly set: Override
}

const framings = ['fit', 'fill', 'stretch', 'one-to-one'] as const
const filters = ['nearest', 'bilinear', 'bicubic', 'lanczos'] as const
const filterNames = {
  nearest: 'nearest',
  bilinear: 'bilinear',
  bicubic: 'bicubic',
  lanczos: 'Lanczos',
} as const
const methods = ['adaptive', 'interpolate', 'single'] as const
const methodNames = { adaptive: 'adaptive', interpolate: 'interpolate', single: 'single field' } as const
const colours = ['auto', 'none', 'matrix', 'hdr-to-sdr', 'sdr-to-hdr', 'pq-to-hlg', 'hlg-to-pq'] as const
const colourNames = {
  auto: 'what is needed',
  none: 'none, values as they are',
  matrix: 'the matrix alone',
  'hdr-to-sdr': 'high to standard range',
  'sdr-to-hdr': 'standard to high range',
  'pq-to-hlg': 'PQ to HLG',
  'hlg-to-pq': 'HLG to PQ',
} as const

const motionOffer = (id: string, name: string, motion: Motion): Offer => ({
  group: 'motion',
  id: `motion ${id}`,
  name,
  set: { motion },
})
const fieldsOffer = (id: string, name: string, fields: Fields): Offer => ({
  group: 'fields',
  id: `fields ${id}`,
  name,
  set: { fields },
})

/** What can be chosen for a picture in a format; what would be without any sense there is not offered. */
function offersFor(picture: Picture, format: Format, { motion }: Treatment): Offer[] {
  const offers: Offer[] = framings.map((kind) => ({
    group: 'framing',
    id: `framing ${kind}`,
    name: kind === 'one-to-one' ? 'one to one' : kind,
    set: { framing: { mode: { kind } } },
  }))
  const { scaleX, scaleY } = fitPicture(picture, format)
  if (Math.min(scaleX, scaleY) < 1)
    for (const reduction of ['kept', 'baked'] as const)
      offers.push({ group: 'reduction', id: reduction, name: reduction, set: { framing: { reduction } } })
  offers.push(...fieldOffers(picture, format), ...motionOffers(picture, format, motion))
  for (const filter of filters)
    offers.push({ group: 'quality', id: filter, name: filterNames[filter], set: { framing: { filter } } })
  if (differencesOf(picture, format).some(({ about }) => about === 'colour'))
    for (const colour of colours.filter((conversion) => fits(conversion, picture, format)))
      offers.push({ group: 'colour', id: `colour ${colour}`, name: colourNames[colour], set: { colour } })
  return offers
}

/** Whether a named conversion goes from what a picture is to what a format is. */
function fits(colour: (typeof colours)[number], { transfer }: Picture, { colour: to }: Format): boolean {
  const hdr = (name: string | null) => name === 'pq' || name === 'hlg'
  switch (colour) {
    case 'hdr-to-sdr':
      return hdr(transfer) && !hdr(to.transfer)
    case 'sdr-to-hdr':
      return !hdr(transfer) && hdr(to.transfer)
    case 'pq-to-hlg':
      return transfer === 'pq' && to.transfer === 'hlg'
    case 'hlg-to-pq':
      return transfer === 'hlg' && to.transfer === 'pq'
    default:
      return true
  }
}

function fieldOffers({ scan, rate }: Picture, format: Format): Offer[] {
  const auto = fieldsOffer('auto', 'as costs least', { kind: 'auto' })
  if (!rate) return []
  if (scan !== 'interlaced')
    return format.scan === 'interlaced'
      ? [
          auto,
          fieldsOffer('from-frames', 'a field from each frame', { kind: 'from-frames' }),
          fieldsOffer('weave', 'whole frames', { kind: 'weave' }),
        ]
      : []
  return [
    auto,
    fieldsOffer('weave', 'weave', { kind: 'weave' }),
    ...methods.flatMap((method) => [
      fieldsOffer(`${method} same`, `${methodNames[method]}, same rate`, {
        kind: 'deinterlace',
        method,
        rate: { kind: 'same', keep: 'first' },
      }),
      fieldsOffer(`${method} double`, `${methodNames[method]}, double rate`, {
        kind: 'deinterlace',
        method,
        rate: { kind: 'double' },
      }),
    ]),
    fieldsOffer('blend', 'blend', { kind: 'blend' }),
  ]
}

function motionOffers({ rate, pulldownPhase }: Picture, format: Format, motion: Motion): Offer[] {
  if (!rate) return []
  const speed = (pace: Extract<Motion, { kind: 'speed' }>['pace']): Motion => ({
    kind: 'speed',
    pace,
    wanted: false,
    keepPitch: true,
  })
  const phase = (kind: 'pulldown' | 'remove-pulldown'): Phase =>
    motion.kind === kind ? motion.phase : kind === 'remove-pulldown' ? ((pulldownPhase ?? 0) as Phase) : 0
  const isFilmIn = equal(multiply(rate, rational(5, 4)), format.rate)
  const isPulledDown = pulldownPhase !== null || equal(filmRate(rate), format.rate)
  const differs = !equal(rate, format.rate)
  return [
    motionOffer('auto', 'as it lands', { kind: 'auto' }),
    motionOffer('hold', 'hold', { kind: 'hold' }),
    motionOffer('blend', 'blend', { kind: 'blend' }),
    ...(differs ? [motionOffer('every-frame', 'every frame once', speed({ kind: 'every-frame' }))] : []),
    motionOffer('factor', 'another speed', speed({ kind: 'factor', factor: factorOf(motion) })),
    ...(isFilmIn || motion.kind === 'pulldown'
      ? [motionOffer('pulldown', '2:3 pulldown', { kind: 'pulldown', phase: phase('pulldown') })]
      : []),
    ...(isPulledDown || motion.kind === 'remove-pulldown'
      ? [
          motionOffer('remove-pulldown', '2:3 pulldown out', {
            kind: 'remove-pulldown',
            phase: phase('remove-pulldown'),
          }),
        ]
      : []),
  ]
}

const factorOf = (motion: Motion) =>
  motion.kind === 'speed' && motion.pace.kind === 'factor' ? motion.pace.factor : rational(1, 2)

/** Whether a treatment is one that an offer sets; how a speed is meant, and which field is kept, is told elsewhere. */
function isTaken({ id, set }: Offer, treatment: Treatment): boolean {
  const { framing, motion, fields, colour } = treatment
  if (set.framing?.mode) return set.framing.mode.kind === framing.mode.kind
  if (set.framing?.reduction) return set.framing.reduction === framing.reduction
  if (set.framing?.filter) return set.framing.filter === framing.filter
  if (set.colour) return set.colour === colour
  if (set.fields) return id === `fields ${fieldsId(fields)}`
  return set.motion !== undefined && id === `motion ${motionId(motion)}`
}

const fieldsId = (fields: Fields): string =>
  fields.kind === 'deinterlace' ? `${fields.method} ${fields.rate.kind}` : fields.kind
const motionId = (motion: Motion): string => (motion.kind === 'speed' ? motion.pace.kind : motion.kind)

/** What a choice does to a picture, short and in figures. */
function doesWords(offer: Offer, picture: Picture, format: Format, treatment: Treatment, toll: Toll): string {
  const { group, set } = offer
  switch (group) {
    case 'framing': {
      const fit = fitPicture(picture, format, treatment.framing)
      const parts = [
        fit.barsShare > 1e-9 && `bars ${percent(fit.barsShare)}`,
        fit.cropShare > 1e-9 && `cuts ${percent(fit.cropShare)}`,
        Math.abs(fit.distortion - 1) > 1e-9 && `distorts ${figure(fit.distortion, 3)}`,
      ].filter(Boolean)
      return parts.join(', ') || 'whole'
    }
    case 'reduction': {
      const { scaleX, scaleY } = fitPicture(picture, format, { ...treatment.framing, zoom: rational(1) })
      const room = Math.min(1 / scaleX, 1 / scaleY)
      return set.framing?.reduction === 'kept' ? `sharp to a zoom of ${percent(room)}` : 'sharp to 100 %'
    }
    case 'motion':
      return motionDoes(treatment.motion, picture, format, toll)
    case 'quality':
      return set.framing?.filter === 'lanczos' ? 'sharpest' : ''
    default:
      return saidOf(toll, sides[group].slice(0, 1))
  }
}

function motionDoes(motion: Motion, { rate }: Picture, format: Format, toll: Toll): string {
  if (!rate) return ''
  if (motion.kind === 'blend') return `mixed ${percent(mixedShare(rate, format.rate))}`
  if (motion.kind === 'speed') {
    const { speed } =
      motion.pace.kind === 'factor' ? { speed: motion.pace.factor } : everyFrame(rate, format.rate)
    const x = toNumber(speed)
    return motion.pace.kind === 'factor' ? `at ${percent(x)}` : `${speedWords(x)}, × ${timesLonger(x)} long`
  }
  return saidOf(toll, ['motion'])
}

/** What charges of some aspects say, as labels. */
const saidOf = (toll: Toll, aspects: readonly Aspect[]): string =>
  toll.charges
    .filter(({ kind }) => aspects.includes(aspectOfCharge(kind)))
    .map(shortWords)
    .join(', ')

/** The part of a toll that some aspects make. */
const sideOf = (toll: Toll, aspects: readonly Aspect[]) =>
  tollFrom(toll.charges.filter(({ kind }) => aspects.includes(aspectOfCharge(kind))))

/** What can be chosen for placements in hand: what each does, what it costs, and what is taken. Sound has nothing to choose. */
export function choicesOf(doc: Doc, timeline: Timeline, placements: readonly Placement[]): Choice[] {
  const format = formatOf(doc, timeline)
  if (!format) return []
  const weights = weightsOf(doc.project)
  const choicesByKey = new Map<
    string,
    { choice: Omit<Choice, 'price' | 'whole' | 'taken'>; parts: Priced[] }
  >()
  for (const placement of placements) {
    const { picture, treatment } = settlePlacement(doc, timeline, placement, format)
    if (!picture) continue
    for (const offer of offersFor(picture, format, treatment)) {
      const as = treated([offer.set], treatment)
      const { toll } = settleToll(picture, format, as, weights)
      const side = sideOf(toll, sides[offer.group])
      const part = { side, toll, frames: placement.length, isTaken: isTaken(offer, treatment) }
      const known = choicesByKey.get(offer.id)
      if (known) known.parts.push(part)
      else
        choicesByKey.set(offer.id, {
          choice: { ...offer, does: doesWords(offer, picture, format, as, toll) },
          parts: [part],
        })
    }
  }
  return [...choicesByKey.values()].map(({ choice, parts }) => {
    const taken = parts.filter((part) => part.isTaken).length
    return {
      ...choice,
      price: meanOf(parts, ({ side }) => side),
      whole: meanOf(parts, ({ toll }) => toll),
      taken: taken === parts.length ? 'all' : taken > 0 ? 'some' : 'none',
    }
  })
}

interface Priced {
  readonly side: Toll
  readonly toll: Toll
  readonly frames: number
  readonly isTaken: boolean
}

/** The worst grade, and the loss over the running time. */
function meanOf(parts: readonly Priced[], tollOfPart: (part: Priced) => Toll): Choice['price'] {
  const frames = parts.reduce((sum, part) => sum + part.frames, 0)
  return {
    grade: parts.reduce<Grade>((grade, part) => worse(grade, tollOfPart(part).grade), 'free'),
    loss: parts.reduce((sum, part) => sum + tollOfPart(part).loss * part.frames, 0) / Math.max(1, frames),
  }
}
