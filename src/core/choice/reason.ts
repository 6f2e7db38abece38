import { percent, runningTime } from '../words/figures'
import { type Format, formatName, pixelSizeName } from '../format/format'
import { rateName, rateWithScan } from '../rate/rate'
import { toNumber } from '../rational/rational'
import type { Charge, ChargeKind } from '../toll/charge'
import { sentence } from '../toll/sentence'
import type { Out, OutTerm, Pricing } from './outgoing'
import { type Fare, emptyOut, faresIn } from './price'
import { fastest } from './rates'
import type { Bloc } from './bloc'

/** Why a format stands where it stands: what stays untouched, what costs most, and what is lost after the timeline. */
export function reasonFor(format: Format, blocs: readonly Bloc[], pricing: Pricing): string {
  const fares = faresIn(format, blocs, pricing)
  const outs = fares.length > 0 ? fares.map(({ out }) => out) : [emptyOut(format, pricing)]
  return [untouched(fares), dearest(fares), ...after(format, outs, pricing), ...filmedOtherwise(blocs)]
    .filter(Boolean)
    .join(' ')
}

function untouched(fares: readonly Fare[]): string {
  const total = fares.reduce((sum, { bloc }) => sum + bloc.weight, 0)
  if (total === 0) return 'No footage votes.'
  const free = fares.filter(({ toll }) => toll.grade === 'free')
  const share = free.reduce((sum, { bloc }) => sum + bloc.weight, 0) / total
  const seconds = free.reduce((sum, { bloc }) => sum + bloc.seconds, 0)
  if (share === 0) return 'Nothing stays untouched.'
  if (share > 1 - 1e-9) return 'All footage stays untouched.'
  return `${percent(share)} stays untouched (${runningTime(seconds)}).`
}

/** What counts less, since it was filmed to be slowed or sped up. */
const filmedOtherwise = (blocs: readonly Bloc[]): string[] =>
  ['slowed', 'sped up'].map((becomes) => {
    const meant = blocs.filter(
      ({ frameForFrame, picture: { rate } }) =>
        frameForFrame !== undefined && rate && toNumber(rate) > fastest === (becomes === 'slowed'),
    )
    const rates = [
      ...new Set(meant.map(({ picture: { rate, scan } }) => (rate ? rateWithScan(rate, scan) : ''))),
    ]
    return rates.length > 0
      ? `Filmed to be ${becomes}, ${rates.join(' and ')} ${rates.length > 1 ? 'count' : 'counts'} ${percent(meant[0]?.frameForFrame ?? 1)}.`
      : ''
  })

/** The kind of charge that loses most over all footage, with its time and its worst case. */
function dearest(fares: readonly Fare[]): string {
  const byKind = new Map<
    ChargeKind,
    { loss: number; seconds: number; worst: { charge: Charge; bloc: Bloc; loss: number } }
  >()
  for (const { bloc, toll } of fares) {
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

/** What is lost after the timeline, in one sentence a reason; the delivery that costs most stands for all. */
function after(format: Format, outs: readonly Out[], { deliverables, mains }: Pricing): string[] {
  const terms = outs.flatMap((out) => out.terms)
  const dearestOf = (kind: OutTerm['kind']) =>
    terms
      .filter((term) => term.kind === kind)
      .reduce<OutTerm | null>((worst, term) => (!worst || term.loss > worst.loss ? term : worst), null)
  if (deliverables.length > 0) {
    const worst = dearestOf('delivery')
    if (!worst?.to || worst.charges.length === 0) return ['Delivered as it is.']
    return [`Delivered as ${formatName(worst.to)}: ${worst.charges.map(sentence).join('; ')}.`]
  }
  const screen = dearestOf('screen')
  return [
    screen ? `Seen on an HD screen it is ${screen.charges.map(sentence).join('; ')}.` : '',
    dearestOf('interlaced') ? 'Interlaced, and screens are progressive.' : '',
    dearestOf('region') ? `${rateName(format.rate)} is foreign where mains have ${mains} Hz.` : '',
  ]
}
