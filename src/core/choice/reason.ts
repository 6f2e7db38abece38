import { type Format, formatName, pixelSizeName } from '../format/format'
import { rateWithScan } from '../rate/rate'
import type { Charge, ChargeKind, Toll } from '../toll/charge'
import type { Policy } from '../toll/policy'
import { percent, sentence } from '../toll/sentence'
import { pictureOfFormat, tollOf } from '../toll/toll'
import { plainTreatment } from '../toll/treatment'
import type { Bloc } from './vote'

interface Priced {
  readonly bloc: Bloc
  readonly toll: Toll
}

/** A running time for reading: `38 s`, `4 min 12 s`, `1 h 05 min`. */
export function runningTime(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole < 60) return `${seconds < 10 ? Number(seconds.toFixed(1)) : whole} s`
  if (whole < 3600) return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`
  return `${Math.floor(whole / 3600)} h ${String(Math.floor(whole / 60) % 60).padStart(2, '0')} min`
}

/** Why a format stands where it stands: what stays untouched, what costs most, and what delivery adds. */
export function reasonFor(
  format: Format,
  blocs: readonly Bloc[],
  deliverables: readonly Format[],
  policy: Policy,
): string {
  const priced = blocs.map((bloc) => ({ bloc, toll: tollOf(bloc.picture, format, plainTreatment, policy) }))
  return [untouched(priced), dearest(priced), delivered(format, deliverables, policy)]
    .filter(Boolean)
    .join(' ')
}

function untouched(priced: readonly Priced[]): string {
  const total = priced.reduce((sum, p) => sum + p.bloc.weight, 0)
  if (total === 0) return 'No footage votes.'
  const free = priced.filter((p) => p.toll.grade === 'free')
  const share = free.reduce((sum, p) => sum + p.bloc.weight, 0) / total
  const seconds = free.reduce((sum, p) => sum + p.bloc.seconds, 0)
  if (share === 0) return 'Nothing stays untouched.'
  if (share > 1 - 1e-9) return 'All footage stays untouched.'
  return `${percent(share)} stays untouched (${runningTime(seconds)}).`
}

/** The kind of charge that loses most over all footage, with its time and its worst case. */
function dearest(priced: readonly Priced[]): string {
  const byKind = new Map<
    ChargeKind,
    { loss: number; seconds: number; worst: { charge: Charge; bloc: Bloc; loss: number } }
  >()
  for (const { bloc, toll } of priced) {
    for (const charge of toll.charges) {
      const loss = charge.loss * bloc.weight
      const entry = byKind.get(charge.kind)
      if (!entry) byKind.set(charge.kind, { loss, seconds: bloc.seconds, worst: { charge, bloc, loss } })
      else {
        entry.loss += loss
        entry.seconds += bloc.seconds
        if (loss > entry.worst.loss) entry.worst = { charge, bloc, loss }
      }
    }
  }
  const [top] = [...byKind.values()].sort((a, b) => b.loss - a.loss)
  if (!top || top.loss === 0) return ''
  const { picture } = top.worst.bloc
  const clip =
    `${pixelSizeName(picture)} ${picture.rate ? rateWithScan(picture.rate, picture.scan) : ''}`.trim()
  return `Dearest over ${runningTime(top.seconds)}: ${clip} ${sentence(top.worst.charge)}.`
}

function delivered(format: Format, deliverables: readonly Format[], policy: Policy): string {
  if (deliverables.length === 0) return ''
  const costs = deliverables.map((d) => ({
    d,
    toll: tollOf(pictureOfFormat(format), d, plainTreatment, policy),
  }))
  const [worst] = costs.sort((a, b) => b.toll.loss - a.toll.loss)
  if (worst.toll.charges.length === 0) return 'Delivered as it is.'
  return `Delivered as ${formatName(worst.d)}: ${worst.toll.charges.map(sentence).join('; ')}.`
}
