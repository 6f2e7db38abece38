import type { Page } from '@playwright/test'
import type { Timeline } from '../../src/core/model/timeline'
import { begun, clipToPlace, expect, openDemo, place, row, saved, test } from './line'
import { stored } from './stored'

const clips = ['hall_wide_A003', 'bell_swing_B011', 'visitor_C002', 'archive_tape', 'pour_A007', 'tower_P100']
const carry = (page: Page) => page.getByRole('region', { name: 'Carry over' })
const way = (page: Page, name: string) => carry(page).getByRole('region', { name })
const strip = (page: Page) => page.getByRole('group', { name: /The cut to scale/ })
const docket = (page: Page) => page.getByRole('complementary', { name: 'Docket' })
const list = (page: Page) => page.getByRole('complementary', { name: 'Timelines and clips' })
const history = (page: Page) => page.getByRole('complementary', { name: 'History' })

async function timelinesOf(page: Page): Promise<readonly Timeline[]> {
  await saved(page)
  return (await stored(page)).timelines
}
const placementsOf = ({ tracks }: Timeline) => tracks.flatMap(({ placements }) => placements)
const rateOf = ({ rate }: Timeline) => rate!.num / rate!.den
/** The furthest that a boundary of one cut lies from the same one of another, in frames of the second. */
function drift(before: Timeline, after: Timeline): number {
  const ends = (timeline: Timeline) =>
    placementsOf(timeline).flatMap(({ start, length }) => [
      start / rateOf(timeline),
      (start + length) / rateOf(timeline),
    ])
  const [a, b] = [ends(before), ends(after)]
  expect(b.length).toBe(a.length)
  return Math.max(...a.map((at, i) => Math.abs(at - b[i]!))) * rateOf(after)
}
const exact = (page: Page) =>
  expect(page.locator('.viewer canvas[data-exact]').first()).toHaveAttribute('data-exact', 'true', {
    timeout: 60_000,
  })
const shown = (page: Page) => page.locator('.viewer canvas[data-exact]').first().getAttribute('data-shown')

test('a cut in 25p is carried to four rates by each of four ways, and comes back by one step', async ({
  page,
}) => {
  test.setTimeout(400_000)
  await begun(page, '1920x1080@25p', clips)
  await saved(page)
  const [cut] = await timelinesOf(page)
  const home = page.url()
  for (const rate of ['23.976', '24', '50', '59.94']) {
    for (const [name, button] of [
      ['Re-cut', 'in place'],
      ['Re-cut', 'Re-cut as a copy'],
      ['Nested', 'Nest it'],
      ['Slowed or sped', 'in place'],
      ['New project', 'Begin it'],
    ] as const) {
      await test.step(`${rate}: ${name}, ${button}`, async () => {
        await list(page).getByRole('button', { name: 'Carry “Cut 1920×1080 · 25p” over' }).click()
        await carry(page).getByRole('button', { name: rate, exact: true }).click()
        await expect(way(page, name)).toContainText('cuts')
        await way(page, name).getByRole('button', { name: button }).click()
        if (name === 'New project') await expect(page).not.toHaveURL(home)
        const timelines = await timelinesOf(page)
        const carried = timelines.find((timeline) => Math.abs(rateOf(timeline) - Number(rate)) < 0.01)!
        expect(carried).toBeDefined()
        if (name === 'Nested') {
          expect(placementsOf(carried).map(({ source }) => source.kind)).toEqual(['timeline', 'timeline'])
        } else if (name === 'Slowed or sped') {
          // Frame by frame as before, only as long as the new rate makes it.
          expect(placementsOf(carried).map(({ start, length }) => [start, length])).toEqual(
            placementsOf(cut!).map(({ start, length }) => [start, length]),
          )
        } else expect(drift(cut!, carried)).toBeLessThanOrEqual(0.5 + 1e-9)
        if (name === 'New project') {
          expect((await stored(page)).project.format?.rate).toEqual(carried.rate)
          await page.goto(home)
          await expect(strip(page)).toBeVisible()
        } else {
          await page.getByRole('button', { name: 'undo', exact: true }).click()
        }
        expect((await timelinesOf(page)).map((timeline) => JSON.stringify(timeline))).toEqual([
          JSON.stringify(cut),
        ])
      })
    }
  }
})

