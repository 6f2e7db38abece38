import * as z from 'zod'
import { Format, formatName } from '../format/format'
import { Rate } from '../rate/rate'
import { exactly, rational } from '../rational/rational'
import { defaultPolicy } from '../toll/policy'
import { type Override, noSides } from '../treatment/treatment'

/**
 * The shape of what is stored has a version; older rows and files become new ones here, one step a version, for the
 * database and the project file alike. A row that is no object is given back as it is: its schema will say so.
 */
export const storedVersion = 4

type Row = Record<string, unknown>
const isRow = (value: unknown): value is Row =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** The rows of a project as they were stored, whatever they hold. */
export interface StoredRows {
  readonly project: unknown
  readonly clips: readonly unknown[]
  readonly timelines: readonly unknown[]
  readonly leftAside: readonly unknown[]
}

/** Each version's step to the next. */
const steps: Readonly<Record<number, (rows: StoredRows) => StoredRows>> = {
  1: (rows) => ({ ...rows, project: projectFrom1(rows.project) }),
  2: (rows) => ({
    ...rows,
    project: projectFrom2(rows.project),
    timelines: rows.timelines.map((row) => timelineFrom2(row, rows.project)),
  }),
  3: (rows) => ({ ...rows, project: projectFrom3(rows.project) }),
}

/** Brings the rows of a project from a version to a later one, today's where none is said. */
export function migrated(rows: StoredRows, version: number, to = storedVersion): StoredRows {
  let brought = rows
  for (let v = version; v < to; v++) brought = steps[v]?.(brought) ?? brought
  return brought
}

/** Whether rows of a version can be brought to today's. */
export const canMigrate = (version: number): boolean => version === storedVersion || version in steps

/** A project of version 1: one weight a charge, and leans that were not its own. */
function projectFrom1(row: unknown): unknown {
  if (!isRow(row)) return row
  const { policy, ...rest } = row
  return isRow(policy) ? { ...rest, policy: policyFrom1(policy) } : rest
}

/** Own weights of version 1 are kept where their charge still is. */
function policyFrom1(old: Row): Row {
  const { unusedDetail, barsOrCrop, evenHold, evenSkip, ...kept } = old
  const { balanced, sharp, detail } = defaultPolicy.leans
  const own = <T>(value: unknown, usual: T, carried = (known: number) => known) =>
    z.number().min(0).max(1).safeParse(value).success ? carried(value as number) : usual
  // One weight was for bars and crop, under every lean; half of it under detail, as bars lose no pixel.
  const changedBars = own(barsOrCrop, 0.5) !== 0.5
  const bars = (lean: { bars: number }, share = 1) =>
    changedBars ? own(barsOrCrop, lean.bars) * share : lean.bars
  return {
    ...kept,
    leans: {
      balanced: { ...balanced, unused: own(unusedDetail, balanced.unused), bars: bars(balanced) },
      sharp: { ...sharp, bars: bars(sharp) },
      detail: { ...detail, bars: bars(detail, 0.5) },
    },
    crop: own(barsOrCrop, defaultPolicy.crop),
    // Holding was one price; it follows the share of repeated frames now, and 25 in 50 costs what it did.
    repeat: own(evenHold, defaultPolicy.repeat, (known) => Math.min(1, known * 2)),
    skip: own(evenSkip, defaultPolicy.skip),
  }
}

/** A project of version 2: deliveries were formats without a name. */
function projectFrom2(row: unknown): unknown {
  if (!isRow(row) || !Array.isArray(row.deliverables)) return row
  const deliverables = row.deliverables.map((delivered: unknown, i) => {
    const format = Format.safeParse(delivered)
    return {
      id: `delivery-${i + 1}`,
      name: format.success ? formatName(format.data) : `Delivery ${i + 1}`,
      timelineId: null,
      format: delivered,
      wrapper: null,
      video: null,
      sound: null,
      treatment: {},
    }
  })
  return { ...row, deliverables }
}

/**
 * A project of version 3: a weight that was as usual then is as usual today; one that was the editor's own stays. Deinterlacing was priced
 * by its rate and is by its method.
 */
function projectFrom3(row: unknown): unknown {
  if (!isRow(row) || !isRow(row.policy)) return row
  const { deinterlaceSameRate: _same, deinterlaceDoubleRate: double, ...policy } = row.policy
  const { detail, ...leans } = isRow(policy.leans) ? policy.leans : {}
  return {
    ...row,
    policy: {
      ...withoutUsual(policy, { skip: 0.05 }),
      ...(double === undefined || double === 0.08 ? {} : { deinterlaceAdaptive: double }),
      leans: isRow(detail) ? { ...leans, detail: withoutUsual(detail, { invented: 0.3 }) } : leans,
    },
  }
}

