import { expect, openDemo, place, test } from './line'

test('candidates are tried by keys, by mouse and by typing, and the figures follow', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const tolls = page.getByRole('region', { name: /What each clip pays/ })
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await expect(tolls).toContainText('3840×2160 · 25p')
  await expect(candidates.getByRole('listitem').first()).toContainText('3840×2160 · 25p')

  const yard = page.getByRole('application')
  await yard.focus()
  await yard.press('ArrowDown')
  await expect(tolls).toContainText('2704×1520 · 25p')
  await yard.press('ArrowRight')
  await expect(tolls).toContainText('2704×1520 · 29.97p')
  await yard.press('Escape')
  await expect(tolls).toContainText('3840×2160 · 25p')
  // The cell of HD at 50: the fifth column, the fourth row.
  const label = (text: string) => yard.locator('text.axis').filter({ hasText: new RegExp(`^${text}$`) })
  const column = (await label('50').boundingBox())!
  const line = (await label('1920×1080').boundingBox())!
  await page.mouse.click(column.x + column.width / 2, line.y + line.height / 2)
  await expect(tolls).toContainText('1920×1080 · 50p')
  await expect(tolls.getByRole('row', { name: /bell_swing_B011/ })).toContainText('untouched')
  await expect(candidates.locator('[aria-current=true]')).toContainText('1920×1080 · 50p')

  await candidates.getByLabel('Another format').fill('1921x1080@25p')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await expect(candidates).toContainText('odd side')
  await candidates.getByLabel('A standard size').selectOption({ label: '4096×2160 DCI 4K full' })
  await expect(tolls).toContainText('4096×2160 · 50p')
  await candidates.getByRole('button', { name: 'Turn' }).click()
  await expect(tolls).toContainText('2160×4096 · 50p')
})

test('delivery, leans, weights and priorities change the ranking, and all of it is undone', async ({
  page,
}) => {
  await openDemo(page)
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  const first = candidates.getByRole('listitem').first()
  const best = first.locator('b').first()
  await expect(best).toHaveText('3840×2160 · 25p')

  await candidates.getByLabel('Another format').fill('1920x1080@50i')
  await candidates.getByRole('button', { name: 'Is delivered' }).click()
  await expect(
    candidates.getByRole('listitem').filter({ hasText: 'Delivered as it is' }).first(),
  ).toBeVisible()
  await expect(best).toHaveText('1920×1080 · 50i')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(best).toHaveText('3840×2160 · 25p')

  await candidates.getByRole('button', { name: 'sharp' }).click()
  await expect(best).not.toContainText('3840×2160')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(best).toHaveText('3840×2160 · 25p')

  // Without the long UHD takes, something smaller is best.
  const tolls = page.getByRole('region', { name: 'Tolls of the clips' })
  for (const name of ['hall_wide_A003', 'hall_wide_A004', 'pour_A007']) {
    await tolls.getByLabel(`How much ${name}.mp4 counts`).selectOption('left-out')
  }
  await expect(page.getByText(/in 13 clips/)).toBeVisible()
  await expect(best).not.toContainText('3840×2160')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'undo' }).click()
  await expect(best).toHaveText('3840×2160 · 25p')

  await candidates.getByText('Weights of the charges').click()
  const score = await first.innerText()
  const weight = candidates.getByLabel('every frame shown again, evenly')
  await weight.fill('0')
  await weight.press('Enter')
  await expect(candidates.getByText('Weights of the charges, 1 changed')).toBeVisible()
  await expect.poll(() => first.innerText()).not.toBe(score)
  await candidates.getByRole('button', { name: 'As usual' }).click()
  await expect.poll(() => first.innerText()).toBe(score)
})

test('one kind of charge is shown alone', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const tolls = page.getByRole('region', { name: 'Tolls of the clips' })
  await expect(tolls.getByRole('row', { name: /visitor_C002/ })).toBeVisible()
  await page.getByLabel('Show only this charge').selectOption('deinterlace')
  await expect(tolls.getByRole('row', { name: /archive_reel2/ })).toBeVisible()
  await expect(tolls.getByRole('row', { name: /visitor_C002/ })).toBeHidden()
})
