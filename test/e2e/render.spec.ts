import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { card, files, makeFile, proofOf, queue } from './delivering'
import { begun, clipToPlace, demoFile, place, saved } from './line'

/** Deliverables that are made: real files, read back. */

test('a cut goes out progressive, in fields, upright and for the edit, from one queue, each proven', async ({
  page,
}) => {
  test.setTimeout(300_000)
  await begun(page, '3840x2160@25p', ['bell_swing_B011', 'tower_P100'])
  await place(page, 'Dispatch')
  await makeFile(page, '3840x2160@25p', '00:00:00:12')
  await makeFile(page, '1920x1080@50i', '00:00:01:00')
  await makeFile(page, '1080x1920@25p', '00:00:01:00', async () => {
    await page.getByLabel('Framing in another shape').selectOption('fill')
  })
  await makeFile(page, '1280x720@25p', '00:00:01:00', async () => {
    await page.getByLabel('Codec', { exact: true }).selectOption('ProRes')
  })
  await expect(queue(page).getByText('made', { exact: true })).toHaveCount(4, { timeout: 240_000 })
  for (const [name, wrapper, codec] of [
    ['3840×2160 · 25p', 'MP4', 'H.264'],
    ['1920×1080 · 50i', 'MXF', 'MPEG-2'],
    ['1080×1920 · 25p', 'MP4', 'H.264'],
    ['1280×720 · 25p', 'QuickTime', 'ProRes'],
  ] as const)
    await test.step(name, async () => {
      await card(page, name).click()
      const proof = await proofOf(page)
      expect(proof.get('wrapper')?.found).toBe(wrapper)
      expect(proof.get('codec')?.found).toContain(codec)
      expect([...proof].filter(([, { holds }]) => holds === 'differs')).toEqual([])
      for (const what of ['picture', 'length', 'each frame', 'levels', 'sound'])
        expect(proof.get(what)?.holds, what).toBe('matches')
    })
  expect(await files(page)).toEqual([
    'The-Ninth-Bell_1080-1920-25p.mp4',
    'The-Ninth-Bell_1280-720-25p.mov',
    'The-Ninth-Bell_1920-1080-50i.mxf',
    'The-Ninth-Bell_3840-2160-25p.mp4',
  ])
})

test('what is ended leaves nothing, and what a page that went has left is named and taken away', async ({
  page,
}) => {
  test.setTimeout(120_000)
  await begun(page, '3840x2160@25p', ['hall_wide_A003'])
  await saved(page)
  await place(page, 'Dispatch')
  await makeFile(page, '1920x1080@25p', '00:00:20:00')
  await expect(queue(page).getByText(/^frame \d+/)).toBeVisible({ timeout: 60_000 })
  await queue(page).getByRole('button', { name: 'pause' }).click()
  await queue(page).getByRole('button', { name: 'go on' }).click()
  await queue(page)
    .getByRole('button', { name: /^Cancel/ })
    .click()
  await expect(queue(page).getByText('ended', { exact: true })).toBeVisible()
  await expect.poll(() => files(page)).toEqual([])
  await page.getByRole('button', { name: 'Make the file' }).click()
  await expect(queue(page).getByText(/^frame \d+/)).toBeVisible({ timeout: 60_000 })
  expect(await files(page)).toEqual(['The-Ninth-Bell_1920-1080-25p.mp4.unfinished'])
  await saved(page)
  await page.reload()
  await expect(queue(page)).toContainText('was taken away: The-Ninth-Bell_1920-1080-25p.mp4.')
  await expect.poll(() => files(page)).toEqual([])
})

test('what of a cut goes out is typed at either end first, and told beside the field where it cannot be', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p', ['hall_wide_A003'])
  await place(page, 'Dispatch')
  await page.getByRole('button', { name: 'New…' }).click()
  await page.getByLabel('Format to deliver').fill('1280x720@25p')
  await page.getByLabel('Format to deliver').press('Enter')
  const [from, to] = [page.getByLabel('From timecode'), page.getByLabel('To timecode')]
  const type = async (field: typeof from, text: string) => {
    await field.fill(text)
    await field.press('Enter')
  }
  const trouble = page.getByRole('alert')
  const range = async (first: string, last: string) => {
    await expect(from).toHaveValue(first)
    await expect(to).toHaveValue(last)
  }
  await type(to, '00:00:05:00')
  await range('00:00:00:00', '00:00:05:00')
  // Behind the old end: what was the end is where it begins.
  await type(from, '00:00:08:00')
  await range('00:00:05:00', '00:00:08:00')
  await type(to, '00:00:02:00')
  await range('00:00:02:00', '00:00:05:00')
  await expect(trouble).toHaveCount(0)
  await type(to, '01:00:00:00')
  await expect(trouble).toContainText('“01:00:00:00” lies outside: the cut goes from 00:00:00:00 to ')
  await range('00:00:02:00', '00:00:05:00')
  await type(from, 'soon')
  await expect(trouble).toContainText('“soon” is no timecode at 25')
  await type(to, '00:00:02:00')
  await expect(trouble).toContainText('It would begin where it ends.')
  await type(to, '00:00:04:00')
  await expect(trouble).toHaveCount(0)
  await range('00:00:02:00', '00:00:04:00')
})

