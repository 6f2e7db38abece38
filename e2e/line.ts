import { readFile } from 'node:fs/promises'
import { gzipSync } from 'node:zlib'
import { type Page, expect, test as base } from '@playwright/test'
import { readMark } from '../demo/frame-mark'

/** Every browser test fails on a warning or an error in the console. */
export const test = base.extend<{ quiet: void }>({
  quiet: [
    async ({ page }, use) => {
      const said: string[] = []
      page.on('console', (message) => {
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

/** Opens the demo and waits until all of its files are listed. */
export async function openDemo(page: Page) {
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo' }).click()
  await expect(page.getByRole('heading', { name: /^19 arrived$/ })).toBeVisible()
}

/** The first list row of a clip. */
export const row = (page: Page, name: string) => page.getByRole('option', { name: new RegExp(name) })

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

export const demoFile = (name: string) => readFile(new URL(`../demo/clips/${name}`, import.meta.url))

/** The source frame number that the picture in the viewer itself bears. */
export async function markOnScreen(
  page: Page,
  picture: { width: number; height: number; left?: number; top?: number },
) {
  const { pixels, width, height } = await page
    .locator('.viewer canvas')
    .evaluate((canvas: HTMLCanvasElement) => ({
      pixels: [...canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height).data],
      width: canvas.width,
      height: canvas.height,
    }))
  const left = (picture.left ?? 0) * width
  const top = (picture.top ?? 0) * height
  return readMark({
    left,
    top,
    width: picture.width * width,
    height: picture.height * height,
    luma: (x, y) => pixels[(y * width + x) * 4 + 1],
  })
}

export const gzipped = (text: Buffer | string) => gzipSync(text).length
