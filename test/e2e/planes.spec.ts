import { readFileSync } from 'node:fs'
import type { PlaneSamples } from '../fixtures/samples'
import { expect, test } from './workshop/test'

/** What a second decoder made of the first frames of the fixtures: planes of video, pictures on screen of stills and of red, green and blue. */
const known = JSON.parse(readFileSync(new URL('../fixtures/planes.json', import.meta.url), 'utf8')) as Record<
  string,
  PlaneSamples | { readonly screen: readonly number[] }
>

const furthest = (a: readonly number[], b: readonly number[]) =>
  a.length === b.length ? Math.max(0, ...a.map((value, i) => Math.abs(value - (b[i] ?? NaN)))) : Infinity

/** Both engines decode these as they are, but for what is said. */
const apart: Readonly<Record<string, { readonly layout?: Partial<PlaneSamples>; readonly none?: string }>> = {
  'browser mould_prores_4.mov': { layout: { bitDepth: 10 } },
  // Alpha beside deeper planes than 8 bits, or reduced chroma, is no layout that passes between the toolkit and us.
  'toolkit mould_prores_4.mov': { layout: { bitDepth: 8 } },
  'toolkit mould_ffv1_yuva420p.mkv': { layout: { across: 1, down: 1 } },
  'toolkit mould_ffv1_yuva444p10le.mkv': { layout: { bitDepth: 8 } },
  'toolkit mould_av1.mp4': { none: 'AV1 is one of the browser' },
  'toolkit mould_av1.ivf': { none: 'AV1 is one of the browser' },
  'toolkit mould_av1.obu': { none: 'AV1 is one of the browser' },
  'toolkit yard_av1.webm': { none: 'AV1 is one of the browser' },
}

for (const engine of ['browser', 'toolkit'] as const)
  for (const [file, expected] of Object.entries(known).filter(([name]) => !name.endsWith('.dpx')))
    test(`${file} by the ${engine}: what is decoded is what a second decoder gives`, async ({ workshop }) => {
      const { layout, none = '' } = apart[`${engine} ${file}`] ?? {}
      test.skip(none !== '', none)
      const { url, size } = workshop.fixture(file)
      const seen = await workshop.page.evaluate(([u, s, e]) => window.workshop.pictured(u, s, e), [
        url,
        size,
        engine,
      ] as const)
      test.skip(seen === null, 'not one of the browser')
      // Inverse transforms may round apart.
      if ('screen' in expected) return expect(furthest(seen!.screen, expected.screen)).toBeLessThanOrEqual(4)
      const { bitDepth, across, down } = { ...expected, ...layout }
      const { planes } = seen!
      expect(planes).toMatchObject({ bitDepth, across, down })
      const isWhole = across === expected.across && down === expected.down
      for (const plane of isWhole ? (['luma', 'cb', 'cr', 'alpha'] as const) : (['luma', 'alpha'] as const)) {
        const at = expected[plane].map((value) => value / 2 ** (expected.bitDepth - bitDepth))
        expect(furthest(planes[plane], at), plane).toBeLessThanOrEqual(2 ** (bitDepth - 8))
      }
    })

for (const [file, from] of [
  ['plate.heic', 'plate.png'],
  ['plate_turned.heic', 'plate.png'],
  ['plate_turned.avif', 'plate.png'],
  ['plate_big.tiff', 'plate_plain.png'],
  ['plate_float.tiff', 'plate_plain.png'],
] as const)
  test(`${file}: what its writer was given, as it is stored whatever turn it asks for`, async ({
    workshop,
  }) => {
    const pictured = (name: string) => {
      const { url, size } = workshop.fixture(name)
      return workshop.page.evaluate(([u, s]) => window.workshop.pictured(u, s, 'browser'), [
        url,
        size,
      ] as const)
    }
    const [given, seen] = [await pictured(from), await pictured(file)]
    // Chroma is halved by the codec: edges of colour differ.
    const apart = given!.screen.map((value, i) => Math.abs(value - (seen!.screen[i] ?? NaN)))
    expect(apart.reduce((sum, value) => sum + value, 0) / apart.length).toBeLessThan(4)
  })