/** A row without the numbers that were usual, so that its schema puts today's. */
const withoutUsual = (row: Row, usual: Readonly<Record<string, number>>): Row =>
  Object.fromEntries(Object.entries(row).filter(([key, value]) => value !== usual[key]))

/** A timeline of version 2: its frames belonged to whatever format it ran in, and every treatment was written whole. */
function timelineFrom2(row: unknown, project: unknown): unknown {
  if (!isRow(row) || !Array.isArray(row.tracks)) return row
  const numbers = { video: 0, audio: 0 }
  const tracks = row.tracks.map((track: unknown) => {
    if (!isRow(track)) return track
    const kind = track.kind === 'audio' ? 'audio' : 'video'
    const name = `${kind === 'video' ? 'V' : 'A'}${++numbers[kind]}`
    const placements = Array.isArray(track.placements) ? track.placements.map(placementFrom2) : []
    return { ...track, name, placements }
  })
  const placed = tracks.some((track) => isRow(track) && (track.placements as unknown[]).length > 0)
  const rate = rateIn(row.ownFormat) ?? rateIn(isRow(project) ? project.format : null)
  // Frames that belonged to no rate are taken as those of the most common one.
  return { ...row, rate: rate ?? (placed ? rational(25) : null), tracks }
}

const rateIn = (format: unknown): Rate | null =>
  isRow(format) ? (Rate.safeParse(format.rate).data ?? null) : null

function placementFrom2(placement: unknown): unknown {
  if (!isRow(placement)) return placement
  const { clipId, treatment, ...rest } = placement
  return {
    ...rest,
    source: { kind: 'clip', clipId },
    treatment: isRow(treatment) ? treatmentFrom2(treatment) : {},
  }
}

/** What of an old treatment was not as everybody's; the numbers of old were what an editor typed. */
function treatmentFrom2(old: Row): Override {
  const number = (value: unknown, usual: number) =>
    typeof value === 'number' && Number.isFinite(value) ? value : usual
  const zoom = number(old.zoom, 1)
  const position = isRow(old.position) ? old.position : {}
  const [x, y] = [number(position.x, 0), number(position.y, 0)]
  const cropped = isRow(old.crop) ? old.crop : {}
  const crop = Object.fromEntries(
    Object.keys(noSides).map((side) => [side, Math.max(0, number(cropped[side], 0))]),
  ) as typeof noSides
  const mode = framingFrom2(old.framing)
  const framing: Override['framing'] = {
    ...(mode ? { mode } : {}),
    ...(zoom > 0 && zoom !== 1 ? { zoom: exactly(zoom) } : {}),
    ...(x !== 0 || y !== 0 ? { position: { x: exactly(x), y: exactly(y) } } : {}),
    ...(Object.values(crop).some((side) => side > 0) ? { crop } : {}),
  }
  const motion = motionFrom2(old)
  const fields = fieldsFrom2(old.fields)
  return {
    ...(Object.keys(framing).length > 0 ? { framing } : {}),
    ...(motion ? { motion } : {}),
    ...(fields ? { fields } : {}),
  }
}

/** Null: as everybody's. */
const framingFrom2 = (framing: unknown) =>
  framing === 'fill' || framing === 'stretch'
    ? ({ kind: framing } as const)
    : framing === 'native'
      ? ({ kind: 'one-to-one' } as const)
      : null

const motionFrom2 = ({ motion, speedWanted }: Row) =>
  motion === 'blend'
    ? ({ kind: 'blend' } as const)
    : motion === 'every-frame'
      ? ({
          kind: 'speed',
          pace: { kind: 'every-frame' },
          wanted: speedWanted === true,
          keepPitch: false,
        } as const)
      : null

const fieldsFrom2 = (fields: unknown) =>
  fields === 'weave'
    ? ({ kind: 'weave' } as const)
    : fields === 'same-rate'
      ? ({ kind: 'deinterlace', method: 'adaptive', rate: { kind: 'same', keep: 'first' } } as const)
      : fields === 'double-rate'
        ? ({ kind: 'deinterlace', method: 'adaptive', rate: { kind: 'double' } } as const)
        : null
