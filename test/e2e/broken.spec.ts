import { expect, test } from './workshop/test'

/** What goes wrong while decoding is told in a sentence, and nothing else stops. */
const plain = { bars: 0, onItsSide: false, line: 0.5 }

test('a decoder that is killed is told of after 20 seconds, and the next frame comes from another', async ({
  workshop,
}) => {
  const { page } = workshop
  const { url, size } = workshop.clip('archive_tape.mxf')
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
    workshop,
  }) => {
    const { page } = workshop
    const { url } = workshop.clip(file)
    const { seen, said } = await page.evaluate(
      ([u, by, where]) => window.workshop.damaged(u, by, [0.45, 0.5], [0, 1, 2], where),
      [url, engine, plain] as const,
    )
    const first = file === 'archive_tape.mxf' ? [0, 2, 4] : [0, 1, 2]
    seen.forEach((mark, i) => expect([first[i], (first[i] ?? 0) + 1]).toContain(mark))
    // Some frames are lost; the others are looked at.
    expect(Number(said)).toBeGreaterThan(15)
  })

test('a file that vanishes while it is measured is told of in a sentence', async ({ workshop }) => {
  const { page } = workshop
  for (const file of ['archive_tape.mxf', 'bell_swing_B011.mp4']) {
    const { url, size } = workshop.clip(file)
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
