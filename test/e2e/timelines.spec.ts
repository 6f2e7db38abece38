import { type Page } from '@playwright/test'
import { begun, clipToPlace, expect, fillable, markOnScreen, place, row, saved, test } from './line'

const strip = (page: Page) => page.getByRole('group', { name: /The cut to scale/ })
const canvas = (page: Page) => page.locator('.viewer canvas')
/** The blocks of a clip's picture on the strip, without those of its sound. */
const block = (page: Page, name: string) =>
  strip(page).getByRole('button', { name: new RegExp(`^${name}\\S*: (?!sound$)`) })
const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' })

/** What the viewer shows at the playhead, in words. */
async function shown(page: Page): Promise<string> {
  await expect(canvas(page)).toHaveAttribute('data-shown', /./, { timeout: 30_000 })
  return (await canvas(page).getAttribute('data-shown'))!
}

test('a cut changes no frame, is undone, and what is moved plays the same', async ({ page }) => {
  await begun(page, '1920x1080@25p', ['clerk_phone', 'bell_swing_B011'])
  await strip(page).focus()
  // A phone clip of a variable rate in 25p: each label is the mark in its picture.
  const look = async (from: number, many: number) => {
    await strip(page).press('Home')
    for (let i = 0; i < from; i++) await strip(page).press('ArrowRight')
    const seen: string[] = []
    for (let i = 0; i < many; i++) {
      seen.push(await shown(page))
      await strip(page).press('ArrowRight')
    }
    return seen
  }
  const before = await look(40, 6)
  await strip(page).press('Home')
  for (let i = 0; i < 43; i++) await strip(page).press('ArrowRight')
  await strip(page).press('n')
  await expect(block(page, 'clerk_phone')).toHaveCount(2)
  expect(await look(40, 6)).toEqual(before)
  await page.keyboard.press('Control+z')
  await expect(block(page, 'clerk_phone')).toHaveCount(1)

  // Later: the two change places, and the docket knows the end of the line.
  await block(page, 'clerk_phone').click()
  await expect(docket(page).getByRole('button', { name: 'Earlier' })).toBeDisabled()
  await strip(page).press('l')
  await expect(docket(page)).toContainText('placed at 00:00:04:00')
  await expect(docket(page).getByRole('button', { name: 'Later' })).toBeDisabled()
  await strip(page).press('Home')
  await expect(canvas(page)).toHaveAttribute('data-source-frame', '1', { timeout: 30_000 })
  expect(await markOnScreen(page, { height: 1 })).toBe(1)
})

