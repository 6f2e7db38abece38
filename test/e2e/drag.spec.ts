import type { Page } from '@playwright/test'
import { begun, clipToPlace, expect, saved, test } from './line'
import { stored } from './stored'
import { block, docket, strip } from './strip'

/** The middle of a block on the screen. */
async function middle(page: Page, name: string) {
  const box = (await block(page, name).boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}
const written = (page: Page) => stored(page).then(({ revision, position }) => ({ revision, position }))

test('a drag of 200 moves is one step and one write, on the strip and on the picture', async ({ page }) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['pour_A007', 'tower_P100']) await clipToPlace(page, clip).press('Enter')
  await saved(page)
  const viewer = (await page.locator('.viewer canvas').first().boundingBox())!
  await block(page, 'tower_P100').click()
  const onStrip = await middle(page, 'tower_P100')
  for (const from of [{ x: viewer.x + 200, y: viewer.y + 150 }, onStrip]) {
    const before = await written(page)
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    // Far, and some of it back again: nothing of it is kept.
    for (let i = 1; i <= (from === onStrip ? 200 : 40); i++)
      await page.mouse.move(from.x - 60 * Math.sin(i / 40) - 20, from.y + (from === onStrip ? 0 : i / 8))
    expect(await written(page)).toEqual(before)
    await page.mouse.up()
    await saved(page)
    await expect
      .poll(() => written(page))
      .toEqual({ revision: before.revision + 1, position: before.position + 1 })
  }
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(docket(page)).toContainText('placed at 00:00:22:00')
})

test('Escape leaves everything as a drag found it, on the strip and on the picture', async ({ page }) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['pour_A007', 'tower_P100']) await clipToPlace(page, clip).press('Enter')
  await saved(page)
  await block(page, 'tower_P100').click()
  const before = await stored(page)
  const viewer = (await page.locator('.viewer canvas').first().boundingBox())!
  for (const from of [await middle(page, 'tower_P100'), { x: viewer.x + 200, y: viewer.y + 150 }]) {
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x - 90, from.y, { steps: 9 })
    await page.keyboard.press('Escape')
    await page.mouse.move(from.x - 40, from.y, { steps: 3 })
    await page.mouse.up()
    await expect(docket(page)).toContainText('placed at 00:00:22:00')
    await expect(docket(page).getByLabel('x', { exact: true })).toHaveValue('0')
  }
  await saved(page)
  expect(await stored(page)).toEqual(before)
})

test('a key that is held is one step and one write', async ({ page }) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['pour_A007', 'tower_P100']) await clipToPlace(page, clip).press('Enter')
  await block(page, 'tower_P100').click()
  await saved(page)
  const before = await written(page)
  await strip(page).focus()
  for (let i = 0; i < 25; i++) await page.keyboard.down('8')
  await expect(docket(page)).toContainText('placed at 00:00:23:00')
  expect(await written(page)).toEqual(before)
  await page.keyboard.up('8')
  await saved(page)
  await expect
    .poll(() => written(page))
    .toEqual({ revision: before.revision + 1, position: before.position + 1 })
  await page.keyboard.press('Control+z')
  await expect(docket(page)).toContainText('placed at 00:00:22:00')
})

test('dragged on the strip and on the picture, each drag is one step', async ({ page }) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['pour_A007', 'tower_P100']) await clipToPlace(page, clip).press('Enter')
  const drag = async (from: { x: number; y: number }, by: { x: number; y: number }) => {
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    for (let i = 1; i <= 6; i++) await page.mouse.move(from.x + (by.x * i) / 6, from.y + (by.y * i) / 6)
    await page.mouse.up()
  }
  const middle = async (name: string) => {
    const box = (await block(page, name).boundingBox())!
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  await page.getByRole('button', { name: '+ pictures' }).click()
  await drag(await middle('tower_P100'), { x: 0, y: -46 })
  await block(page, 'tower_P100').click()
  const at = (await block(page, 'tower_P100').boundingBox())!
  expect(at.y).toBeLessThan((await block(page, 'pour_A007').boundingBox())!.y)
  // Drawn to the end of the other one, or to the beginning.
  await drag(await middle('tower_P100'), {
    x: -(at.x - (await block(page, 'pour_A007').boundingBox())!.x) + 5,
    y: 0,
  })
  await expect(docket(page)).toContainText('placed at 00:00:00:00')
  await page.keyboard.press('Control+z')
  await expect(docket(page)).toContainText('placed at 00:00:22:00')
  // An end that is trimmed, and given back.
  const box = (await block(page, 'pour_A007').boundingBox())!
  await drag({ x: box.x + box.width - 3, y: box.y + 20 }, { x: -100, y: 0 })
  await block(page, 'pour_A007').click()
  await expect(docket(page)).not.toContainText('for 550 frames')
  await page.keyboard.press('Control+z')
  await expect(docket(page)).toContainText('for 550 frames')
  // The picture itself.
  const viewer = (await page.locator('.viewer canvas').first().boundingBox())!
  await drag({ x: viewer.x + 200, y: viewer.y + 150 }, { x: 40, y: 25 })
  const x = Number(await docket(page).getByLabel('x', { exact: true }).inputValue())
  expect(x).toBeCloseTo((40 * 1920) / viewer.width, -0.5)
  expect(Number.isInteger(x)).toBe(true)
  const held = page.getByRole('group', { name: /The picture in hand/ })
  await held.focus()
  await held.press('ArrowRight')
  await expect(docket(page).getByLabel('x', { exact: true })).toHaveValue(String(x + 1))
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(docket(page).getByLabel('x', { exact: true })).toHaveValue('0')
})

test('each edge is pulled as often as wanted, and a block of three pixels is taken by the mouse', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['pour_A007', 'tower_P100']) await clipToPlace(page, clip).press('Enter')
  const box = async () => (await block(page, 'pour_A007').first().boundingBox())!
  for (const edge of ['start', 'end'] as const)
    for (let pull = 0; pull < 5; pull++) {
      const was = await box()
      const from = { x: edge === 'start' ? was.x + 2 : was.x + was.width - 3, y: was.y + 20 }
      await page.mouse.move(from.x, from.y)
      await page.mouse.down()
      const by = edge === 'start' ? 20 : -20
      for (let i = 1; i <= 4; i++) await page.mouse.move(from.x + (by * i) / 4, from.y)
      await page.mouse.up()
      await expect
        .poll(async () => was.width - (await box()).width, `${edge}, pull ${pull + 1}`)
        .toBeGreaterThan(8)
    }
  // What is cut off at the end is three pixels wide: it is drawn with no name, and taken all the same.
  await block(page, 'tower_P100').click()
  await expect(docket(page)).toContainText('for 100 frames')
  const whole = (await block(page, 'tower_P100').boundingBox())!
  const count = Math.round((3 * 100) / whole.width)
  await strip(page).press('End')
  for (let i = 1; i < count; i++) await strip(page).press('ArrowLeft')
  await strip(page).press('n')
  await expect(docket(page)).toContainText(`for ${100 - count} frames`)
  const rest = (await block(page, 'tower_P100').boundingBox())!
  await page.mouse.click(rest.x + rest.width + 2, rest.y + 20)
  await expect(docket(page)).toContainText(new RegExp(`for ${count} frames?`))
})
