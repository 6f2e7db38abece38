/** A scanned frame of 8192×4320 in 16 bits: until it is seen, and what the page holds for it. */
import { mkdtemp, open, rm, utimes } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { base, scales, withBrowser } from './browser'
import { sized } from './size'

const [width, height, headerLength] = [sized(8192, 256), sized(4320, 64), 2048]

/** A DPX of 16 bits, red, green and blue, its lines all alike (SMPTE ST 268-1). */
async function writePlate(path: string): Promise<void> {
  const header = new DataView(new ArrayBuffer(headerLength))
  new Uint8Array(header.buffer).set(new TextEncoder().encode('SDPX'))
  header.setUint32(4, headerLength)
  header.setUint16(770, 1)
  header.setUint32(772, width)
  header.setUint32(776, height)
  header.setUint8(800, 50)
  header.setUint8(801, 6)
  header.setUint8(803, 16)
  const line = new DataView(new ArrayBuffer(6 * width))
  for (let i = 0; i < 3 * width; i++) line.setUint16(2 * i, (i * 7) % 65_536)
  const file = await open(path, 'w')
  await file.write(new Uint8Array(header.buffer))
  for (let i = 0; i < height; i++) await file.write(new Uint8Array(line.buffer))
  await file.close()
  const past = new Date(Date.now() - 3_600_000)
  await utimes(path, past, past)
}

/** @returns milliseconds from *take in* until the picture is seen, and the megabytes that the page came to hold beyond those before */
export async function measureLargeStill(): Promise<{ readonly seen: number; readonly megabytes: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'plate-'))
  try {
    await writePlate(join(folder, 'plate.dpx'))
    return await withBrowser(
      async (browser) => {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
        const weigh = await scales(browser)
        await page.goto(`${base}/new?name=Plate`)
        await page.getByRole('button', { name: 'Begin the project' }).click()
        const takeIn = page.getByRole('button', { name: /^Take in .*siding$/ })
        await takeIn.waitFor()
        const before = await weigh()
        let most = before
        const watched = setInterval(() => void weigh().then((bytes) => (most = Math.max(most, bytes))), 100)
        const begun = Date.now()
        await takeIn.click()
        await page.locator('[role=option]').first().click()
        await page
          .getByRole('complementary', { name: 'Docket' })
          .locator('img')
          .first()
          .waitFor({ timeout: 120_000 })
        const seen = Date.now() - begun
        clearInterval(watched)
        return { seen, megabytes: most - before }
      },
      ['--siding', folder],
    )
  } finally {
    await rm(folder, { recursive: true })
  }
}
