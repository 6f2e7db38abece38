import { statSync } from 'node:fs'
import { type Page, test as base } from '@playwright/test'
import { serveWorkshop } from './serve'

export { expect } from '@playwright/test'

/** The workshop, open in one page for all tests of a file: the engine that ships is loaded once. */
export interface Workshop {
  readonly page: Page
  readonly url: string
  /** Where a clip of the demo is served, and its size in bytes. */
  clip(file: string): { readonly url: string; readonly size: number }
}

export const test = base.extend<object, { workshop: Workshop }>({
  workshop: [
    async ({ browser }, use) => {
      const { url, close } = await serveWorkshop()
      const page = await browser.newPage()
      await page.goto(`${url}e2e/workshop/index.html`)
      await page.waitForFunction(() => document.title === 'ready')
      const sizeOf = (file: string) => statSync(new URL(`../../demo/clips/${file}`, import.meta.url)).size
      await use({ page, url, clip: (file) => ({ url: `${url}demo/clips/${file}`, size: sizeOf(file) }) })
      await page.close()
      await close()
    },
    { scope: 'worker' },
  ],
})
