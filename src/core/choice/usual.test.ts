import { expect, it } from 'vitest'
import { pictureOfFormat } from '../format/format'
import { parseFormat } from '../format/parse'
import { rational } from '../rational/rational'
import { proposal } from './proposal'
import { type Untreated, plainly } from './untreated'

/** What is usual, as the documentation has it: computed here, and held against the file. `vitest -u` writes it. */
const format = (text: string) => parseFormat(text)!.format
const hd = (rate: string) => format(`1920x1080@${rate}`)

const known: readonly (readonly [words: string, rate: string, more?: Partial<Untreated>])[] = [
  ...['23.976p', '24p', '25p', '29.97p', '30p', '48p', '50p', '59.94p', '60p', '50i', '59.94i'].map(
    (rate) => [rate, rate] as const,
  ),
  ['59.94i, 2:3 pulldown measured', '59.94i', { pulldown: { pattern: '2:3', phase: 0 } }],
  [
    '60p, 24 new frames a second measured',
    '60p',
    { repeats: { trueRate: rational(24), holds: [2, 3], phase: 0 } },
  ],
  ['50i, both fields of one moment', '50i', { isOfOneMoment: true }],
  ['25p, recorded at 100', '25p', { captureRate: rational(100) }],
]
const timelines = ['23.976p', '24p', '25p', '29.97p', '50p', '59.94p', '50i', '59.94i']

const frames: readonly (readonly [words: string, size: string, more?: Partial<Untreated>])[] = [
  ['1920×1080', '1920x1080'],
  ['3840×2160', '3840x2160'],
  ['2704×1520', '2704x1520'],
  ['4096×2160', '4096x2160'],
  ['1080×1920', '1080x1920'],
  ['720×576, pixels 16:15', '720x576/16:15'],
  ['720×576, pixels 64:45', '720x576/64:45'],
  ['400×300 with alpha', '400x300', { isOverlay: true }],
  [
    '1440×1080, bars of 135 lines baked in',
    '1440x1080',
    { bars: { left: 0, right: 0, top: 135, bottom: 135 } },
  ],
]
const rasters = ['1920x1080', '3840x2160', '1440x1080/4:3', '1080x1920']

const row = (cells: readonly string[]) => `| ${cells.join(' | ')} |`
const table = (head: readonly string[], rows: readonly (readonly string[])[]) =>
  [row(head), row(head.map(() => '---')), ...rows.map(row)].join('\n')

const steps = (rate: string, timeline: string, more: Partial<Untreated> = {}) =>
  proposal({ ...plainly(pictureOfFormat(hd(rate))), ...more }, hd(timeline))
    .steps.map((step) => step.replaceAll('-', ' '))
    .join(', ') || 'as it is'

function framed(size: string, raster: string, more: Partial<Untreated> = {}): string {
  const clip = { ...plainly(pictureOfFormat(format(`${size}@25p`))), ...more }
  const { framing, crop } = proposal(clip, format(`${raster}@25p`))
  return [crop && 'bars cropped', framing.replaceAll('-', ' ')].filter(Boolean).join(', ')
}

it('what is usual for every clip in every timeline is written down as it is', async () => {
  const text = `# What is usual

What is offered for a clip that nobody has treated, as it is computed (\`src/core/choice/proposal.ts\`); a test holds this page against it.
Nothing is mixed or stretched unasked, and no speed changes but that of near twins, of 23.976, 24 and 25 in each other, and of what was
recorded to be slowed. Where another way loses less by the figures, it is offered second.

## Motion and fields: a clip (down) in a timeline (across)

${table(
  ['', ...timelines],
  known.map(([words, rate, more]) => [words, ...timelines.map((timeline) => steps(rate, timeline, more))]),
)}

Deinterlacing is adaptive. In an interlaced timeline fields of the other order are shown a line lower. A clip of variable rate is shown by
the nearest frame.

## Framing: a picture (down) in a frame (across)

${table(
  ['', ...rasters],
  frames.map(([words, size, more]) => [words, ...rasters.map((raster) => framed(size, raster, more))]),
)}
`
  await expect(text).toMatchFileSnapshot('../../../docs/treatments.md')
})