test('a render that cannot go on leaves nothing, and says why: no room, a source that is gone', async ({
  page,
  context,
}) => {
  test.setTimeout(180_000)
  // A file of the editor's own, with a box behind it that nobody reads, so that it is none of the demo's.
  const own = join(await mkdtemp(join(tmpdir(), 'own-')), 'hall_copy.mp4')
  const free = Buffer.from([0, 0, 0, 8, ...Buffer.from('free')])
  await writeFile(own, Buffer.concat([await demoFile('hall_wide_A003.mp4'), free]))
  await begun(page, '1920x1080@25p', ['bell_swing_B011'])
  await place(page, 'Arrivals')
  await page.getByLabel('Files to take in').setInputFiles(own)
  await expect(page.getByRole('heading', { name: /^24 arrived$/ })).toBeVisible()
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'place clips…' }).click()
  await clipToPlace(page, 'hall_copy').press('Enter')
  await saved(page)
  await place(page, 'Dispatch')
  const session = await context.newCDPSession(page)
  const quota = (quotaSize?: number) =>
    session.send('Storage.overrideQuotaForOrigin', { origin: new URL(page.url()).origin, quotaSize })
  await quota(3_000_000)
  await makeFile(page, '1920x1080@25p', '00:00:10:00', async () => {
    await page.getByLabel('Codec', { exact: true }).selectOption('FFV1')
  })
  await expect(queue(page).getByRole('alert')).toContainText(/room|space/, { timeout: 90_000 })
  await expect(queue(page)).toContainText('Nothing of it was kept.')
  await expect.poll(() => files(page)).toEqual([])
  await quota()
  // The second clip goes while the first one is rendered.
  await page.getByRole('button', { name: 'Make the file' }).click()
  await expect(queue(page).getByText(/^frame \d+/)).toBeVisible({ timeout: 60_000 })
  await rm(own)
  await expect(queue(page).getByRole('alert')).toContainText('Nothing of it was kept.', { timeout: 90_000 })
  await expect(queue(page).getByRole('alert')).not.toContainText(/room|space/)
  await expect.poll(() => files(page)).toEqual([])
})

test('the cut goes out as OpenTimelineIO and as a decision list, and comes in again beside itself', async ({
  page,
}) => {
  test.setTimeout(90_000)
  await begun(page, '3840x2160@25p', ['hall_wide_A003', 'bell_swing_B011', 'hall_sound'])
  await place(page, 'Dispatch')
  const handOver = page.getByRole('complementary', { name: 'Hand over' })
  const saved = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      handOver.getByRole('button', { name }).click(),
    ])
    return download.path()
  }
  for (const [name, ending] of [
    ['Cut as OpenTimelineIO', 'otio'],
    ['Edit decision list', 'edl'],
  ] as const) {
    const bytes = await readFile(await saved(name))
    await handOver
      .getByLabel('Cut of another program')
      .setInputFiles({ name: `From the tower.${ending}`, mimeType: 'text/plain', buffer: bytes })
    await expect(handOver.getByRole('status')).toContainText('Taken in as a timeline')
  }
  await place(page, 'Timelines')
  const strip = page.locator('button.block')
  await expect(strip.filter({ hasText: 'hall_wide_A003' }).first()).toBeVisible()
  await expect(strip.filter({ hasText: 'bell_swing_B011' }).first()).toBeVisible()
  await expect(
    page
      .getByRole('complementary', { name: 'Timelines and clips' })
      .getByRole('button', { name: /^Carry “/ }),
  ).toHaveCount(3)
})

test('a file goes into a folder of the editor’s own, and is proven there', async ({ page }) => {
  test.setTimeout(90_000)
  // A folder of the browser's own stands in for one that is granted.
  await page.addInitScript(() =>
    Object.assign(window, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('For the founder', { create: true }),
    }),
  )
  await begun(page, '1920x1080@25p', ['bell_swing_B011'])
  await place(page, 'Dispatch')
  await page.getByRole('button', { name: 'New…' }).click()
  await page.getByLabel('Format to deliver').fill('640x360@25p')
  await page.getByLabel('Format to deliver').press('Enter')
  await queue(page).getByRole('button', { name: 'into a folder…' }).click()
  await expect(queue(page)).toContainText('into For the founder')
  await page.getByRole('button', { name: 'Make the file' }).click()
  await expect(queue(page).getByText('made', { exact: true })).toBeVisible({ timeout: 60_000 })
  expect([...(await proofOf(page))].filter(([, { holds }]) => holds === 'differs')).toEqual([])
  expect(await files(page)).toEqual([])
  const there = await page.evaluate(async () => {
    const root = await navigator.storage.getDirectory()
    const folder = await root.getDirectoryHandle('For the founder')
    return (await (await folder.getFileHandle('The-Ninth-Bell_640-360-25p.mp4')).getFile()).size
  })
  expect(there).toBeGreaterThan(10_000)
})
