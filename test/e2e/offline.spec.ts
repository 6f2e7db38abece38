import { appendFile, cp, mkdtemp } from 'node:fs/promises'
import type { Server } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { makeFile, proofOf, queue } from './delivering'
import { addressOf, served, stopped } from './served'
import { begun, clipToPlace, expect, place, saved, test } from './line'

const root = join(import.meta.dirname, '..', '..')

test.use({ serviceWorkers: 'allow' })

const strip = (page: Page) => page.getByRole('group', { name: /The cut to scale/ })

/** A server of one's own, that can be stopped and serves a copy of the app that can become newer. */
let server: Server
let dist: string
test.beforeEach(async () => {
  dist = join(await mkdtemp(join(tmpdir(), 'app-')), 'dist')
  await cp(join(root, 'dist'), dist, { recursive: true })
  server = await served(true, dist)
})
test.afterEach(() => stop())
const address = () => addressOf(server)
const stop = () => stopped(server)

test('with the server stopped in the midst of work, the demo project opens, plays and renders', async ({
  browser,
}) => {
  test.setTimeout(300_000)
  const context = await browser.newContext({ baseURL: address(), serviceWorkers: 'allow' })
  const page = await context.newPage()
  await begun(page, '1920x1080@25p', ['bell_swing_B011'])
  await expect
    .poll(() => page.evaluate(async () => (await (await caches.open('demo-card')).keys()).length), {
      timeout: 60_000,
    })
    .toBe(24)
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await saved(page)
  await stop()
  // One more edit, with nobody there.
  await clipToPlace(page, 'bell_swing_B012').press('Enter')
  await saved(page)
  await page.reload()
  await expect(strip(page)).toBeVisible()
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true)
  await expect(page.getByRole('button', { name: /bell_swing_B011/ }).first()).toBeVisible()

  // It plays: pictures of the clip, from what is kept.
  await strip(page).focus()
  await page.keyboard.press('Home')
  await expect(page.getByRole('img', { name: 'bell_swing_B011.mp4, source frame 1' })).toBeVisible({
    timeout: 30_000,
  })
  await expect(page.getByText('source frame 1 · exact')).toBeVisible({ timeout: 30_000 })
  await page.keyboard.press(' ')
  await expect(page.getByText(/of 25 frames a second/)).toBeVisible({ timeout: 30_000 })

  // It renders, and the file is read back.
  await place(page, 'Dispatch')
  await makeFile(page, '1280x720@25p', '00:00:01:00')
  await expect(queue(page).getByText('made', { exact: true })).toHaveCount(1, { timeout: 120_000 })
  const proof = await proofOf(page)
  expect(proof.get('each frame')?.holds).toBe('matches')
  await context.close()
})

test('a new version is offered, never forced, and takes nothing away', async ({ browser }) => {
  const context = await browser.newContext({ baseURL: address(), serviceWorkers: 'allow' })
  const page = await context.newPage()
  await begun(page, '1920x1080@25p', ['bell_swing_B011'])
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await appendFile(join(dist, 'service-worker.js'), '\n// newer\n')
  await page.evaluate(async () => (await navigator.serviceWorker.ready).update().then(() => undefined))
  const notice = page.getByRole('status').filter({ hasText: 'A new version is here.' })
  await expect(notice).toBeVisible()
  // The one that is open goes on, for as long as one likes.
  await page.getByRole('button', { name: 'New timeline' }).click()
  const gone = page.waitForEvent('load')
  await notice.getByRole('button', { name: 'Take it' }).click()
  await gone
  await expect(notice).toBeHidden()
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible()
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByRole('button', { name: 'undo' })).toBeVisible()
  await context.close()
})