test('the strip zooms, and a timeline is taken out and comes back', async ({ page }) => {
  await begun(page, '1920x1080@25p', ['hall_wide_A003', 'pour_A007'])
  await expect(strip(page)).toContainText('all of it in view')
  await strip(page).focus()
  for (let i = 0; i < 6; i++) await strip(page).press('+')
  await expect(strip(page)).toContainText('px a second')
  // What is out of view is not drawn, and comes with the playhead.
  await expect(block(page, 'pour_A007')).toHaveCount(0)
  await strip(page).press('End')
  await expect(block(page, 'pour_A007')).toBeVisible()
  await expect(block(page, 'hall_wide')).toHaveCount(0)
  await strip(page).press('0')
  await expect(block(page, 'hall_wide')).toBeVisible()

  await page.getByRole('button', { name: /^take out “.*”, the timeline$/ }).click()
  await expect(page.getByText('No timeline yet')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(block(page, 'pour_A007')).toBeVisible()
})

test('taking a clip out lists what goes with it, and closes the gap by choice', async ({ page }) => {
  await begun(page, '1920x1080@25p', ['hall_wide_A003', 'pour_A007', 'bell_swing_B011'])
  await expect(page.getByText('frame 0 of')).toBeVisible()
  const length = async () => Number((await page.getByText(/^frame 0 of/).innerText()).split(' ').at(-1))
  const whole = await length()
  for (const [choice, left] of [
    ['leave the gaps', whole],
    ['close the gaps', whole - 550],
  ] as const) {
    await place(page, 'Arrivals')
    await row(page, 'pour_A007').click()
    await page.keyboard.press('Delete')
    const sheet = page.getByRole('dialog')
    await expect(sheet).toContainText('1 placement goes along with pour_A007')
    await expect(sheet).toContainText('00:00:32:00')
    await sheet.getByLabel(choice).check()
    await sheet.getByRole('button', { name: 'Take them out' }).click()
    await expect(sheet).toBeHidden()
    await place(page, 'Timelines')
    await expect(block(page, 'pour_A007')).toHaveCount(0)
    expect(await length()).toBe(left)
    await page.keyboard.press('Control+z')
    await expect(block(page, 'pour_A007')).toHaveCount(1)
  }
})

test('a corrected turn stands upright, a corrected rate tells what it shortens', async ({ page }) => {
  await begun(page, '1920x1080@25p', ['bell_swing_B011', 'pour_A007'])
  const correct = async (clip: string, fill: (sheet: ReturnType<Page['getByRole']>) => Promise<unknown>) => {
    await place(page, 'Arrivals')
    await row(page, clip).click()
    await page.getByRole('button', { name: /^Correct/ }).click()
    const sheet = page.getByRole('dialog')
    await fill(sheet)
    await sheet.getByRole('button', { name: 'Correct it' }).click()
    await expect(sheet).toBeHidden()
    await place(page, 'Timelines')
    await block(page, clip).click()
  }
  await correct('pour_A007', (sheet) => sheet.getByLabel('Turn').selectOption('90'))
  await expect(docket(page)).toContainText('2160×3840')
  // Upright within 1080 lines: the same scale both ways, 656.25 px of bars at each side.
  await expect(docket(page)).toContainText('0.2813 × 0.2813')
  await expect(docket(page)).toContainText('bars of 656.3 px left and right')
  await expect(row(page, 'never')).toHaveCount(0)

  await correct('bell_swing_B011', async (sheet) => {
    await sheet.getByLabel('Rate').fill('100')
    await expect(sheet.getByRole('note')).toContainText('1 placement')
  })
  // 200 frames at 100 a second last 2 s: 50 frames of 25p.
  await expect(docket(page)).toContainText('for 50 frames')
  await expect(docket(page)).not.toContainText('beyond the end')
})

test('what is owed of a project stays when another is opened, is told and can be exported', async ({
  page,
}) => {
  const disk = await fillable(page)
  await begun(page, '1920x1080@25p', [])
  await saved(page)
  await disk(true)
  await clipToPlace(page, 'hall_wide_A003').press('Enter')
  await expect(page.getByRole('alert')).toContainText('The last changes are not saved')
  await page.getByRole('link', { name: 'Yard Tally' }).first().click()
  await page.getByRole('button', { name: 'Begin…' }).click()
  await page.getByRole('button', { name: 'Begin the project' }).click()
  const left = page.getByRole('alert').filter({ hasText: 'Changes of “The Ninth Bell” are not saved.' })
  await expect(left).toContainText('storage is full')
  await Promise.all([
    page.waitForEvent('download'),
    left.getByRole('button', { name: 'Save its project file' }).click(),
  ])
  await disk(false)
  await left.getByRole('button', { name: 'Try again' }).click()
  await expect(left).toBeHidden()
  await page.goto('/')
  await page
    .getByRole('link', { name: /The Ninth Bell/ })
    .first()
    .click()
  await place(page, 'Timelines')
  await expect(block(page, 'hall_wide')).toBeVisible()
})

test('a database of a newer version is left as it is, with a reason', async ({ page }) => {
  await page.route('**/before', (route) => route.fulfill({ contentType: 'text/html', body: '<p>' }))
  await page.goto('/before')
  await page.evaluate(
    () =>
      new Promise((resolve) => {
        indexedDB.open('yard-tally', 80).onsuccess = (event) => {
          ;(event.target as IDBOpenDBRequest).result.close()
          resolve(null)
        }
      }),
  )
  await page.goto('/')
  await expect(page.getByRole('alert')).toContainText('database 8, this one knows 7')
})

test('what is usual is proposed with its reason, taken for all but what is left out, in one step, and taken back', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p', ['hall_wide_A003', 'tower_P100', 'visitor_C002'])
  const all = docket(page).getByRole('region', { name: 'Treat all' })
  await expect(all).toContainText('Usual for 2 clips')
  const film = all.getByRole('listitem').filter({ hasText: '23.976 in 25' })
  await expect(film).toContainText(
    /1 × 23\.976 in 25: every frame once, 4\.3 % faster, sound with it, pitch kept; whole, bars.*loss 0\.\d+ → 0\.\d+/s,
  )
  const tower = all.getByRole('checkbox', { name: /59\.94 in 25: nearest frame/ })
  await tower.uncheck()
  await all.getByRole('button', { name: 'Treat 1 clip so' }).click()
  await expect(all).toContainText('Usual for 1 clip')
  await expect(film).toHaveCount(0)
  await block(page, 'visitor_C002').click()
  await expect(docket(page)).toContainText('every frame once')
  await page.getByRole('button', { name: 'undo' }).click()
  const usual = docket(page).getByRole('region', { name: 'Usual' })
  await expect(usual).toContainText('23.976 in 25: every frame once')
  // Mixing loses less where frames land unevenly; nobody does it as a matter of course, so it stands second.
  await block(page, 'tower_P100').click()
  await expect(usual).toContainText('nearest frame')
  const less = docket(page).getByRole('region', { name: 'Loses less' })
  await expect(less).toContainText(/blend.*loss 0\.\d+ → 0\.\d+/s)
  await less.getByRole('button', { name: 'Treat so instead' }).click()
  await expect(docket(page)).toContainText('neighbouring frames mixed')
  await docket(page).getByRole('button', { name: 'Back to the default' }).click()
  await expect(docket(page)).toContainText('frames held as they land')
})
