import { readFile } from 'node:fs/promises'
import { gzipSync } from 'node:zlib'
import { type Page, expect, test as base } from '@playwright/test'
import { mark, readMark } from '../../tools/demo/frame-mark'

/** Every browser test fails on a warning or an error in the console. */
export const test = base.extend<{ quiet: void }>({
  quiet: [
    async ({ page }, use) => {
      const said: string[] = []
      page.on('console', (message) => {
        // What keeps the app is left out of all tests but its own.
        if (message.text() === 'Service Worker registration blocked by Playwright') return
        if (['warning', 'error'].includes(message.type())) said.push(`${message.type()}: ${message.text()}`)
      })
      page.on('pageerror', (error) => said.push(`page error: ${error.message}`))
      await use()
      expect(said).toEqual([])
    },
    { auto: true },
  ],
})
export { expect }

export const place = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name }).click()

/**
 * Opens the demo and waits until all of its files are listed.
 * @param measured whether its pictures are measured in the background; what does not look at that is faster without
 */
export async function openDemo(page: Page, measured = false) {
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo' }).click()
  await expect(page.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible({ timeout: 30_000 })
  if (!measured)
    await page.getByRole('region', { name: 'Being measured' }).getByRole('button', { name: 'pause' }).click()
}

/** Waits until everything is on disk: a reload in the same instant would interrupt the writing. */
export const saved = (page: Page) => expect(page.getByRole('banner')).toHaveAttribute('data-saved', 'true')

/** The first list row of a clip. */
export const row = (page: Page, name: string) => page.getByRole('option', { name: new RegExp(name) })

/** A clip in the list beside the timelines. */
export const clipToPlace = (page: Page, name: string) =>
  page
    .getByRole('complementary', { name: 'Timelines and clips' })
    .getByRole('button', { name: new RegExp(`^${name}`) })

/** Sets the project's format and begins a timeline that asks nothing, with clips as they come. */
export async function cutIn(page: Page, format: string, clips: readonly string[] = []) {
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await candidates.getByLabel('Another format').fill(format)
  await candidates.getByRole('button', { name: 'Try' }).click()
  await candidates.getByRole('button', { name: 'Set as project format' }).click()
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await page.getByLabel('ask about mismatches').uncheck()
  for (const clip of clips) await clipToPlace(page, clip).press('Enter')
}

/** The demo in a format, with a timeline that holds clips as they come. */
export async function begun(page: Page, format: string, clips: readonly string[] = []) {
  await openDemo(page)
  await cutIn(page, format, clips)
}

/** Drops files of the demo card onto the page, as a hand would. */
export async function dropFiles(page: Page, target: string, files: { name: string; bytes: Buffer }[]) {
  const transfer = await page.evaluateHandle(
    (list) => {
      const data = new DataTransfer()
      for (const { name, base64 } of list) {
        const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
        data.items.add(new File([bytes], name))
      }
      return data
    },
    files.map(({ name, bytes }) => ({ name, base64: bytes.toString('base64') })),
  )
  await page.dispatchEvent(target, 'drop', { dataTransfer: transfer })
}

export const demoFile = (name: string) => readFile(new URL(`../../tools/demo/clips/${name}`, import.meta.url))

/** The source frame number that the picture in the viewer itself bears; `picture` is where it lies, as shares of the frame. */
export async function markOnScreen(page: Page, picture: { height: number; top?: number }) {
  const { top = 0, height } = picture
  const { row, size } = await page.locator('.viewer canvas').evaluate(
    (canvas: HTMLCanvasElement, line) => {
      const copy = new OffscreenCanvas(canvas.width, 1).getContext('2d', { willReadFrequently: true })!
      copy.drawImage(canvas, 0, -Math.floor(canvas.height * line))
      return { row: [...copy.getImageData(0, 0, canvas.width, 1).data], size: [canvas.width, canvas.height] }
    },
    top + height * (mark.top + mark.height / 2),
  )
  return readMark({
    left: 0,
    top: top * size[1]!,
    width: size[0]!,
    height: height * size[1]!,
    luma: (x) => row[x * 4 + 1]!,
  })
}

export const gzipped = (text: Buffer | string) => gzipSync(text).length

/** A disk that can be full: while it is, the browser refuses every write. Before the page is opened. */
export async function fillable(page: Page) {
  await page.addInitScript(() => {
    const put = IDBObjectStore.prototype.put
    IDBObjectStore.prototype.put = function (...args) {
      if ((window as { full?: boolean }).full)
        throw new DOMException('The disk is full.', 'QuotaExceededError')
      return put.apply(this, args)
    }
  })
  return (full: boolean) => page.evaluate((value) => void ((window as { full?: boolean }).full = value), full)
}

/** Goes to a clip in the table of what each pays: of many only some rows are drawn. */
export async function findPayer(page: Page, name: string) {
  const table = page.getByRole('grid', { name: 'What each clip pays' })
  // What is measured meanwhile may change what clips pay, and with it their order.
  await expect(async () => {
    await table.focus()
    await page.keyboard.type(name.toLowerCase())
    await expect(table.getByRole('row', { name: new RegExp(name) })).toBeVisible({ timeout: 2000 })
  }).toPass()
}
