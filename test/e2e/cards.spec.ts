import { readFile } from 'node:fs/promises'
import { demoFile, dropFiles, expect, openDemo, place, row, saved, test } from './line'

/** A still of one colour, drawn in the page; a number behind its end makes it a file of its own. */
async function stills(page: import('@playwright/test').Page, count: number) {
  const base64 = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(64, 36)
    const context = canvas.getContext('2d')!
    context.fillStyle = '#a86a14'
    context.fillRect(0, 0, 64, 36)
    const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
    return btoa(String.fromCharCode(...bytes))
  })
  return Array.from({ length: count }, (_, i) => ({
    name: `strike_${String(i + 1).padStart(4, '0')}.png`,
    bytes: Buffer.concat([Buffer.from(base64, 'base64'), Buffer.from(String(i))]),
  }))
}

test('what is no clip is left aside in one line, and numbered stills are offered as one clip', async ({
  page,
}) => {
  await page.goto('/new?name=Cards')
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await dropFiles(page, '.arrivals', [
    { name: 'bell.mp4', bytes: await demoFile('bell_swing_B011.mp4') },
    // Bytes decide, not names.
    { name: 'pour.xml', bytes: await demoFile('pour_fast_B014.mp4') },
    ...Array.from({ length: 30 }, (_, i) => ({
      name: `C${i}.XML`,
      bytes: Buffer.from(`<?xml version="1.0"?><clip n="${i}"/>`),
    })),
    ...(await stills(page, 10)),
  ])
  await expect(page.getByRole('heading', { name: /^12 arrived$/ })).toBeVisible()
  await expect(row(page, 'pour.xml')).toContainText('H.264')
  const aside = page.getByRole('button', { name: '30 files left aside' })
  await expect(aside).toBeVisible()
  await expect(
    page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Arrivals' }),
  ).toHaveText('Arrivals')
  await aside.click()
  await expect(page.getByText(/C0\.XML, C1\.XML/)).toBeVisible()

  const offer = page.getByRole('status').filter({ hasText: '10 numbered stills' })
  await offer.getByLabel('Rate of the stills').fill('12.5')
  await expect(offer).toContainText('0.8 s as one clip')
  await offer.getByRole('button', { name: 'Make one clip' }).click()
  await expect(page.getByRole('heading', { name: /^3 arrived$/ })).toBeVisible()
  await row(page, 'strike_0001').click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await expect(docket).toContainText('10 numbered pictures, strike_0001.png to strike_0010.png, at 12.5')
  await expect(docket.getByRole('img', { name: /A frame of strike_0001/ })).toBeVisible({ timeout: 30_000 })
  await saved(page)
  await page.reload()
  await expect(page.getByRole('heading', { name: /^3 arrived$/ })).toBeVisible()
  await row(page, 'strike_0001').click()
  await docket.getByRole('button', { name: 'Take apart' }).click()
  await expect(page.getByRole('heading', { name: /^12 arrived$/ })).toBeVisible()
})

test('a project with a damaged clip opens without it, says so, and gives the damaged part out', async ({
  page,
}) => {
  await openDemo(page)
  await saved(page)
  // As an earlier version could have left it: more frames than a number counts.
  await page.evaluate(async () => {
    const db: IDBDatabase = await new Promise((done) => {
      const open = indexedDB.open('yard-tally')
      open.onsuccess = () => done(open.result)
    })
    const store = db.transaction('clips', 'readwrite').objectStore('clips')
    const rows: { name: string; reading: { video: { frameCount: number } } }[] = await new Promise((done) => {
      const all = store.getAll()
      all.onsuccess = () => done(all.result as never)
    })
    const bell = rows.find((row) => row.name.startsWith('bell_swing_B011'))!
    bell.reading.video.frameCount = 4.6e18
    await new Promise((done) => (store.put(bell).onsuccess = done))
    db.close()
  })
  await page.reload()
  await expect(page.getByRole('heading', { name: /^22 arrived$/ })).toBeVisible()
  const said = page.getByText('1 part of this project could not be read')
  await expect(said).toBeVisible()
  await said.click()
  await expect(page.getByText(/reading\.video\.frameCount/)).toBeVisible()
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save what was put aside' }).click(),
  ])
  const [part] = JSON.parse(await readFile(await file.path(), 'utf8'))
  expect(part).toMatchObject({
    what: 'clip',
    name: 'bell_swing_B011.mp4',
    row: { reading: { video: { frameCount: 4.6e18 } } },
  })
})

test('a second tab of a project only reads, and writes by itself once the first is closed', async ({
  page,
  context,
}) => {
  await openDemo(page)
  await saved(page)
  const second = await context.newPage()
  await second.goto(page.url())
  await expect(second.getByText('Open in another tab.')).toBeVisible()
  await expect(second.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible()
  await row(second, 'title_card').click()
  await second.keyboard.press('Delete')
  await expect(second.getByText('Not done: take out 1 clip.')).toBeVisible()
  await expect(second.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible()
  await page.close()
  await expect(second.getByText('Open in another tab.')).toBeHidden()
  await row(second, 'title_card').click()
  await second.keyboard.press('Delete')
  await expect(second.getByRole('heading', { name: /^22 arrived$/ })).toBeVisible()
  await saved(second)
})

test('without any moving picture the Yard ranks what the region has, and the footage loses nothing', async ({
  page,
}) => {
  await page.goto('/new?name=Cards')
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await dropFiles(page, '.arrivals', [{ name: 'title.png', bytes: await demoFile('title_card.png') }])
  await expect(page.getByRole('heading', { name: /^1 arrived$/ })).toBeVisible()
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await expect(candidates.getByRole('listitem').first()).toContainText('1920×1080 · 25p')
  await expect(page.getByText('Stills and sound never decide a format')).toBeVisible()
  await candidates.getByRole('button', { name: 'weights' }).click()
  await candidates.getByLabel('60 Hz').check()
  await candidates.getByRole('button', { name: 'candidates' }).click()
  await expect(candidates.getByRole('listitem').first()).toContainText('1920×1080 · 29.97p')
})
