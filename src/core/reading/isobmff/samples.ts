import { byteAt } from '../bytes/byte-at'
import type { Cursor } from '../bytes/cursor'
import type { DurationRun } from '../timing'
import { type Box, boxesIn, readFullBox } from './box'
import type { CondensedTable } from './large-index'

/** The sample tables of a track (ISO/IEC 14496-12 §8.6, §8.7), kept as they stand: short runs rather than long lists. */
export interface SampleTable {
  readonly durations: readonly DurationRun[]
  readonly compositionOffsets: readonly DurationRun[]
  readonly count: number
  /** Size of each sample, or one size for all. */
  readonly sizeOf: (index: number) => number
  readonly chunkOffsets: { readonly length: number; at(index: number): number }
  /** First chunk (from 1) and samples in each chunk from there on. */
  readonly chunkRuns: readonly { firstChunk: number; samplesPerChunk: number }[]
  /** Whether every sample's place can be told; of a large index only the first can. */
  readonly placesAll: boolean
}

/**
 * Reads `stbl`. Counts that a table cannot hold are cut to what is there.
 * @param condensed tables of a large index of which only the front is at hand
 */
export function readSampleTable(
  stbl: Cursor,
  condensed: ReadonlyMap<number, CondensedTable> = new Map(),
): SampleTable {
  const found = new Map<string, Box>()
  for (const box of boxesIn(stbl)) if (!found.has(box.type)) found.set(box.type, box)

  const lengthOf = (box: Box) => condensed.get(box.offset)?.length ?? box.body.length
  const sizes = readSizes(found.get('stsz'), found.get('stz2'), lengthOf)
  const runsOf = (box: Box | undefined) =>
    clipped((box && condensed.get(box.offset)?.runs) ?? readRuns(box, sizes.count), sizes.count)
  const chunkOffsets = readChunkOffsets(found.get('stco'), found.get('co64'), lengthOf)
  const chunkRuns = readChunkRuns(found.get('stsc'))
  const placesAll = [...found.values()].every((box) => !condensed.has(box.offset))
  // One size for all costs no room, so that any count could stand beside it: chunks know better.
  if (sizes.uniform && placesAll && chunkOffsets.length > 0)
    sizes.count = Math.min(sizes.count, samplesInChunks(chunkOffsets.length, chunkRuns))
  return {
    durations: runsOf(found.get('stts')),
    compositionOffsets: runsOf(found.get('ctts')),
    count: sizes.count,
    sizeOf: sizes.sizeOf,
    chunkOffsets,
    chunkRuns,
    placesAll,
  }
}

/** Runs of at most so many samples. */
function clipped(runs: readonly DurationRun[], samples: number): readonly DurationRun[] {
  const kept: DurationRun[] = []
  let left = samples
  for (const run of runs) {
    if (left <= 0) break
    kept.push(run.count <= left ? run : { ...run, count: left })
    left -= run.count
  }
  return kept
}

function readRuns(box: Box | undefined, samples: number): DurationRun[] {
  if (!box || box.body.left < 8) return []
  const { version } = readFullBox(box.body)
  const signed = box.type === 'ctts' && version === 1
  const entries = Math.min(box.body.u32(), Math.floor(box.body.left / 8))
  const runs: DurationRun[] = []
  let left = samples
  for (let i = 0; i < entries && left > 0; i++) {
    const count = Math.min(box.body.u32(), left)
    const value = signed ? box.body.i32() : box.body.u32()
    // Some writers put negative offsets into unsigned fields.
    runs.push({ count, duration: box.type === 'ctts' && value > 0x7fffffff ? value - 2 ** 32 : value })
    left -= count
  }
  return runs
}

