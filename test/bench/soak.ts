/**
 * `npm run soak [-- MINUTES]`: an editor's day at speed – places, placing, treating, looking closer, playing, rendering, undoing – and what
 * the page and its workers hold meanwhile. Fails where that grows by more than a tenth after the first tenth.
 */
import { type Page } from '@playwright/test'
import { makeFile, queue } from '../e2e/delivering'
import { begun, clipToPlace, place } from '../e2e/line'
import { base, withBrowser } from './browser'

const minutes = Number(process.argv[2] ?? 10)
const clips = ['hall_wide_A003', 'pour_A007', 'archive_reel2', 'tower_P100', 'clerk_phone']

/** What is open and held: bytes of page and workers, workers, listeners and nodes. What was just done has let go of its frames by then. */
async function held(page: Page) {
  await page.waitForTimeout(6000)
  const session = await page.context().newCDPSession(page)
  await session.send('HeapProfiler.collectGarbage')
  await session.send('Performance.enable')
  const { metrics } = await session.send('Performance.getMetrics')
  await session.detach()
  const metric = (name: string) => metrics.find((metric) => metric.name === name)?.value ?? 0
  const bytes = await page.evaluate(async () => {
    const measure = (
      performance as unknown as { measureUserAgentSpecificMemory?: () => Promise<{ bytes: number }> }
    ).measureUserAgentSpecificMemory
    return measure ? (await measure.call(performance)).bytes : 0
  })
  return {
    megabytes: bytes / 1e6,
    workers: page.workers().length,
    listeners: metric('JSEventListeners'),
    nodes: metric('Nodes'),
  }
}

/** One round of work; everything that it changes is undone at its end. */
async function round(page: Page, n: number): Promise<void> {
  const clip = clips[n % clips.length] ?? ''
  await place(page, 'Arrivals')
  await page.getByRole('option', { name: new RegExp(clip) }).click()
  await page.getByRole('button', { name: 'Look closer' }).click()
  await page.getByRole('dialog').waitFor()
  await page.waitForTimeout(600)
  await page.keyboard.press('Escape')
  await page.getByRole('dialog').waitFor({ state: 'hidden' })
  await place(page, 'Yard')
  await page.getByRole('application', { name: /^The candidate is/ }).focus()
  for (const key of ['ArrowDown', 'ArrowRight', 'ArrowUp', 'ArrowLeft']) await page.keyboard.press(key)
  await place(page, 'Timelines')
  const placing = page.getByRole('button', { name: 'place clips…' })
  if (await placing.isVisible()) await placing.click()
  await clipToPlace(page, clip).press('Enter')
  const strip = page.getByRole('group', { name: /The cut to scale/ })
  await strip
    .getByRole('button', { name: new RegExp(`^${clip}`) })
    .last()
    .click()
  const choices = page.getByRole('radiogroup', { name: 'Framing' }).getByRole('radio')
  await choices.nth(1).click()
  await strip.focus()
  await page.keyboard.press('Home')
  await page.keyboard.press(' ')
  await page.waitForTimeout(1500)
  await page.keyboard.press(' ')
  await page.keyboard.press(';')
  await page.getByRole('complementary', { name: 'Terms' }).getByRole('button', { name: 'close' }).click()
  if (n % clips.length === 0) {
    await place(page, 'Dispatch')
    await makeFile(page, '640x360@25p', '00:00:00:10')
    await queue(page).getByText('made', { exact: true }).first().waitFor({ timeout: 60_000 })
    await place(page, 'Timelines')
  }
  // Back to the one clip of the beginning, its picture and its sound.
  const placed = strip.getByRole('button', { name: /\.(mp4|mov|mxf|wav)/ })
  while ((await placed.count()) > 2) await page.getByRole('button', { name: 'undo', exact: true }).click()
}

await withBrowser(async (browser) => {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    baseURL: base,
    serviceWorkers: 'block',
  })
  const page = await context.newPage()
  page.setDefaultTimeout(30_000)
  await begun(page, '1920x1080@25p', ['bell_swing_B011'])
  const until = Date.now() + minutes * 60_000
  const firstTenth = Date.now() + minutes * 6_000
  let rounds = 0
  let before: Awaited<ReturnType<typeof held>> | null = null
  while (Date.now() < until || rounds % clips.length > 0) {
    await round(page, rounds++)
    // Each clip was worked with, and each kind of work done, before anything is compared.
    if (rounds % clips.length > 0) continue
    if (!before && Date.now() > firstTenth) before = await held(page)
  }
  const after = await held(page)
  before ??= after
  console.log(`${rounds} rounds in ${minutes} minutes`)
  let grown = false
  for (const what of ['megabytes', 'workers', 'listeners', 'nodes'] as const) {
    const ratio = after[what] / Math.max(1, before[what])
    console.log(`${what}: ${before[what].toFixed(0)} → ${after[what].toFixed(0)} (${ratio.toFixed(2)})`)
    if (ratio > 1.1) grown = true
  }
  if (grown) process.exitCode = 1
})
