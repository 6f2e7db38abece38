import type { Page } from '@playwright/test'
import { type DrawnClip, drawnClips } from '../../tools/demo/clips'
import type { Where } from './workshop/page'
import { expect, test } from './workshop/test'

/** Both engines by themselves, on every clip of the demo: the frame that is asked for is the frame that comes. */
const engines = ['browser', 'toolkit'] as const
const whole = drawnClips.filter(({ cut }) => !cut)
const isInterlaced = ({ encode }: DrawnClip) => encode.some((word) => word.includes('tinterlace'))
const where = ({ bars = 0, onItsSide = false }: DrawnClip, line = 0.5): Where => ({ bars, onItsSide, line })
/** The marks that a stored frame may bear: of an interlaced one, those of its two fields. */
const borne = (clip: DrawnClip, index: number): number[] =>
  isInterlaced(clip) ? [2 * index, 2 * index + 1] : [clip.number?.(index) ?? index]

/** Numbers that look random and are the same each time. */
function* shuffled(below: number) {
  for (let x = 12345; ;) {
    x = (x * 1103515245 + 12345) % 2 ** 31
    yield Math.floor((x / 2 ** 31) * below)
  }
}

/** How many random frames are asked for of each clip: `MARKS=30 npx playwright test decode` asks for more than every run does. */
const many = Number(process.env.MARKS ?? 4)

for (const engine of engines)
  for (const clip of whole) {
    // Ultra-high definition takes a second a frame in one thread of WebAssembly.
    const random = engine === 'toolkit' && clip.width * clip.height > 4_000_000 ? Math.ceil(many / 3) : many
    test(`${clip.file} by the ${engine}: first, last and ${random} others come as they are asked for`, async ({
      workshop,
    }) => {
      const { page } = workshop
      const { url, size } = workshop.clip(clip.file)
      const count = await page.evaluate(([u, s, e]) => window.workshop.count(u, s, e), [
        url,
        size,
        engine,
      ] as const)
      test.skip(count === null, 'not one of the browser')
      const next = shuffled(count!)
      const asked = [0, count! - 1, ...Array.from({ length: random }, () => next.next().value as number)]
      const seen = await page.evaluate(
        ([u, s, e, indices, at]) => window.workshop.marks(u, s, e, indices, at),
        [url, size, engine, asked, where(clip)] as const,
      )
      const wrong = asked.flatMap((index, i) =>
        borne(clip, index).includes(seen![i] ?? -1) ? [] : [`frame ${index} bears ${seen![i]}`],
      )
      expect(wrong).toEqual([])
    })
  }

const streamed = [
  ['archive_tape.mxf', 'toolkit'],
  ['furnace_heat_12.avi', 'toolkit'],
  ['clerk_phone_0417.mp4', 'toolkit'],
  ['bell_swing_B011.mp4', 'toolkit'],
  ['clerk_phone_0417.mp4', 'browser'],
  ['bell_swing_B011.mp4', 'browser'],
  ['visitor_C002.mov', 'browser'],
  ['yard_dawn_A012.mp4', 'browser'],
] as const
for (const [file, engine] of streamed) {
  const clip = whole.find((drawn) => drawn.file === file)!
  test(`${file} streams every frame once by the ${engine}, in order, to the end, from any place`, async ({
    workshop,
  }) => {
    const { page } = workshop
    const { url, size } = workshop.clip(file)
    const count = isInterlaced(clip) ? clip.count / 2 : clip.count
    const from = Math.floor(count * 0.6)
    const seen = await page.evaluate(([u, s, e, at, start]) => window.workshop.streamed(u, s, e, start, at), [
      url,
      size,
      engine,
      where(clip),
      from,
    ] as const)
    expect(seen!.map(([index]) => index)).toEqual(Array.from({ length: count - from }, (_, i) => from + i))
    for (const [index, mark] of seen!) expect(borne(clip, index)).toContain(mark)
  })
}

test('no more of a large picture is decoded ahead than has room', async ({ workshop }) => {
  const { url, size } = workshop.clip('yard_dawn_A012.mp4')
  const ahead = await workshop.page.evaluate(([u, s]) => window.workshop.ahead(u, s, 0, 12), [
    url,
    size,
  ] as const)
  // Thirty-two megabytes are two pictures of ultra-high definition; a decoder that sorts may hold some more back.
  expect(ahead).toBeGreaterThan(0)
  expect(ahead).toBeLessThanOrEqual(5)
})

test('windows share two decoders: one that only looks gives way, and takes up again where it was', async ({
  workshop,
}) => {
  const clip = whole.find(({ file }) => file === 'furnace_heat_12.avi')!
  const { url, size } = workshop.clip(clip.file)
  const context = workshop.page.context()
  const pages = await Promise.all([1, 2, 3].map(() => context.newPage()))
  const look = (page: Page | undefined, index: number) =>
    page!.evaluate(([u, s, i, at]) => window.workshop.looked(u, s, i, at), [
      url,
      size,
      index,
      where(clip),
    ] as const)
  for (const page of pages) {
    await page.goto(workshop.page.url())
    await page.waitForFunction(() => document.title === 'ready')
  }
  for (const [i, page] of [...pages, ...pages].entries()) expect(await look(page, 5 + 3 * i)).toBe(5 + 3 * i)
  for (const page of pages) await page.close()
})
