import { begun, expect, findPayer, openDemo, place, test } from './line'

test('candidates are tried by keys, by mouse and by typing, and the figures follow', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const tolls = page.getByRole('region', { name: /^Paid at/ })
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
  await findPayer(page, 'bell_swing_B011')
  await expect(tolls.getByRole('row', { name: /bell_swing_B011/ })).toContainText('untouched')
  const tried = candidates.getByRole('region', { name: 'The format that is tried' })
  await expect(tried).toContainText('1920×1080 · 50p')
  await expect(tried).toContainText('HD, 16:9.')

  await candidates.getByLabel('Another format').fill('1921x1080@25p')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await expect(candidates).toContainText('odd side')
  // Fields are kept from cell to cell, where a standard has them.
  await candidates.getByLabel('Another format').fill('1440x1080/4:3@50i')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await expect(tried).toContainText('1440×1080 (4:3) · 50i')
  await yard.focus()
  await yard.press('ArrowUp')
  await expect(tolls).toContainText('1920×1080 · 50i')
  await yard.press('ArrowUp')
  await expect(tolls).toContainText('2704×1520 · 25p')
  await candidates.getByLabel('A standard size or an own format').selectOption({ label: '4096×2160 DCI 4K' })
  await expect(tolls).toContainText('4096×2160 · 25p')
  await candidates.getByRole('button', { name: 'Turn' }).click()
  await expect(tolls).toContainText('2160×4096 · 25p')
})

test('delivery, rankings, weights and priorities change the ranking, and all of it is undone', async ({
  page,
}) => {
  await openDemo(page)
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  const first = candidates.getByRole('listitem').first()
  const best = first.locator('b').first()
  await expect(best).toHaveText('3840×2160 · 25p')

  await candidates.getByLabel('Another format').fill('1920x1080@50i')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await candidates.getByRole('button', { name: 'Is delivered' }).click()
  await page.getByRole('application').press('Escape')
  await expect(
    candidates.getByRole('listitem').filter({ hasText: 'Delivered as it is' }).first(),
  ).toBeVisible()
  await expect(best).toHaveText('1920×1080 · 50i')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(best).toHaveText('3840×2160 · 25p')

  await candidates.getByRole('button', { name: 'sharpness' }).click()
  await expect(best).not.toContainText('3840×2160')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(best).toHaveText('3840×2160 · 25p')

  // Without the long UHD takes, something smaller is best.
  const tolls = page.getByRole('region', { name: 'Tolls of the clips' })
  for (const name of ['hall_wide_A003', 'hall_wide_A004', 'pour_A007']) {
    await findPayer(page, name)
    // The control shows on the row in hand.
    await tolls.getByRole('row', { name: new RegExp(name) }).hover()
    await tolls.getByLabel(`How much ${name}.mp4 counts`).selectOption('left-out')
  }
  await expect(page.getByText(/in 16 clips/)).toBeVisible()
  await expect(best).not.toContainText('3840×2160')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'undo' }).click()
  await expect(best).toHaveText('3840×2160 · 25p')

  const figures = () => first.innerText()
  const score = await figures()
  await candidates.getByRole('button', { name: 'weights' }).click()
  const weight = candidates.getByLabel('pixels invented, balance')
  // A comma is a point as well.
  await weight.fill('0,25')
  await weight.press('Enter')
  await expect(weight).toHaveValue('0.25')
  await weight.fill('0')
  await weight.press('Enter')
  await expect(candidates).toContainText('1 changed')
  await candidates.getByRole('button', { name: 'candidates' }).click()
  await expect.poll(figures).not.toBe(score)
  await candidates.getByRole('button', { name: 'weights' }).click()
  await candidates.getByRole('button', { name: 'As usual' }).click()
  await candidates.getByRole('button', { name: 'candidates' }).click()
  await expect.poll(figures).toBe(score)
})

test('one kind of charge is shown alone', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const tolls = page.getByRole('region', { name: 'Tolls of the clips' })
  await findPayer(page, 'visitor_C002')
  await page.getByLabel('Show only this charge').selectOption('deinterlace')
  await expect(tolls.getByRole('row', { name: /archive_reel2/ })).toBeVisible()
  await expect(tolls.getByRole('row', { name: /visitor_C002/ })).toBeHidden()
})

