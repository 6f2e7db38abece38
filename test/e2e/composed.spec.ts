import { execFile } from 'node:child_process'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { type DrawnClip, drawnClips } from '../../tools/demo/clips'
import { mark, markBlocks } from '../../tools/demo/frame-mark'
import { aClip, aDoc } from '../../src/core/model/doc.fixture'
import { type Layer, layersAt } from '../../src/core/plan/layers'
import { addTimeline } from '../../src/core/edit/operations'
import { append, newTimeline, placementOf } from '../../src/core/edit/placing'
import { treat } from '../../src/core/edit/treating'
import { writeProjectFile } from '../../src/core/stored/project-file'
import { parseFormat } from '../../src/core/format/parse'
import type { Shown } from '../../src/core/motion/shown'
import { exactly, rational, toNumber } from '../../src/core/rational/rational'
import { memorySource } from '../../src/core/reading/bytes/source'
import { read } from '../../src/core/reading/read'
import type { Override } from '../../src/core/treatment/treatment'
import { expect, test } from './workshop/test'

/** Random placements, treatments and frames of the demo: the mark in the composed picture is the one that the plan names. */
const clips = drawnClips.filter(({ cut, height, width }) => !cut && width * height < 4_000_000)
const isInterlaced = ({ encode }: DrawnClip) => encode.some((word) => word.includes('tinterlace'))

/** Numbers that look random and are the same each time. */
function* shuffled(seed = 4711): Generator<number, never> {
  for (let x = seed; ;) {
    x = (x * 1103515245 + 12345) % 2 ** 31
    yield x / 2 ** 31
  }
}

const motions: Override[] = [
  {},
  {},
  { motion: { kind: 'blend' } },
  { motion: { kind: 'speed', pace: { kind: 'every-frame' }, wanted: false, keepPitch: true } },
  {
    motion: {
      kind: 'speed',
      pace: { kind: 'factor', factor: rational(2, 3) },
      wanted: true,
      keepPitch: true,
    },
  },
]
const fields: Override[] = [
  {},
  { fields: { kind: 'weave' } },
  { fields: { kind: 'deinterlace', method: 'interpolate', rate: { kind: 'double' } } },
  { fields: { kind: 'deinterlace', method: 'adaptive', rate: { kind: 'same', keep: 'second' } } },
  { fields: { kind: 'deinterlace', method: 'single', rate: { kind: 'double' } } },
]
const framings: NonNullable<Override['framing']>[] = [
  {},
  { mode: { kind: 'stretch' } },
  { mode: { kind: 'fill' } },
  { zoom: rational(3, 4), position: { x: exactly(-37), y: exactly(21) } },
  { filter: 'bicubic', crop: { left: 12, right: 7, top: 9, bottom: 0 } },
  {
    filter: 'bilinear',
    reduction: 'baked',
    zoom: rational(5, 4),
    position: { x: exactly(90), y: exactly(-60) },
  },
]

/** The marks that what is shown may bear; null where two moments are seen in it and none can be read. */
function borne(clip: DrawnClip, shown: Shown): number[] | null {
  const number = (frame: number) => clip.number?.(frame) ?? frame
  const first = clip.holds?.fields === 'bottom-first' ? 'bottom' : 'top'
  const ofField = (frame: number, parity: 'top' | 'bottom') =>
    isInterlaced(clip) ? number(2 * frame + (parity === first ? 0 : 1)) : number(frame)
  switch (shown.kind) {
    case 'frame':
      return isInterlaced(clip)
        ? [number(2 * shown.index), number(2 * shown.index + 1)]
        : [number(shown.index)]
    case 'field':
      return shown.method === 'blend' ? null : [ofField(shown.frame, shown.parity)]
    case 'fields':
      return [ofField(shown.top.frame, shown.top.parity), ofField(shown.bottom.frame, shown.bottom.parity)]
    default:
      return null
  }
}

/**
 * Whether motion tells each block of a field's mark from the other field's: where a block is the same in two fields that follow each
 * other on the same lines, it counts as still, and lines of both fields are seen.
 */
function isTold(clip: DrawnClip, { shown, inFields, rasterMap }: Layer): boolean {
  if (!isInterlaced(clip)) return true
  // Woven and scaled, the lines of two moments are one.
  if (shown.kind === 'frame' && !inFields && toNumber(rasterMap.scaleY) !== 1) return false
  const isRemade = inFields?.outOf === 'fields' && toNumber(rasterMap.scaleY) !== 1
  const fields =
    shown.kind === 'field' && shown.method === 'adaptive'
      ? [shown]
      : isRemade && shown.kind === 'fields'
        ? [shown.top, shown.bottom]
        : isRemade && shown.kind === 'frame'
          ? (['top', 'bottom'] as const).map((parity) => ({ frame: shown.index, parity }))
          : []
  const first = clip.holds?.fields === 'bottom-first' ? 'bottom' : 'top'
  return fields.every(({ frame, parity }) => {
    const isFirst = parity === first
    const at = (number: number) => markBlocks(clip.number?.(number) ?? number)
    const [kept, other] = [at(2 * frame + (isFirst ? 0 : 1)), at(2 * frame + (isFirst ? 1 : 0))]
    const before = at(Math.max(0, 2 * frame + (isFirst ? -1 : 2)))
    return kept.every((block, i) => block === other[i] || other[i] !== before[i])
  })
}

