/** Ten thousand numbered pictures of a folder: until they are listed as one clip, and what is read of them. */
import { link, mkdir, mkdtemp, readFile, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { base, withBrowser } from './browser'
import { sized } from './size'

const picture = join(import.meta.dirname, '..', '..', 'test', 'fixtures', 'files', 'plate_10.dpx')

/** @returns milliseconds from *take in* until the clip is listed, and megabytes read of its files meanwhile */
export async function measureNumbered(
  count = sized(10_000, 1000),
): Promise<{ readonly listed: number; readonly megabytes: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'numbered-'))
  const here = join(folder, 'plates')
  try {
    await mkdir(here)
    // One file under many names: only one of them takes room.
    const whole = join(folder, 'plates', 'strike.000001.dpx')
    await writeFile(whole, await readFile(picture))
    const past = new Date(Date.now() - 3_600_000)
    await utimes(whole, past, past)
    for (let n = 2; n <= count; n++)
      if (n % 1000 !== 0) await link(whole, join(here, `strike.${String(n).padStart(6, '0')}.dpx`))
    return await withBrowser(
      async (browser) => {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
        await page.goto(`${base}/new?name=Plates`)
        await page.getByRole('button', { name: 'Begin the project' }).click()
        const takeIn = page.getByRole('button', {
          name: `Take in all ${count - count / 1000} from the siding`,
        })
        await takeIn.waitFor()
        let bytes = 0
        page.on('response', (answer) => (bytes += Number(answer.headers()['content-length'] ?? 0)))
        const begun = Date.now()
        await takeIn.click()
        await page.getByRole('option', { name: /^strike/ }).waitFor()
        return { listed: Date.now() - begun, megabytes: bytes / 1e6 }
      },
      ['--siding', folder],
    )
  } finally {
    await rm(folder, { recursive: true })
  }
}