test('two candidates stand side by side, clip by clip', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const tolls = page.getByRole('region', { name: /^Paid at/ })
  // Nobody recommends 50p here; it stands beside as the project's own.
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await candidates.getByLabel('Another format').fill('3840x2160@50p')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await candidates.getByRole('button', { name: 'Set as project format' }).click()
  await candidates.getByRole('button', { name: /^1\s*3840×2160 · 25p/ }).click()
  await page.getByLabel('A second format beside it').selectOption({ label: '3840×2160 · 50p' })
  await findPayer(page, 'bell_swing_B011')
  const bell = tolls.getByRole('row', { name: /bell_swing_B011/ })
  await expect(bell).toContainText('enlarged 2.0 · 1 frame in 2')
  await expect(bell.getByRole('gridcell').last()).toContainText('enlarged 2.0')
  await expect(bell.getByRole('gridcell').last()).not.toContainText('1 frame in 2')
  await expect(tolls).toContainText(/3840×2160 · 25p loses 0\.(2[5-9]|3[0-3])/)
  await expect(tolls).toContainText(/\d+ pay less at the first, \d+ at the second, 1 the same/)
  // A title card pays the same at any rate.
  await findPayer(page, 'title_card')
  await tolls.getByRole('button', { name: 'only where they differ' }).click()
  await expect(tolls.getByRole('row', { name: /title_card/ })).toBeHidden()
  // The candidate moves, the second stays.
  await page.getByRole('application').press('ArrowDown')
  await expect(tolls).toContainText('2704×1520 · 25p loses')
  await findPayer(page, 'bell_swing_B011')
  await expect(bell.getByRole('gridcell').last()).not.toContainText('1 frame in 2')
})

test('a clip’s docket: what matches, its size to scale, its detail at pixel level, its motion', async ({
  page,
}) => {
  await openDemo(page)
  await place(page, 'Yard')
  const tolls = page.getByRole('region', { name: 'Tolls of the clips' })
  await page.getByLabel('Show only this charge').selectOption('bars')
  await tolls.getByRole('button', { name: /^visitor_C002/ }).click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await expect(docket.getByRole('list', { name: 'What matches' })).toContainText('4096×2160, not 3840×2160')
  await expect(docket.getByRole('list', { name: 'What matches' })).toContainText('23.976, not 25')

  const figures = docket.getByLabel('Figures of the framing')
  await expect(figures).toContainText('67.5 px, 6.3 % of the frame')
  await docket.getByRole('button', { name: 'fill' }).click()
  await expect(figures).toContainText('128 px, 6.3 % of the picture')
  await docket.getByRole('button', { name: 'one to one' }).click()
  await expect(figures).toContainText('zoom to 100 %')
  await docket.getByRole('button', { name: 'fit' }).click()

  // One timeline pixel on 16 of the screen: the reduced picture is made of blocks of one colour, the original of smaller ones.
  await docket.getByLabel('Magnification').selectOption({ label: '16 × 16' })
  const original = docket.getByRole('img', { name: 'A piece of visitor_C002.mov as recorded' })
  await expect(original).toHaveAttribute('data-drawn', 'true')
  const drawing = docket.getByRole('application')
  await drawing.focus()
  const before = await original.screenshot()
  for (let i = 0; i < 12; i++) await drawing.press(i % 2 ? 'ArrowUp' : 'ArrowLeft')
  await expect.poll(async () => before.equals(await original.screenshot())).toBe(false)
  const result = docket.getByRole('img', { name: 'The same piece in 3840×2160' })
  const steps = await result.evaluate((canvas: HTMLCanvasElement) => {
    const { data, width } = canvas.getContext('2d')!.getImageData(0, 60, canvas.width, 1)
    return Array.from({ length: width - 1 }, (_, x) => x + 1).filter((x) =>
      [0, 1, 2].some((c) => data[x * 4 + c] !== data[x * 4 - 4 + c]),
    )
  })
  for (const x of steps) expect(Math.min(((x * 13) / 211) % 1, 1 - (((x * 13) / 211) % 1))).toBeLessThan(0.08)

  await expect(docket).toContainText('960 frames on 1001, 41 shown again')
  await docket.getByRole('button', { name: 'Watch the motion' }).click()
  const lanes = docket.getByRole('img', { name: /^A bell moving/ })
  await expect
    .poll(async () => Number((await lanes.getAttribute('data-frames'))!.split(' ')[0]))
    .toBeGreaterThan(20)
  const [filmed, landed, , everyFrame] = (await lanes.getAttribute('data-frames'))!.split(' ').map(Number)
  // As they land keeps step with what was filmed; every frame once runs ahead, 25 to 23.976.
  expect(Math.abs(filmed! - landed!)).toBeLessThanOrEqual(1)
  expect(everyFrame).toBeGreaterThanOrEqual(filmed!)
  await docket.getByRole('button', { name: 'Stop' }).click()
  const stopped = await lanes.getAttribute('data-frames')
  await page.waitForTimeout(200)
  expect(await lanes.getAttribute('data-frames')).toBe(stopped)

  // Keys go on to the next clip; Escape leaves the docket.
  await page.getByRole('grid', { name: 'What each clip pays' }).press('ArrowUp')
  await expect(docket.getByRole('heading', { level: 1 })).not.toContainText('visitor_C002')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary', { name: 'Candidates' })).toBeVisible()
})

