import { statSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { serveWorkshop } from './workshop/serve'

/** What goes wrong while decoding is told in a sentence, and nothing else stops. */
let workshop: Awaited<ReturnType<typeof serveWorkshop>>
test.beforeAll(async () => {
  workshop = await serveWorkshop()
})
test.afterAll(() => workshop.close())
test.beforeEach(async ({ page }) => {
  await page.goto(`${workshop.url}e2e/workshop/index.html`)
  await page.waitForFunction(() => document.title === 'ready')
})
const clip = (file: string) => ({
  url: `${workshop.url}demo/clips/${file}`,
  size: statSync(new URL(`../demo/clips/${file}`, import.meta.url)).size,
})
const plain = { bars: 0, onItsSide: false, line: 0.5 }

test('a decoder that is killed is told of after 20 seconds, and the next frame comes from another', async ({
  page,
}) => {
  const { url, size } = clip('archive_tape.mxf')
  const came = await page.evaluate(([u, s, where]) => window.workshop.killed(u, s, 60, where), [
    url,
    size,
    plain,
  ] as const)
  expect(came!.told).toMatch(/cannot be decoded: nothing was decoded for 20 seconds, so it was ended/)
  expect([120, 121]).toContain(came!.mark)
})

for (const [file, engine] of [
  ['archive_tape.mxf', 'toolkit'],
  ['furnace_heat_12.avi', 'toolkit'],
  ['bell_swing_B011.mp4', 'browser'],
] as const)
  test(`${file}, damaged in its middle, shows what is whole and is measured all the same (${engine})`, async ({
    page,
  }) => {
    const { url } = clip(file)
    const { seen, said } = await page.evaluate(
      ([u, by, where]) => window.workshop.damaged(u, by, 0.45, 0.5, [0, 1, 2], where),
      [url, engine, plain] as const,
    )
    const first = file === 'archive_tape.mxf' ? [0, 2, 4] : [0, 1, 2]
    seen.forEach((mark, i) => expect([first[i], (first[i] ?? 0) + 1]).toContain(mark))
    // Some frames are lost; the others are looked at.
    expect(Number(said)).toBeGreaterThan(15)
  })

test('a file that vanishes while it is measured is told of in a sentence', async ({ page }) => {
  for (const file of ['archive_tape.mxf', 'bell_swing_B011.mp4']) {
    const { url, size } = clip(file)
    const gone = `${workshop.url}vanishing/2/${file}`
    const said = await page.evaluate(([u, g, s]) => window.workshop.vanished(u, g, s), [
      url,
      gone,
      size,
    ] as const)
    // What came until then is looked at, or it is said why nothing is.
    if (typeof said === 'string')
      expect(said).toMatch(/This clip cannot be decoded: .*(answered 404|no frame|not be read|Error)/)
    else expect(said).toBeGreaterThan(1)
  }
})
