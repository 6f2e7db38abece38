import { statSync } from 'node:fs'
import { type Page, test as base } from '@playwright/test'
import { serveWorkshop } from './serve'

export { expect } from '@playwright/test'

interface Served {
  readonly url: string
  readonly size: number
}

/** The workshop, open in one page for all tests of a file: the engine that ships is loaded once. */
export interface Workshop {
  readonly page: Page
  readonly url: string
  /** Where a clip of the demo, or a file of the fixtures, is served, and its size in bytes. */
  clip(file: string): Served
  fixture(file: string): Served
}

export const test = base.extend<object, { workshop: Workshop }>({
  workshop: [
    async ({ browser }, use) => {
      const { url, close } = await serveWorkshop()
      const context = await browser.newContext()
      const page = await context.newPage()
      await page.goto(`${url}test/e2e/workshop/index.html`)
      await page.waitForFunction(() => document.title === 'ready')
      const served = (path: string): Served => ({
        url: `${url}${path}`,
        size: statSync(new URL(`../../../${path}`, import.meta.url)).size,
      })
      await use({
        page,
        url,
        clip: (file) => served(`tools/demo/clips/${file}`),
        fixture: (file) => served(`test/fixtures/files/${file}`),
      })
      await context.close()
      await close()
    },
    { scope: 'worker' },
  ],
})
