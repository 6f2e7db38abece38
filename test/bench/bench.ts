/** Measures and prints; asserts nothing. `npm run bench` (all), `npm run bench -- NAME…`; `--smallest` as `npm test` does. */
import { existsSync } from 'node:fs'
import { measureCard } from './card'
import { measureFirstUse } from './first-use'
import { measureList } from './list'
import { measureLoudness } from './loudness'
import { measureMoving, measurePaying } from './moving'
import { measureLarge } from './large'
import { measureLargeStill } from './large-still'
import { measureKernels } from './measuring'
import { measureNesting } from './nesting'
import { measureNumbered } from './numbered'
import { hasToolkit } from './native'
import { measureOpening } from './opening'
import { measureHuge, measurePosters } from './pictures'
import { measurePixels } from './pixels'
import { measurePlaying } from './playing'
import { measureRanking } from './ranking'
import { type LongFigures, measureLong, measureRendering } from './rendering'
import { measureBytes, measureJobs, measureReading } from './reading'
import { isSmallest, sized } from './size'
import { measureStrip } from './strip'

/** Not a number where nothing was measured: at its smallest a part may be over before. */
const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN
const range = (values: readonly number[]) =>
  `${Math.min(...values).toFixed(0)}–${Math.max(...values).toFixed(0)}`
const line = (name: string, value: string) => console.log(`${name.padEnd(56)}${value}`)

const wanted = process.argv.slice(2).filter((word) => !word.startsWith('--'))
if (isSmallest) console.log('At its smallest: the figures, and the sizes that lines name, say nothing.')
const asked = (name: string) => wanted.length === 0 || wanted.includes(name)

if (asked('ranking')) {
  for (const { clips, milliseconds, candidates } of measureRanking()) {
    line(
      `full ranking, ${clips} clips, 40 readings, ${candidates} candidates`,
      `${median(milliseconds).toFixed(1)} ms (${range(milliseconds)})`,
    )
  }
}
if (asked('moving')) {
  const { same, unlike } = measurePaying()
  line('re-pricing 2000 clips, 40 readings (target 16 ms)', `${median(same).toFixed(2)} ms (${range(same)})`)
  line('re-pricing 2000 clips, no two alike', `${median(unlike).toFixed(1)} ms (${range(unlike)})`)
}
if (asked('reading')) {
  const { own, probed } = await measureReading()
  line('clips read a second, a folder of 1000, one process', own.toFixed(0))
  if (probed) {
    line('by starting the media toolkit’s probe for each', probed.toFixed(1))
    line('times as fast (target 20)', (own / probed).toFixed(0))
  } else console.log('the media toolkit is not here: not compared')
  for (const [wrapper, { read, largest }] of await measureBytes()) {
    line(`bytes read of a clip, ${wrapper}`, `${median(read)} (${range(read)}), largest file ${largest}`)
  }
}
if (asked('jobs')) {
  const { 1: alone, 2: two } = await measureJobs()
  line('2000 files at the terminal, one worker', `${median(alone).toFixed(1)} s`)
  line('with two', `${median(two).toFixed(1)} s`)
  line('times as fast (target 1.4)', (median(alone) / median(two)).toFixed(2))
}
if (asked('kernels')) {
  const { full, combs, native } = await measureKernels()
  const beside = (target: string, other: number) =>
    native ? `, ${(other / native).toFixed(1)} times the native filter (target ${target})` : ''
  line(
    'measuring pictures, full pass, one core',
    `${full.toFixed(0)} megapixels a second${beside('0.6', full)}`,
  )
  line('combing counts alone, one core', `${combs.toFixed(0)} megapixels a second${beside('3', combs)}`)
  if (native)
    line('the media toolkit’s interlace filter, one core', `${native.toFixed(0)} megapixels a second`)
}
if (asked('pixels'))
  for (const { name, own, native } of await measurePixels()) {
    const beside =
      native === null ? '' : `; native ${native.toFixed(1)} ms: ${(native / own).toFixed(2)} times as fast`
    line(`${name}, one core (targets 0.8 and 1)`, `${own.toFixed(1)} ms${beside}`)
  }
const hasBrowser = existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium')
if (!hasBrowser) console.log('no Chromium here: list and first use are not measured')
if (asked('list') && hasBrowser) {
  const { sort, scroll } = await measureList()
  line('sorting 5000 clips, script (target 50 ms a frame)', `${median(sort).toFixed(0)} ms (${range(sort)})`)
  line(
    'scrolling 5000 clips, script a frame (target 50 ms)',
    `${median(scroll).toFixed(1)} ms (${range(scroll)})`,
  )
}
if (asked('strip') && hasBrowser) {
  const { zoom, scroll, edit } = await measureStrip()
  const named = [
    ['zooming 2000 placements on 8 tracks, a frame (target 50 ms)', zoom],
    ['scrolling them, a frame (target 50 ms)', scroll],
    ['editing among them, key to laid-out page (target 100 ms)', edit],
  ] as const
  for (const [name, values] of named) line(name, `${median(values).toFixed(1)} ms (${range(values)})`)
}
if (asked('playing') && hasBrowser)
  for (const { name, due, shown, target } of await measurePlaying())
    line(
      `playing ${name}, frames on time (target ${target})`,
      `${((100 * shown) / due).toFixed(1)} % (${shown} of ${due})`,
    )