for (const [runsIn, wanted] of [
  ['1920x1080@25p', 120],
  ['1920x1080@50i', 50],
  ['1280x720@60p', 30],
] as const)
  test(`in ${runsIn}, ${wanted} random frames bear the mark that the plan names`, async ({ workshop }) => {
    test.setTimeout(600_000)
    const random = shuffled(runsIn.length * 1000 + wanted)
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next().value * list.length)]!
    const { format } = parseFormat(runsIn)!
    const readings = await Promise.all(
      clips.map(async ({ file }) => {
        const bytes = await readFile(new URL(`../../tools/demo/clips/${file}`, import.meta.url))
        return { file, result: await read(memorySource(bytes)) }
      }),
    )
    const doc = aDoc(
      readings.map(({ file, result }) => ({
        ...aClip(file, result.reading!, file),
        frameTimes: (result.ok && result.frameTimes) || null,
      })),
    )
    addTimeline(doc, newTimeline('t', 'Main cut', '', format))
    const chosen: { clip: DrawnClip; frame: number }[] = []
    // Each placement is a frame long and begins somewhere in its clip: the plan of all of them is asked for at once.
    while (chosen.length < wanted) {
      const clip = pick(clips)
      const id = `p${chosen.length}`
      const placement = placementOf(doc.clips[clip.file]!, format, id)
      const seconds = Math.floor(random.next().value * 60) / 25
      append(doc, 't', [{ ...placement, length: 1, sourceIn: exactly(seconds) }])
      const set = { ...pick(motions), ...pick(fields), framing: pick(framings) }
      treat(doc, 't', [id], set)
      const [layer] = layersAt(doc, doc.timelines.t!, chosen.length)
      const isRead =
        layer && borne(clip, layer.shown) !== null && isTold(clip, layer) && isWhole(layer, clip, format)
      if (isRead) chosen.push({ clip, frame: chosen.length })
      else doc.timelines.t!.tracks[0]!.placements.pop()
    }
    const folder = await mkdtemp(join(tmpdir(), 'plan-'))
    try {
      const path = join(folder, 'project.json')
      const project = writeProjectFile(doc)
      await writeFile(path, project)
      const { stdout } = await promisify(execFile)(
        process.execPath,
        ['tools/scripts/tally.mjs', 'plan', path, 't', '0', String(wanted), '--json'],
        { maxBuffer: 2 ** 26 },
      )
      const plan = stdout
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as { layers: { shown: Shown }[] })
      const served = Object.fromEntries(clips.map(({ file }) => [file, workshop.clip(file)]))
      const bars = Object.fromEntries(clips.map(({ file, bars }) => [file, bars ?? 0]))
      // Clip by clip, so that few decoders are open at once.
      const order = [...chosen].sort((a, b) => a.clip.file.localeCompare(b.clip.file))
      const seen = await workshop.page.evaluate(
        ([text, frames, at, b]) => window.workshop.composed(text, 't', frames, at, b),
        [project, order.map(({ frame }) => frame), served, bars] as const,
      )
      const wrong = order.flatMap(({ clip, frame }, i) => {
        const { shown } = plan[frame]!.layers[0]!
        const may = borne(clip, shown)!
        return may.includes(seen[i] as number)
          ? []
          : [`${clip.file} at ${frame}: ${JSON.stringify(shown)} bears ${may.join(' or ')}, seen ${seen[i]}`]
      })
      expect(wrong).toEqual([])
    } finally {
      await rm(folder, { recursive: true })
    }
  })

/** Whether the whole mark lies on the raster, each of its blocks some pixels wide. */
function isWhole(
  { rasterMap, size }: Layer,
  clip: DrawnClip,
  raster: { width: number; height: number },
): boolean {
  const [left, top] = [toNumber(rasterMap.x), toNumber(rasterMap.y)]
  const [width, height] = [size.across * toNumber(rasterMap.scaleX), size.down * toNumber(rasterMap.scaleY)]
  const { bars = 0 } = clip
  const x = [left + width * mark.left, left + width * (mark.left + mark.blockWidth * mark.blocks)] as const
  const inner = { top: top + height * bars, height: height * (1 - 2 * bars) }
  const y = [
    inner.top + inner.height * mark.top,
    inner.top + inner.height * (mark.top + mark.height),
  ] as const
  return (
    x[0] > 4 &&
    x[1] < raster.width - 4 &&
    y[0] > 4 &&
    y[1] < raster.height - 4 &&
    width * mark.blockWidth >= 8 &&
    toNumber(rasterMap.scaleX) * rasterMap.crop.right < width * 0.3
  )
}