function readSizes(stsz: Box | undefined, stz2: Box | undefined, lengthOf: (box: Box) => number) {
  const none = { count: 0, uniform: false, sizeOf: () => 0 }
  const box = stsz ?? stz2
  if (!box || box.body.left < 12) return none
  const { body } = box
  readFullBox(body)
  if (stz2 === box) {
    body.skip(3)
    const bits = body.u8()
    const count = Math.min(body.u32(), Math.floor((body.left * 8) / (bits || 8)))
    const { bytes, at } = body
    const sizeOf = (i: number) =>
      bits === 16
        ? byteAt(bytes, at + 2 * i) * 256 + byteAt(bytes, at + 2 * i + 1)
        : bits === 4
          ? (byteAt(bytes, at + (i >> 1)) >> (i % 2 ? 0 : 4)) & 15
          : byteAt(bytes, at + i)
    return { count, uniform: false, sizeOf }
  }
  const uniform = body.u32()
  const stated = body.u32()
  if (uniform > 0) return { count: stated, uniform: true, sizeOf: () => uniform }
  const count = Math.min(stated, Math.floor((lengthOf(box) - 12) / 4))
  const held = Math.min(count, Math.floor(body.left / 4))
  const view = new DataView(body.bytes.buffer, body.bytes.byteOffset + body.at, held * 4)
  return { count, uniform: false, sizeOf: (i: number) => (i >= 0 && i < held ? view.getUint32(i * 4) : 0) }
}

function readChunkOffsets(stco: Box | undefined, co64: Box | undefined, lengthOf: (box: Box) => number) {
  const box = stco ?? co64
  if (!box || box.body.left < 8) return { length: 0, at: () => 0 }
  const { body } = box
  readFullBox(body)
  const width = box === stco ? 4 : 8
  const length = Math.min(body.u32(), Math.floor((lengthOf(box) - 8) / width))
  const held = Math.min(length, Math.floor(body.left / width))
  const view = new DataView(body.bytes.buffer, body.bytes.byteOffset + body.at, held * width)
  const at = (i: number) =>
    i < 0 || i >= held ? 0 : width === 4 ? view.getUint32(i * 4) : Number(view.getBigUint64(i * 8))
  return { length, at }
}

function readChunkRuns(box: Box | undefined) {
  const runs: { firstChunk: number; samplesPerChunk: number }[] = []
  if (!box || box.body.left < 8) return runs
  readFullBox(box.body)
  const entries = Math.min(box.body.u32(), Math.floor(box.body.left / 12))
  for (let i = 0; i < entries; i++) {
    runs.push({ firstChunk: box.body.u32(), samplesPerChunk: box.body.u32() })
    box.body.skip(4)
  }
  return runs
}

/** How many samples the chunks hold. */
function samplesInChunks(chunks: number, runs: SampleTable['chunkRuns']): number {
  return runs.reduce((samples, { firstChunk, samplesPerChunk }, i) => {
    const next = Math.min(chunks + 1, runs[i + 1]?.firstChunk ?? chunks + 1)
    return samples + Math.max(0, next - Math.max(1, firstChunk)) * samplesPerChunk
  }, 0)
}

/** More samples than a day at 120 frames a second are not walked one by one. */
const mostSamples = 12_000_000

/** Where the first `count` samples lie in the file. */
export function* samplePlaces(
  table: SampleTable,
  count = Math.min(table.count, mostSamples),
): Generator<{ offset: number; size: number }> {
  let sample = 0
  let run = 0
  for (let chunk = 0; chunk < table.chunkOffsets.length && sample < count; chunk++) {
    while ((table.chunkRuns[run + 1]?.firstChunk ?? Infinity) <= chunk + 1) run++
    const perChunk = table.chunkRuns[run]?.samplesPerChunk ?? 0
    let offset = table.chunkOffsets.at(chunk)
    for (let i = 0; i < perChunk && sample < count && sample < table.count; i++, sample++) {
      const size = table.sizeOf(sample)
      yield { offset, size }
      offset += size
    }
  }
}

/** How many of a track's samples lie wholly within a file of `fileSize` bytes, and where the last one ends. */
export function samplesWithin(table: SampleTable, fileSize: number): { within: number; lastEnd: number } {
  let within = 0
  let lastEnd = 0
  for (const { offset, size } of samplePlaces(table)) {
    if (offset + size <= fileSize) within++
    lastEnd = Math.max(lastEnd, offset + size)
  }
  return { within, lastEnd }
}