/** ITU-R BT.709 §1.2. */
const signalOf = (light: number) => {
  const held = Math.min(1, light)
  return held < 0.018 ? 4.5 * held : 1.099 * held ** 0.45 - 0.099
}
for (const [file, isCovered] of [
  ['light.exr', false],
  ['light_alpha.exr', true],
] as const)
  test(`${file}: light of a scene from nought to one and a half is shown by the curve of BT.709, alpha divided out first`, async ({
    workshop,
  }) => {
    const { url, size } = workshop.fixture(file)
    const seen = await workshop.page.evaluate(([u, s]) => window.workshop.row(u, s, 'toolkit', 18), [
      url,
      size,
    ] as const)
    // The left half covers half of each pixel: its colours were multiplied by that.
    const expected = Array.from({ length: 64 }, (_, x) => {
      const light = (x / 63) * 1.5
      return 255 * signalOf(isCovered && x < 32 ? light / 0.5 : light)
    })
    expect(furthest(seen!.red, expected)).toBeLessThanOrEqual(2)
    expect(furthest(seen!.blue, expected)).toBeLessThanOrEqual(2)
    const alpha = Array.from({ length: 64 }, (_, x) => (isCovered && x < 32 ? 127.5 : 255))
    expect(furthest(seen!.alpha, alpha)).toBeLessThanOrEqual(1)
  })

for (const file of ['plate_10.dpx', 'plate_16.dpx'])
  test(`${file}: its samples, which are light, are shown by the curve of BT.709`, async ({ workshop }) => {
    const { url, size } = workshop.fixture(file)
    const seen = await workshop.page.evaluate(([u, s]) => window.workshop.pictured(u, s, 'browser'), [
      url,
      size,
    ] as const)
    const stored = known[file] as { readonly screen: readonly number[] }
    // Near black the curve is steep: a step of eight bits is four and a half there.
    expect(
      furthest(
        seen!.screen,
        stored.screen.map((value) => 255 * signalOf(value / 255)),
      ),
    ).toBeLessThanOrEqual(6)
    expect(Math.max(...seen!.screen) - Math.min(...seen!.screen)).toBeGreaterThan(50)
  })

test('of an OpenEXR with overscan its display window is shown, or all that it holds', async ({
  workshop,
}) => {
  const row = (
    name: string,
    line: number,
    holds?: { left: number; top: number; width: number; height: number },
  ) => {
    const { url, size } = workshop.fixture(name)
    return workshop.page.evaluate(([u, s, l, h]) => window.workshop.row(u, s, 'toolkit', l, h), [
      url,
      size,
      line,
      holds,
    ] as const)
  }
  const whole = await row('light.exr', 18)
  // The window begins at 8, 4 and is 48 pixels wide; one file holds lines, the other tiles.
  for (const file of ['light_over.exr', 'light_tiled.exr']) {
    const shown = await row(file, 14)
    expect(shown!.red, file).toEqual(whole!.red.slice(8, 56))
    const held = await row(file, 18, { left: -8, top: -4, width: 64, height: 36 })
    expect(held, file).toEqual(whole)
  }
})

for (const file of ['red_hd_png.mov', 'red_hd_ffv1.mkv', 'red_hd_h264.mp4'])
  test(`${file}: red, green and blue of high definition come back as they were stored`, async ({
    workshop,
  }) => {
    const { url, size } = workshop.fixture(file)
    const seen = await workshop.page.evaluate(([u, s]) => window.workshop.row(u, s, 'toolkit', 10), [
      url,
      size,
    ] as const)
    expect(furthest([seen!.red[5]!, seen!.blue[5]!], [200, 30])).toBeLessThanOrEqual(1)
  })