if (asked('moving') && hasBrowser) {
  const steps = await measureMoving()
  line(
    'moving the candidate, 2000 clips, key to laid-out page (target 16 ms)',
    `${median(steps).toFixed(1)} ms (${range(steps)})`,
  )
}
if (asked('opening') && hasBrowser) {
  const { list, longest } = await measureOpening()
  line('opening 10000 clips: first list (target 1500 ms)', `${median(list).toFixed(0)} ms (${range(list)})`)
  line('the page held up at most (target 100 ms)', `${median(longest).toFixed(0)} ms (${range(longest)})`)
}
if (asked('large') && hasBrowser)
  for (const timelines of [sized(200, 2), 1]) {
    const { parts, megabytes } = await measureLarge(sized(25_000, 60), sized(100_000, 160), timelines)
    for (const { name, seconds, longest } of parts)
      line(
        `25000 clips, 100000 placements on ${timelines}: ${name}; held up at most (targets 2 s, 200 ms)`,
        `${seconds.toFixed(1)} s; ${longest.toFixed(0)} ms`,
      )
    line('what the page holds then (target 1500 MB)', `${megabytes.toFixed(0)} MB`)
  }
if (asked('nesting')) {
  const { flat, deep, depth } = measureNesting()
  line('the plan of a frame, a cut by itself', `${median(flat).toFixed(3)} ms`)
  line(
    `the same cut nested ${depth} deep (target: under 8 ms)`,
    `${median(deep).toFixed(3)} ms (${range(deep)})`,
  )
}
if (asked('card') && hasBrowser) {
  const { offered, listed, firstRow, read, choosing, serverMegabytes } = await measureCard()
  line('a card of 20000 files: first offered, all listed', `${offered} ms, ${listed} ms`)
  line('taken in: first row (target 2000 ms)', `${firstRow} ms`)
  line('taken in: 5000 clips read, 15000 left aside (target 60 s)', `${(read / 1000).toFixed(1)} s`)
  line('a row chosen meanwhile (target 100 ms)', `${median(choosing).toFixed(0)} ms (${range(choosing)})`)
  line('the server meanwhile (target 200 MB)', `${serverMegabytes.toFixed(0)} MB`)
}
if (asked('numbered') && hasBrowser) {
  const { listed, megabytes } = await measureNumbered()
  line('10000 numbered pictures, ten missing, listed as one clip (target 2000 ms)', `${listed} ms`)
  line('read of them (target 16 MB)', `${megabytes.toFixed(1)} MB`)
}
if (asked('large-still') && hasBrowser) {
  const { seen, megabytes } = await measureLargeStill()
  line('a plate of 8192×4320 in 16 bits is seen', `${seen} ms`)
  line('the page holds for it, at most (target 300 MB)', `${megabytes.toFixed(0)} MB`)
}
if (asked('posters') && hasBrowser) {
  const { seconds, made: drawn, choosing } = await measurePosters()
  line(
    'posters of 300 HD clips, half by the second engine (target 120 s)',
    `${drawn} in ${seconds.toFixed(0)} s`,
  )
  line('a row chosen meanwhile', `${median(choosing).toFixed(0)} ms (${range(choosing)})`)
}
if (asked('huge') && hasBrowser) {
  const huge = async (size: string, name: string, times: number) => {
    const { gigabytes, seconds, frames, megabytesRead, megabytesHeld, megabytesBefore } = await measureHuge(
      name,
      times,
    )
    line(`a clip of ${gigabytes} GB, ${size}, measured (target 20 s)`, `${seconds.toFixed(1)} s, ${frames}`)
    line(
      'read of it; held by the page more than before (target 400 MB)',
      `${megabytesRead.toFixed(1)} MB; ${(megabytesHeld - megabytesBefore).toFixed(0)} MB of ${megabytesHeld.toFixed(0)} MB`,
    )
  }
  await huge('HD', 'festival_print.mp4', 1)
  if (hasToolkit()) await huge('UHD', 'yard_dawn_A012.mp4', 8)
  else console.log('the media toolkit is not here: no ultra-high definition of 60 GB')
}
if (asked('first-use') && hasBrowser) {
  const { firstView, twelveClips } = await measureFirstUse()
  line(
    'first view usable after load (target 1500 ms)',
    `${median(firstView).toFixed(0)} ms (${range(firstView)})`,
  )
  line(
    '12 clips of the siding listed (target 1000 ms)',
    `${median(twelveClips).toFixed(0)} ms (${range(twelveClips)})`,
  )
}
if (asked('rendering')) {
  const { own, native } = await measureRendering()
  if (native)
    line(
      'rendering HD 25p H.264 with one reduced layer',
      `${own.toFixed(1)} frames a second, ${(own / native).toFixed(2)} times the native toolkit (target 0.5)`,
    )
  else console.log('the media toolkit is not here: rendering is not compared')
}
const long = (name: string, { frames, framesPerSecond, held, growth, apart }: LongFigures) => {
  line(`${name}, ${frames} frames`, `${framesPerSecond.toFixed(1)} frames a second`)
  line(
    'held by the page at most (target 1000 MB)',
    `${held.toFixed(0)} MB, ${growth.toFixed(1)} MB more a minute`,
  )
  line('sound ends beside the picture (target 1 ms)', `${apart.toFixed(2)} ms`)
}
if (asked('rendering-long') && hasToolkit())
  long(
    '30 min of 640×360 at 29.97',
    await measureLong(sized(1800, 4), '640x360', '30000/1001', '640x360@29.97p'),
  )
if (asked('rendering-hd') && hasToolkit())
  long('3 min of HD at 25', await measureLong(sized(180, 2), '1920x1080', '25', '1920x1080@25p'))
if (asked('loudness'))
  line('loudness of stereo, one core (target 30)', `${measureLoudness().toFixed(0)} times real time`)
