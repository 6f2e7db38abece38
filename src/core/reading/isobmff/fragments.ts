import type { Cursor } from '../bytes/cursor'
import type { DurationRun } from '../timing'
import { type Box, boxesIn, findBox, readFullBox } from './box'

/** What the fragments of a file add to one track (ISO/IEC 14496-12 §8.8). */
export interface FragmentedSamples {
  /** Of the fragments that were read. */
  readonly durations: readonly DurationRun[]
  /** Samples in the fragments that were read. */
  readonly count: number
  /** From the first sample to the end of the last, in the media's clock. */
  readonly span: number
  /** When the first sample is shown, of those of the first run the earliest, in the media's clock. */
  readonly begins: number | null
  readonly firstSample: { offset: number; size: number } | null
}

/** Gathers a track's samples over all fragments. A fragment's own start corrects the end of the one before. */
export function readFragments(movie: Cursor, fragments: readonly Box[], trackId: number): FragmentedSamples {
  const defaults = readDefaults(movie, trackId)
  const runs: { count: number; duration: number }[] = []
  let [count, time] = [0, 0]
  let start: number | null = null
  let begins: number | null = null
  let firstSample: FragmentedSamples['firstSample'] = null
  const add = (frames: number, duration: number) => {
    const last = runs.at(-1)
    if (last && last.duration === duration) last.count += frames
    else runs.push({ count: frames, duration })
    count += frames
    time += frames * duration
  }
  /** Writers guess how long a fragment's last sample lasts; where the next one begins is known. */
  const begin = (at: number, follows: boolean) => {
    const last = runs.at(-1)
    const short = at - time
    if (follows && last && short !== 0 && last.duration + short > 0) {
      last.count--
      if (last.count === 0) runs.pop()
      count--
      time -= last.duration
      add(1, last.duration + short)
    }
    start ??= at
    time = at
  }
  let previous = -1
  for (const fragment of fragments) {
    fragment.body.at = 0
    const follows = sequenceOf(fragment) === previous + 1
    previous = sequenceOf(fragment)
    for (const traf of boxesIn(fragment.body)) {
      if (traf.type !== 'traf') continue
      const header = findBox(traf.body, 'tfhd')
      if (!header) continue
      const own = readFragmentHeader(header.body, defaults)
      if (own.id !== trackId) continue
      const decodeTime = findBox(traf.body, 'tfdt')
      if (decodeTime && decodeTime.body.left >= 8) begin(readDecodeTime(decodeTime.body), follows)
      for (const box of boxesIn(traf.body)) {
        if (box.type !== 'trun') continue
        const from = time
        const first = readRun(box.body, own, add)
        if (first) begins ??= from + first.earliest
        if (first && !firstSample)
          firstSample = { offset: (own.base ?? fragment.offset) + first.offset, size: first.size }
      }
    }
  }
  return { durations: runs, count, span: time - (start ?? 0), begins, firstSample }
}

function sequenceOf(fragment: Box): number {
  const header = findBox(fragment.body, 'mfhd')
  return header && header.body.left >= 8 ? header.body.skip(4).u32() : -1
}

function readDecodeTime(body: Cursor): number {
  const { version } = readFullBox(body)
  return version === 1 && body.left >= 8 ? body.u64() : body.u32()
}

interface Defaults {
  readonly duration: number
  readonly size: number
}

function readDefaults(movie: Cursor, trackId: number): Defaults {
  const extends_ = findBox(movie, 'mvex')
  if (extends_) {
    for (const box of boxesIn(extends_.body)) {
      if (box.type !== 'trex' || box.body.left < 24) continue
      readFullBox(box.body)
      if (box.body.u32() !== trackId) continue
      box.body.skip(4)
      return { duration: box.body.u32(), size: box.body.u32() }
    }
  }
  return { duration: 0, size: 0 }
}

function readFragmentHeader(body: Cursor, defaults: Defaults) {
  const { flags } = readFullBox(body)
  const id = body.u32()
  const base = flags & 1 ? body.u64() : null
  if (flags & 2) body.skip(4)
  const duration = flags & 8 ? body.u32() : defaults.duration
  const size = flags & 16 ? body.u32() : defaults.size
  return { id, base, duration, size }
}

function readRun(body: Cursor, own: Defaults, add: (frames: number, duration: number) => void) {
  const { flags } = readFullBox(body)
  const stated = body.u32()
  const offset = flags & 1 ? body.i32() : 0
  if (flags & 4) body.skip(4)
  const width = [0x100, 0x200, 0x400, 0x800].filter((flag) => flags & flag).length * 4
  // Without fields of their own, samples cost no bytes; a million in one run is beyond any writer.
  const count = width ? Math.min(stated, Math.floor(body.left / width)) : Math.min(stated, 1_000_000)
  let firstSize = own.size
  let [passed, earliest] = [0, Infinity]
  for (let i = 0; i < count; i++) {
    const duration = flags & 0x100 ? body.u32() : own.duration
    const size = flags & 0x200 ? body.u32() : own.size
    if (flags & 0x400) body.skip(4)
    // Some writers put negative offsets into unsigned fields: they are read as signed.
    earliest = Math.min(earliest, passed + (flags & 0x800 ? body.i32() : 0))
    passed += duration
    if (i === 0) firstSize = size
    if (!width) {
      add(count, duration)
      break
    }
    add(1, duration)
  }
  return count > 0 ? { offset, size: firstSize, earliest } : null
}
