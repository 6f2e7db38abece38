/** What pictures cost in the browser: posters of three hundred clips of both engines, and a clip of sixty gigabytes measured. */
import { execFile } from 'node:child_process'
import { copyFile, mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Page } from '@playwright/test'
import { base, serverPid, withBrowser, scales } from './browser'
import { writeSparse } from './sparse'
import { sized } from './size'

const demo = join(import.meta.dirname, '..', '..', 'tools', 'demo', 'clips')

/** Begins a project and takes in what waits on the siding. */
async function takeIn(page: Page, count: number): Promise<void> {
  await page.goto(`${base}/new?name=Pictures`)
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await page.getByRole('button', { name: `Take in all ${count} from the siding` }).click({ timeout: 60_000 })
}

const posters = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((settle, fail) => {
        const opening = indexedDB.open('yard-tally')
        opening.onerror = () => fail(opening.error)
        opening.onsuccess = () => {
          const counting = opening.result.transaction('posters').objectStore('posters').count()
          counting.onsuccess = () => {
            opening.result.close()
            settle(counting.result)
          }
        }
      }),
  )

export interface PosterFigures {
  readonly seconds: number
  readonly made: number
  /** From a click on a row to the next painted frame meanwhile, in milliseconds. */
  readonly choosing: readonly number[]
}

/** Three hundred HD clips, half of them for the second engine. */
export async function measurePosters(): Promise<PosterFigures> {
  const folder = await mkdtemp(join(tmpdir(), 'posters-'))
  const kinds = ['bell_swing_B011.mp4', 'archive_tape.mxf', 'archive_dub_07.mp4', 'mould_take_E003.mxf']
  const count = sized(300, 4)
  for (let i = 0; i < count; i++) {
    const kind = kinds[i % kinds.length] ?? ''
    await copyFile(join(demo, kind), join(folder, `take_${String(i).padStart(3, '0')}${kind.slice(-4)}`))
  }
  try {
    return await withBrowser(
      async (browser) => {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
        await takeIn(page, count)
        await page.locator('[role=listbox] [role=option]').first().waitFor({ timeout: 60_000 })
        const began = performance.now()
        const choosing: number[] = []
        let drawn = 0
        while (drawn < count && performance.now() - began < 300_000) {
          await page.waitForTimeout(1000)
          choosing.push(
            await page.evaluate(async () => {
              const rows = document.querySelectorAll<HTMLElement>('[role=option]')
              const clicked = performance.now()
              rows[Math.floor(rows.length / 2)]?.click()
              await new Promise((painted) => requestAnimationFrame(() => setTimeout(painted)))
              return performance.now() - clicked
            }),
          )
          drawn = await posters(page)
        }
        return { seconds: (performance.now() - began) / 1000, made: drawn, choosing }
      },
      ['--siding', folder],
    )
  } finally {
    await rm(folder, { recursive: true })
  }
}

export interface HugeFigures {
  readonly gigabytes: number
  readonly seconds: number
  readonly frames: string
  /** What the server sent of it, in megabytes. */
  readonly megabytesRead: number
  /** What the page and its workers held at most, and what of it they held when measuring began, in megabytes. */
  readonly megabytesHeld: number
  readonly megabytesBefore: number
}

/** Bytes that a process has written to sockets and files so far. */
async function sent(pid: number): Promise<number> {
  const text = await readFile(`/proc/${pid}/io`, 'utf8')
  return Number(/^wchar: (\d+)/m.exec(text)?.[1] ?? 0)
}

/**
 * A sparse clip of sixty gigabytes, measured over the siding.
 * @param name of the demo's clip that its frames are from
 * @param times that these follow each other in it; more than once needs the media toolkit
 */
export async function measureHuge(name: string, times: number): Promise<HugeFigures> {
  const folder = await mkdtemp(join(tmpdir(), 'huge-'))
  const gigabytes = sized(60, 1)
  let source = join(demo, name)
  if (times > 1) {
    const longer = join(tmpdir(), `longer-${process.pid}.mp4`)
    const words = [
      '-v',
      'error',
      '-y',
      '-stream_loop',
      `${times - 1}`,
      '-i',
      source,
      '-map',
      '0:v',
      '-c',
      'copy',
      '-write_tmcd',
      '0',
      longer,
    ]
    await promisify(execFile)('ffmpeg', words)
    source = longer
  }
  await writeSparse(source, join(folder, 'long_take.mp4'), gigabytes * 2 ** 30)
  if (times > 1) await rm(source)
  try {
    return await withBrowser(
      async (browser) => {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
        await takeIn(page, 1)
        await page.locator('[role=listbox] [role=option]').first().click({ timeout: 60_000 })
        await page.getByRole('region', { name: 'Being measured' }).waitFor({ timeout: 60_000 })
        const before = await sent(serverPid())
        const began = performance.now()
        let [held, first] = [0, 0]
        const weigh = await scales(browser)
        const locator = page.getByText(/of it were looked at/)
        while (!(await locator.isVisible()) && performance.now() - began < 120_000) {
          held = Math.max(held, await weigh())
          first ||= held
          await page.waitForTimeout(100)
        }
        return {
          gigabytes,
          seconds: (performance.now() - began) / 1000,
          frames: await locator.innerText(),
          megabytesRead: ((await sent(serverPid())) - before) / 1e6,
          megabytesHeld: held,
          megabytesBefore: first,
        }
      },
      ['--siding', folder],
    )
  } finally {
    await rm(folder, { recursive: true })
  }
}