test('a nested cut shows what it showed, plays, is priced, and comes out as it went in', async ({ page }) => {
  test.setTimeout(240_000)
  await begun(page, '1920x1080@25p', clips.slice(0, 3))
  const [cut] = await timelinesOf(page)
  await strip(page).focus()
  await strip(page).press('ArrowDown')
  for (let i = 0; i < 5; i++) await strip(page).press('ArrowRight')
  await exact(page)
  const before = await shown(page)
  await list(page)
    .getByRole('button', { name: /^Carry “/ })
    .click()
  await carry(page).getByLabel('Another format to carry to').fill('3840x2160@25p')
  await carry(page).getByRole('button', { name: 'Aim' }).click()
  await way(page, 'Nested').getByRole('button', { name: 'Nest it' }).click()
  await strip(page).focus()
  await strip(page).press('Home')
  const frames = placementsOf(cut!)[0]!.length + 5
  for (let i = 0; i < Math.floor(frames / 25); i++) await strip(page).press('Shift+ArrowRight')
  for (let i = 0; i < frames % 25; i++) await strip(page).press('ArrowRight')
  await exact(page)
  expect(await shown(page)).toBe(before)
  await strip(page).press('Enter')
  await expect(docket(page)).toContainText('enlarged')
  // It is heard and seen as a clip is.
  await strip(page).press(' ')
  await expect(page.locator('[data-played-frame]').first()).toBeVisible()
  await strip(page).press(' ')
  await docket(page).getByRole('button', { name: 'Un-nest it' }).click()
  const out = (await timelinesOf(page)).find(({ id }) => id !== cut!.id)!
  expect(
    placementsOf(out).map(({ source, start, length, sourceIn }) => [source, start, length, sourceIn]),
  ).toEqual(
    placementsOf(cut!).map(({ source, start, length, sourceIn }) => [source, start, length, sourceIn]),
  )
  // A timeline is never offered to be placed in itself, nor in what it shows.
  await expect(list(page).getByRole('button', { name: /^Place “/ })).toHaveCount(1)
})

test('a cut is made portrait in one go, looked at where one says, and is landscape again as it was', async ({
  page,
}) => {
  test.setTimeout(240_000)
  await begun(page, '1920x1080@25p', clips)
  const [cut] = await timelinesOf(page)
  await list(page)
    .getByRole('button', { name: /^Carry “/ })
    .click()
  await carry(page).getByRole('button', { name: 'turn it' }).click()
  await expect(carry(page).getByRole('region', { name: 'What becomes of the pictures' })).toBeVisible()
  const window = carry(page).getByRole('slider', { name: 'Where to look in bell_swing_B011.mp4' })
  const box = (await window.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 20, box.y + box.height / 2, { steps: 4 })
  await page.mouse.up()
  await carry(page)
    .getByRole('slider', { name: 'Where to look in hall_wide_A003.mp4' })
    .press('Shift+ArrowLeft')
  await carry(page).getByLabel('What becomes of 4096×2160').selectOption('frame anew')
  await expect(carry(page).getByText('Off worst')).toBeVisible()
  await way(page, 'Re-cut').getByRole('button', { name: 'in place' }).click()
  const portrait = (await timelinesOf(page))[0]!
  expect(portrait.ownFormat).toMatchObject({ width: 1080, height: 1920 })
  const [hall, bell, visitor] = portrait.tracks[0]!.placements
  const crop = (placement: typeof hall) => placement!.framingByShape['9:16']?.crop
  // 1215 columns of 3840 are seen, a tenth of the picture left of the middle.
  expect(crop(hall)!.left).toBeCloseTo(3840 * 0.4 - 607.5, 3)
  expect(crop(bell)!.left).toBeGreaterThan((1920 - 607.5) / 2 + 100)
  expect(visitor!.framingByShape).toEqual({})
  expect(portrait.tracks[0]!.placements.map(({ treatment }) => treatment)).toEqual(
    cut!.tracks[0]!.placements.map(({ treatment }) => treatment),
  )
  await exact(page)
  await list(page)
    .getByRole('button', { name: /^Carry “/ })
    .click()
  await carry(page).getByRole('button', { name: 'turn it' }).click()
  await expect(carry(page).getByLabel('as it was there')).toBeChecked()
  await way(page, 'Re-cut').getByRole('button', { name: 'in place' }).click()
  const back = (await timelinesOf(page))[0]!
  expect(back.ownFormat).toMatchObject({ width: 1920, height: 1080 })
  expect(back.tracks[0]!.placements.map(({ treatment }) => treatment)).toEqual(
    cut!.tracks[0]!.placements.map(({ treatment }) => treatment),
  )
  // Both exist: the portrait framing waits.
  expect(crop(back.tracks[0]!.placements[0])).toEqual(crop(hall))
})

