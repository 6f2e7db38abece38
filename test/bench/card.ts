/** A card of twenty thousand small files: five thousand clips among fifteen thousand descriptions. */
import { mkdir, mkdtemp, readFile, rm, utimes, writeFile } from 'node:fs/promises'
import { readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { base, serverPid, withBrowser } from './browser'
import { sized } from './size'

const files = join(import.meta.dirname, '..', '..', 'test', 'fixtures', 'files')
const kinds = [
  'bell_plain.mp4',
  'rate_50.mp4',
  'rate_film.mp4',
  'reel_named.mov',
  'rate_15_ms.webm',
  'gate_ac3.ts',
]
const days = sized(50, 2)
const clipsADay = sized(100, 6)
const descriptionsADay = sized(300, 4)

export interface CardFigures {
  /** Milliseconds from the project's begin until the first files are offered, and all. */
  readonly offered: number
  readonly listed: number
  /** From *take in* until the first row, and until every clip is read. */
  readonly firstRow: number
  readonly read: number
  /** From a click on a row to the next painted frame, while reading goes on. */
  readonly choosing: readonly number[]
  /** Megabytes that the server holds at most. */
  readonly serverMegabytes: number
}

async function makeCard(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'card-'))
  const bytes = await Promise.all(kinds.map((name) => readFile(join(files, name))))
  const past = new Date(Date.now() - 3_600_000)
  for (let day = 0; day < days; day++) {
    const here = join(folder, `day${day}`, 'CLIP')
    await mkdir(here, { recursive: true })
    const put = async (name: string, content: Buffer | string) => {
      await writeFile(join(here, name), content)
      await utimes(join(here, name), past, past)
    }
    for (let i = 0; i < clipsADay; i++) {
      const kind = (i + day) % kinds.length
      const name = kinds[kind]
      // A few bytes behind the end make every file another.
      const free = Buffer.from(`\0\0\0\x10free${String(day).padStart(4)}${String(i).padStart(4)}`)
      await put(
        `A${day}_${i * 7}_${kind}${name!.slice(name!.lastIndexOf('.'))}`,
        Buffer.concat([bytes[kind]!, free]),
      )
    }
    for (let i = 0; i < descriptionsADay; i++)
      await put(`A${day}_${i}.XML`, `<?xml version="1.0"?><clip day="${day}" n="${i}"/>`)
  }
  return folder
}

const chooseARow = (page: Page) =>
  page.evaluate(async () => {
    const rows = [...document.querySelectorAll<HTMLElement>('[role=listbox] [role=option]')]
    const row = rows[Math.floor(rows.length / 2)]
    const begun = performance.now()
    row!.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }))
    row!.click()
    await new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)))
    return performance.now() - begun
  })

/** Takes the whole card in through the browser, from a server that watches it. */
export async function measureCard(): Promise<CardFigures> {
  const folder = await makeCard()
  try {
    return await withBrowser(
      async (browser) => {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
        let serverMegabytes = 0
        const weigh = () => {
          const status = readFileSync(`/proc/${serverPid()}/status`, 'utf8')
          serverMegabytes = Math.max(serverMegabytes, Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024)
        }
        await page.goto(`${base}/new?name=Cards`)
        const begun = Date.now()
        await page.getByRole('button', { name: 'Begin the project' }).click()
        const takeIn = page.getByRole('button', { name: /Take in all/ })
        await takeIn.waitFor()
        const offered = Date.now() - begun
        await page
          .getByText(`${days * (clipsADay + descriptionsADay)} files wait`)
          .waitFor({ timeout: 60_000 })
        const listed = Date.now() - begun
        const taken = Date.now()
        await takeIn.click()
        await page.locator('[role=listbox] [role=option]').first().waitFor()
        const firstRow = Date.now() - taken
        const choosing: number[] = []
        while (await page.getByRole('progressbar', { name: 'Files read' }).isVisible()) {
          choosing.push(await chooseARow(page))
          weigh()
          await page.waitForTimeout(400)
        }
        await page.getByRole('heading', { name: `${days * clipsADay} arrived` }).waitFor()
        return { offered, listed, firstRow, read: Date.now() - taken, choosing, serverMegabytes }
      },
      ['--siding', folder],
    )
  } finally {
    await rm(folder, { recursive: true })
  }
}