test('any pair of rates is drawn and watched, and the charts have their figures', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  const shown = candidates.getByRole('group', { name: 'What is shown' })
  await shown.getByRole('button', { name: 'motion' }).click()
  await expect(candidates.getByRole('listitem').filter({ hasText: '1920×1080 100p' })).toHaveText(
    /1 clip\s*at 25 % speed, 4\.0 times as long/,
  )
  await candidates.getByLabel('filmed at').fill('24')
  await candidates.getByLabel('in a timeline of').fill('60')
  await expect(candidates).toContainText('uneven: 2 frames on 5, 3 shown again, judder 8.3 ms')
  await expect(candidates).toContainText('every frame once runs at 250 % speed')
  await candidates.getByLabel('in a timeline of').fill('23.976')
  await expect(candidates).toContainText('a slip every 41.7 s')
  await expect(candidates).toContainText('The cure: every frame once runs 0.1 % slower, 1.001 times as long')
  await candidates.getByLabel('filmed at').fill('soon')
  await expect(candidates.getByRole('status')).toContainText('“soon” is not a rate.')

  await candidates.getByRole('button', { name: 'charts' }).click()
  const time = candidates.getByRole('table', { name: 'Running time by rate and size' })
  await expect(time.getByRole('row', { name: '3840×2160' })).toContainText('1 min 21 s')
  const parts = candidates.getByRole('table', { name: /3840×2160 · 25p, kind by kind/ })
  const values = await parts.locator('td').allInnerTexts()
  const sum = values.slice(0, -1).reduce((total, value) => total + Number(value), 0)
  expect(Math.abs(sum - Number(values.at(-1)))).toBeLessThan(0.004)
  const drawn = await candidates
    .locator('canvas')
    .first()
    .evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
      return data.filter((value, i) => i % 4 === 3 && value > 0).length
    })
  expect(drawn).toBeGreaterThan(5000)
})

test('the keyboard says what it does, place by place', async ({ page }) => {
  await openDemo(page)
  const sheet = page.getByRole('dialog', { name: 'What the keyboard does' })
  for (const [name, does] of [
    ['Arrivals', 'look closer'],
    ['Yard', 'move the candidate'],
    ['Timelines', 'from cut to cut'],
  ]) {
    await place(page, name!)
    await page.keyboard.press('?')
    await expect(sheet).toContainText(does!)
    await expect(sheet).toContainText('undo')
    await page.keyboard.press('Escape')
    await expect(sheet).toBeHidden()
  }
  // In a field it is a letter.
  await place(page, 'Yard')
  const field = page.getByLabel('Another format')
  await field.press('?')
  await expect(field).toHaveValue('?')
  await expect(sheet).toBeHidden()
})

test('a deliverable is taken out in the Yard by its name, alone, and what would go with it is said first', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p', ['pour_A007'])
  await place(page, 'Dispatch')
  for (let i = 0; i < 2; i++) {
    await page.getByRole('button', { name: 'New…' }).click()
    await page.getByLabel('Format to deliver').fill('1920x1080@50i')
    await page.getByLabel('Format to deliver').press('Enter')
  }
  await page.getByLabel('Codec', { exact: true }).selectOption('ProRes')
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  const outs = candidates.getByRole('button', { name: /^Do not deliver / })
  await expect(outs).toHaveCount(2)
  await expect(outs.nth(0)).toHaveAccessibleName('Do not deliver 1920×1080 · 50i')
  await expect(outs.nth(1)).toHaveAccessibleName(/^Do not deliver .*: its settings would go with it$/)
  await outs.nth(1).click()
  await expect(candidates.getByRole('alert')).toContainText('its settings would go with it')
  await candidates.getByRole('button', { name: 'keep it' }).click()
  await expect(outs).toHaveCount(2)
  await outs.nth(1).click()
  await candidates.getByRole('button', { name: 'Do not deliver it' }).click()
  await expect(outs).toHaveCount(1)
  await expect(outs).toHaveAccessibleName('Do not deliver 1920×1080 · 50i')
  // It comes back as it was, with what was set of it.
  await page.keyboard.press('Control+z')
  await expect(outs.nth(1)).toHaveAccessibleName(/its settings would go with it$/)
})
