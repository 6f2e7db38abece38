import fontUrl from '@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-600-normal.woff2?url'
import { present } from '../../core/assert'
import { type Stamp } from '../../core/compose/stamp'
import { layersAt } from '../../core/plan/layers'
import type { Doc } from '../../core/model/project'
import { type Timeline, timecodeAt } from '../../core/model/timeline'
import { framesShown } from '../../core/motion/shown'
import type { FrameSize } from '../../core/picture/size'

/** What is written into a frame: its timecode, and what of which source is shown on top. */
export function burntWords(
  doc: Doc,
  timeline: Timeline,
  n: number,
): readonly [timecode: string, source: string] {
  const top = layersAt(doc, timeline, n).at(-1)
  return [timecodeAt(timeline, n), top ? sourceWords(doc, top.source, framesOf(top.shown)) : '']
}

const framesOf = (shown: Parameters<typeof framesShown>[0]) => [...new Set(framesShown(shown))].join('+')

function sourceWords(
  doc: Doc,
  source: NonNullable<ReturnType<typeof layersAt>[number]>['source'],
  frames: string,
) {
  switch (source.kind) {
    case 'clip':
      return `${doc.clips[source.clipId]?.name ?? ''} ${frames}`
    case 'timeline':
      return `${doc.timelines[source.timelineId]?.name ?? ''} ${frames}`
    case 'figure':
      return `test figure ${frames}`
  }
}

let font: Promise<string> | null = null
/** The shipped font, for a worker. */
const ready = (): Promise<string> =>
  (font ??= (async () => {
    const face = new FontFace('Plex', `url(${fontUrl})`)
    ;(self as unknown as { fonts: { add(face: FontFace): void } }).fonts.add(await face.load())
    return 'Plex'
  })().catch(() => 'monospace'))

/** The height of letters, and how much the ground behind them covers. */
const [letterShare, groundCover] = [1 / 30, 0.6]

/** Words as they are written into the lower edge of a frame: timecode on the left, source on the right. */
export async function burntIn(
  words: readonly [string, string],
  { width, height }: FrameSize,
): Promise<Stamp> {
  const letter = Math.max(10, Math.round(Math.min(width, height) * letterShare))
  const pad = Math.round(letter / 2)
  const [wide, high] = [width - 2 * pad, letter + pad]
  const canvas = new OffscreenCanvas(wide, high)
  const context = present(
    canvas.getContext('2d', { willReadFrequently: true }),
    'a canvas of a worker is drawn on',
  )
  context.font = `${letter}px ${await ready()}`
  context.textBaseline = 'middle'
  const [left, right] = words
  const place = (text: string, x: number, most: number) => {
    const across = Math.min(most, context.measureText(text).width + pad)
    context.fillStyle = `rgb(0 0 0 / ${groundCover})`
    context.fillRect(x < 0 ? wide - across : x, 0, across, high)
    context.fillStyle = 'white'
    context.fillText(text, (x < 0 ? wide - across : x) + pad / 2, high / 2, across - pad)
  }
  place(left, 0, wide / 2)
  if (right) place(right, -1, wide / 2 - pad)
  const { data } = context.getImageData(0, 0, wide, high)
  const channel = (offset: number) =>
    Uint8Array.from({ length: wide * high }, (_, i) => data[4 * i + offset] as number)
  return { x: pad, y: height - high - pad, width: wide, height: high, grey: channel(0), cover: channel(3) }
}
