/** How long a newcomer waits: the first view, and twelve clips from the siding. */
import type { Browser } from '@playwright/test'
import { base, withBrowser } from './browser'
import { sized } from './size'

/** Milliseconds in the page, five times over, each in a fresh context so that nothing is cached. */
export async function measureFirstUse(): Promise<{ firstView: number[]; twelveClips: number[] }> {
  const firstView: number[] = []
  const twelveClips: number[] = []
  await withBrowser(async (browser) => {
    for (let i = 0; i < sized(5, 1); i++) await measureOnce(browser, firstView, twelveClips)
  })
  return { firstView, twelveClips }
}

async function measureOnce(browser: Browser, firstView: number[], twelveClips: number[]) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  await page.addInitScript(() => {
    new MutationObserver((_, observer) => {
      if (!document.querySelector('main button')) return
      performance.mark('usable')
      observer.disconnect()
    }).observe(document, { childList: true, subtree: true })
  })
  await page.goto(base)
  await page.getByRole('button', { name: 'Begin' }).waitFor()
  firstView.push(await page.evaluate(() => performance.getEntriesByName('usable')[0]!.startTime))
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.getByRole('button', { name: 'Begin the project' }).click()
  // The stand-in's files have to arrive first.
  await page.getByRole('button', { name: 'Take in all 23 from the siding' }).waitFor()
  await page.getByRole('button', { name: /^Siding/ }).click()
  const boxes = page.getByRole('dialog').getByRole('listitem').getByRole('checkbox')
  await boxes.nth(18).waitFor()
  for (let n = 12; n < 23; n++) await boxes.nth(n).uncheck()
  await page.evaluate(() => {
    const button = [...document.querySelectorAll('button')].find((b) =>
      b.textContent?.includes('Take in 12'),
    )!
    button.addEventListener('click', () => performance.mark('clicked'), { capture: true })
    new MutationObserver((_, observer) => {
      if (document.querySelectorAll('[role=option]').length < 12) return
      performance.mark('listed')
      observer.disconnect()
    }).observe(document.body, { childList: true, subtree: true })
  })
  await page.getByRole('button', { name: 'Take in 12' }).click()
  await page.waitForFunction(() => performance.getEntriesByName('listed').length > 0)
  twelveClips.push(await page.evaluate(() => performance.measure('took', 'clicked', 'listed').duration))
  await context.close()
}