test('a format that came from a phone clip is told and set right in one go, with what it does', async ({
  page,
}) => {
  await openDemo(page)
  await place(page, 'Yard')
  await page
    .getByRole('button', { name: 'Tolls', exact: false })
    .first()
    .click()
    .catch(() => {})
  const table = page.getByRole('grid', { name: 'What each clip pays' })
  await table.focus()
  await page.keyboard.type('clerk_phone')
  await table.getByRole('row', { name: /clerk_phone/ }).press('Enter')
  await page.getByRole('button', { name: 'Try its format' }).click()
  await page.getByRole('button', { name: 'Set it as project format' }).click()
  const locator = page.getByText(
    /The format came from clerk_phone_0417\.mp4; \d+ % of the footage is 3840×2160/,
  )
  await expect(locator).toBeVisible()
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await page.getByLabel('ask about mismatches').uncheck()
  for (const clip of clips.slice(0, 3)) await clipToPlace(page, clip).press('Enter')
  await expect(page.getByRole('status').filter({ has: locator })).toContainText('goes from 1080×1920')
  await page.getByRole('button', { name: 'Set 3840×2160 · 25p' }).click()
  await expect(locator).toHaveCount(0)
  const [cut] = await timelinesOf(page)
  expect(rateOf(cut!)).toBe(25)
  expect((await stored(page)).project.decisions.at(-1)!.reason).toContain('clerk_phone_0417.mp4')
  await page.getByRole('button', { name: 'undo', exact: true }).click()
  await page.getByRole('button', { name: 'It is meant' }).click()
  await expect(locator).toHaveCount(0)
})

test('the history is a list with times that is gone back to, with points that are named, and outlives the page', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p', clips.slice(0, 2))
  await page.getByRole('button', { name: 'history', exact: true }).click()
  await history(page).getByRole('button', { name: 'Name this point…' }).click()
  await history(page).getByLabel('Name of the restore point').fill('Rough cut for the founder')
  await history(page).getByRole('button', { name: 'Keep it' }).click()
  for (const clip of clips.slice(2, 5)) await clipToPlace(page, clip).press('Enter')
  await history(page).getByRole('button', { name: 'What differs from Rough cut for the founder' }).click()
  await expect(history(page)).toContainText(
    '3 placements more: visitor_C002.mov, archive_tape.mxf and 1 more',
  )
  await saved(page)
  await page.reload()
  await page.getByRole('button', { name: 'history', exact: true }).click()
  await expect(history(page)).toContainText(/place visitor_C002\.mov\s*\d\d:\d\d/)
  const blocks = strip(page).getByRole('button', { name: /\.(mp4|mov|mxf): (?!sound)/ })
  await expect(blocks).toHaveCount(5)
  await history(page).getByRole('button', { name: 'place hall_wide_A003.mp4', exact: true }).click()
  await expect(blocks).toHaveCount(1)
  await history(page).getByRole('button', { name: 'place pour_A007.mp4', exact: true }).click()
  await expect(blocks).toHaveCount(5)
  await history(page).getByRole('button', { name: 'go back', exact: true }).click()
  await expect(blocks).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(blocks).toHaveCount(5)
  await history(page).getByRole('button', { name: 'the beginning', exact: true }).click()
  await expect(
    page.getByText('No timeline yet').or(page.getByText('The project has no format yet')),
  ).toBeVisible()
  await page.keyboard.press('Control+Shift+z')
  await place(page, 'Arrivals')
  await expect(row(page, 'hall_wide_A003').first()).toBeVisible()
})
