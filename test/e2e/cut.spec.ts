import { type Page } from '@playwright/test'
import { begun, clipToPlace, demoFile, dropFiles, expect, markOnScreen, place, saved, test } from './line'
import { block, docket, findings, strip, take, way } from './strip'

/** Waits until the viewer shows the frame exactly. */
const exact = (page: Page, nth = 0) =>
  expect(page.locator('.viewer canvas[data-exact]').nth(nth)).toHaveAttribute('data-exact', 'true', {
    timeout: 60_000,
  })
/** How unlike the pictures of two panes are: the mean difference of their pixels. */
const unlike = (page: Page) =>
  page.evaluate(() => {
    const [a, b] = [...document.querySelectorAll<HTMLCanvasElement>('.viewer canvas[data-exact]')].map(
      (canvas) => {
        const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!
        copy.drawImage(canvas, 0, 0)
        return copy.getImageData(0, 0, canvas.width, canvas.height).data
      },
    )
    let sum = 0
    for (let i = 0; i < a!.length; i++) sum += Math.abs(a![i]! - b![i]!)
    return sum / a!.length
  })
/** How far the ring of the test figure reaches from the middle of the frame, across and down, in pixels of the screen. */
const ring = (page: Page) =>
  page.locator('.viewer canvas[data-exact]').evaluate((canvas: HTMLCanvasElement) => {
    const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!
    copy.drawImage(canvas, 0, 0)
    const { data } = copy.getImageData(0, 0, canvas.width, canvas.height)
    const bright = (x: number, y: number) => data[(y * canvas.width + x) * 4]! > 170
    const [x, y] = [Math.round(canvas.width / 2), Math.round(canvas.height / 2)]
    let [left, top] = [0, 0]
    while (left < x && !bright(left, y)) left++
    while (top < y && !bright(x, top)) top++
    return (x - left) / (y - top)
  })

test('an hour’s work: all clips placed, treated, ruled, trimmed, cut, compared, mended, undone and done again', async ({
  page,
}) => {
  test.setTimeout(600_000)
  await begun(page, '1920x1080@25p')
  const list = page.getByRole('complementary', { name: 'Timelines and clips' })
  const clips = await list.getByRole('button', { name: /^(?!Look|Insert|Put).*\d:\d\d$/ }).allInnerTexts()
  expect(clips.length).toBeGreaterThan(18)
  for (const text of clips) {
    const [name] = text.split('\n')
    if (!name!.startsWith('title_card')) await clipToPlace(page, name!.replace(/\./g, '\\.')).press('Enter')
  }
  await page.getByRole('button', { name: 'show what happens' }).click()
  const status = page.locator('.summary')
  const untouched = async () => (await status.innerText()).replace(/\s+/g, ' ')

  await test.step('what is usual for all', async () => {
    await docket(page)
      .getByRole('button', { name: /^Treat \d+ clips so$/ })
      .click()
    await expect(docket(page).getByRole('region', { name: 'Treat all' })).toHaveCount(0)
  })
  await test.step('one rule', async () => {
    await take(page, 'archive_tape')
    await way(page, /^interpolate, double rate/).click()
    await docket(page).getByRole('button', { name: 'Make a rule…' }).click()
    await expect(docket(page)).toContainText('every 50i clip')
    await docket(page).getByRole('button', { name: 'Make the rule' }).click()
    await expect(page.getByRole('list', { name: 'Rules' })).toContainText(
      'every 50i clip: interpolate, double rate',
    )
    await expect(way(page, /^interpolate, double rate/)).toHaveAttribute('data-taken', 'all')
    await page.getByRole('checkbox', { name: /every 50i clip/ }).uncheck()
    await expect(way(page, /^interpolate, double rate/)).toHaveAttribute('data-taken', 'none')
    await page.keyboard.press('Control+z')
    await expect(way(page, /^interpolate, double rate/)).toHaveAttribute('data-taken', 'all')
  })
  await test.step('trimmed, slipped and cut by keys', async () => {
    await take(page, 'pour_A007')
    await strip(page).focus()
    for (let i = 0; i < 3; i++) await strip(page).press('2')
    for (let i = 0; i < 5; i++) await strip(page).press('3')
    await expect(docket(page)).toContainText('for 542 frames')
    await strip(page).press('5')
    for (let i = 0; i < 8; i++) await strip(page).press('ArrowRight')
    await strip(page).press('n')
    await expect(docket(page)).toContainText(/for \d+ frames/)
  })
  await test.step('the title over it', async () => {
    await page.getByRole('button', { name: 'place clips…' }).click()
    await clipToPlace(page, 'title_card').press('u')
    await page.getByRole('button', { name: 'show what happens' }).click()
    await expect(strip(page).getByRole('button', { name: 'seen track V2' })).toBeVisible()
  })
  await test.step('two deinterlacers on the tape, pixel by pixel', async () => {
    await take(page, 'archive_tape')
    await strip(page).focus()
    for (let i = 0; i < 9; i++) await strip(page).press('ArrowRight')
    await page.getByRole('button', { name: 'one to one', exact: true }).click()
    await page.getByRole('button', { name: 'beside', exact: true }).click()
    await exact(page, 0)
    await exact(page, 1)
    expect(await unlike(page)).toBe(0)
    await way(page, /^single field, double rate/).hover()
    await exact(page, 1)
    await expect.poll(() => unlike(page), { timeout: 30_000 }).toBeGreaterThan(0.02)
    await page.getByRole('button', { name: 'beside', exact: true }).click()
    await page.getByRole('button', { name: 'whole', exact: true }).click()
  })
  await test.step('hold, blend and every frame on the 60 fps clip, in motion', async () => {
    await take(page, 'festival_print')
    await page.getByRole('button', { name: 'two ways, split', exact: true }).click()
    for (const name of [/^hold/, /^every frame once/]) {
      await way(page, name).hover()
      await page.getByRole('button', { name: 'hold', exact: true }).click()
      await strip(page).press('p')
      await page.getByRole('button', { name: 'stop', exact: true }).waitFor()
      await page.getByRole('button', { name: 'play', exact: true }).waitFor({ timeout: 60_000 })
      const achieved = page.locator('.achieved')
      expect(Number(await achieved.getAttribute('data-due'))).toBe(100)
      // How many come in time is measured by the bench, on a machine at rest.
      expect(Number(await achieved.getAttribute('data-shown'))).toBeGreaterThan(10)
      await page.getByRole('button', { name: 'hold', exact: true }).click()
    }
    await page.getByRole('button', { name: 'two ways, split', exact: true }).click()
  })
  await test.step('a wrong pixel shape is seen on the test figure', async () => {
    const figure = async (text: string) => {
      await strip(page).focus()
      await strip(page).press('End')
      await page.getByRole('button', { name: 'test figure…' }).click()
      await page.getByLabel('Format of the test figure').fill(text)
      await page.getByRole('button', { name: 'Place it' }).click()
      await exact(page)
    }
    await figure('720x576/64:45@50i')
    const isRound = () =>
      expect.poll(async () => Math.abs((await ring(page)) - 1), { timeout: 30_000 }).toBeLessThan(0.03)
    await isRound()
    await way(page, /^stretch/).click()
    await isRound()
    // The same tape taken for one of another shape: 16:15 pixels stretched to the frame.
    await figure('720x576/16:15@25p')
    await way(page, /^stretch/).click()
    await page.locator('.ruler').hover()
    await expect.poll(() => ring(page), { timeout: 30_000 }).toBeGreaterThan(1.25)
    await expect(docket(page)).toContainText('33 % too wide')
  })
  await test.step('all findings are mended or accepted', async () => {
    for (let i = 0; i < 30; i++) {
      const cure = findings(page).locator('.cure').first()
      if ((await cure.count()) === 0) break
      const before = await untouched()
      await cure.click()
      await expect.poll(async () => (await findings(page).innerText()) + (await untouched())).not.toBe(before)
      await page.waitForTimeout(200)
    }
    await expect(findings(page).locator('.cure')).toHaveCount(0)
    const open = findings(page).getByRole('button', { name: 'accept…' })
    for (let left = await open.count(); left > 0; left--) {
      await open.first().click()
      await findings(page).getByLabel('Why it is accepted').fill('as filmed')
      await findings(page).getByRole('button', { name: 'Accept', exact: true }).click()
      await expect(open).toHaveCount(left - 1)
    }
    await expect(findings(page)).toContainText('accepted: as filmed')
  })

  const end = { status: await untouched(), findings: await findings(page).innerText() }
  const undo = page.getByRole('banner').getByRole('button', { name: /^undo/i })
  const redo = page.getByRole('banner').getByRole('button', { name: /^redo/i })
  let steps = 0
  while (await undo.isEnabled()) {
    await undo.click()
    steps++
  }
  expect(steps).toBeGreaterThan(30)
  await expect(page.getByText(/No timeline yet|has no format yet/)).toBeVisible()
  while (await redo.isEnabled()) await redo.click()
  await expect.poll(untouched).toBe(end.status)
  if (await page.getByRole('button', { name: 'show what happens' }).count())
    await page.getByRole('button', { name: 'show what happens' }).click()
  await expect.poll(() => findings(page).innerText()).toBe(end.findings)
})

test('several in hand: what they have in common is shown, what differs is marked, one action sets all', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['pour_A007', 'tower_P100', 'archive_tape']) await clipToPlace(page, clip).press('Enter')
  await block(page, 'pour_A007').click()
  await way(page, /^fill/).click()
  await block(page, 'tower_P100').click({ modifiers: ['Shift'] })
  await expect(docket(page).getByRole('heading', { name: '2 placements' })).toBeVisible()
  await expect(way(page, /^fill/)).toHaveAttribute('data-taken', 'some')
  await way(page, /^stretch/).click()
  await expect(way(page, /^stretch/)).toHaveAttribute('data-taken', 'all')
  await docket(page).getByLabel('zoom').fill('150')
  await docket(page).getByLabel('zoom').press('Enter')
  await block(page, 'tower_P100').click()
  await expect(docket(page).getByLabel('zoom')).toHaveValue('150')
  await strip(page).focus()
  await strip(page).press('d')
  await expect(way(page, /^fit/)).toHaveAttribute('data-taken', 'all')
  // The treatment of one is pasted onto another, and nothing else of it.
  await block(page, 'pour_A007').click()
  await strip(page).press('Control+c')
  await block(page, 'tower_P100').click()
  await strip(page).press('t')
  await expect(docket(page).getByLabel('zoom')).toHaveValue('150')
  await strip(page).press('Control+a')
  await expect(docket(page).getByRole('heading', { name: '3 placements' })).toBeVisible()
})

test('what one sets becomes the default of all, and a rule is changed from what is in hand', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p', ['pour_A007', 'archive_tape'])
  await page.getByRole('button', { name: 'show what happens' }).click()
  await block(page, 'pour_A007').click()
  await way(page, /^bicubic/).click()
  await docket(page).getByRole('button', { name: 'Make a rule…' }).click()
  await docket(page).getByRole('button', { name: 'Make it the default of all' }).click()
  await expect(page.locator('.defaults')).toContainText('by default: bicubic')
  await block(page, 'archive_tape').click()
  await expect(way(page, /^bicubic/)).toHaveAttribute('data-taken', 'all')

  await way(page, /^weave/).click()
  await docket(page).getByRole('button', { name: 'Make a rule…' }).click()
  await docket(page).getByRole('button', { name: 'Make the rule' }).click()
  const rules = page.getByRole('list', { name: 'Rules' })
  await expect(rules).toContainText('every 50i clip: weave')
  await way(page, /^blend/)
    .first()
    .click()
  await rules.getByRole('button', { name: 'as in hand' }).click()
  await expect(rules).toContainText('every 50i clip: blend')
  await expect(docket(page).getByRole('button', { name: 'Back to the default' })).toHaveCount(0)
  await page.locator('.defaults').getByRole('button', { name: 'take back' }).click()
  await expect(way(page, /^Lanczos/)).toHaveAttribute('data-taken', 'all')
})

test('pointing at another choice shows it and its price, and takes nothing', async ({ page }) => {
  await begun(page, '1920x1080@25p')
  await clipToPlace(page, 'archive_tape').press('Enter')
  await block(page, 'archive_tape').click()
  const saved = await page.getByRole('banner').getByRole('button', { name: /^undo/i }).getAttribute('title')
  await way(page, /^weave/).hover()
  await expect(docket(page)).toContainText('as in view: severe')
  await expect(page.locator('.margin')).toContainText('in view: weave')
  await expect(page.locator('.viewer canvas').first()).toHaveAttribute('data-shown', 'source frame 0', {
    timeout: 30_000,
  })
  await page.locator('.ruler').hover()
  await expect(page.locator('.viewer canvas').first()).toHaveAttribute(
    'data-shown',
    'top field of source frame 0',
    {
      timeout: 30_000,
    },
  )
  await expect(way(page, /^as costs least/)).toHaveAttribute('data-taken', 'all')
  expect(await page.getByRole('banner').getByRole('button', { name: /^undo/i }).getAttribute('title')).toBe(
    saved,
  )
})

test('marks on a clip, inserting and putting over, and what is told of it', async ({ page }) => {
  await begun(page, '1920x1080@25p')
  await clipToPlace(page, 'tower_P100').press('Enter')
  await clipToPlace(page, 'pour_A007').press('v')
  await expect(page.locator('.margin')).toContainText('not placed yet')
  await clipToPlace(page, 'pour_A007').press('Shift+ArrowRight')
  await clipToPlace(page, 'pour_A007').press('[')
  for (let i = 0; i < 3; i++) await clipToPlace(page, 'pour_A007').press('Shift+ArrowRight')
  await clipToPlace(page, 'pour_A007').press(']')
  await expect(page.locator('.viewer canvas').first()).toHaveAttribute('data-source-frame', '100', {
    timeout: 30_000,
  })
  expect(await markOnScreen(page, { height: 1 })).toBe(100)
  await clipToPlace(page, 'pour_A007').press('i')
  await page.getByRole('button', { name: 'back to the cut' }).click()
  await block(page, 'pour_A007').click()
  await expect(docket(page)).toContainText('for 76 frames')
  await expect(page.locator('.viewer canvas').first()).toHaveAttribute('data-source-frame', '25', {
    timeout: 30_000,
  })
  await clipToPlace(page, 'hall_wide_A003').press('o')
  await expect(block(page, 'pour_A007')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(block(page, 'pour_A007')).toHaveCount(1)
})

test('a file that is gone is told, and all else goes on; a clip at twice its speed ends with its source', async ({
  page,
}) => {
  await begun(page, '1920x1080@25p')
  await place(page, 'Arrivals')
  // A box of nothing at its end makes it another file than the one that is there already.
  const bytes = Buffer.concat([await demoFile('visitor_C002.mov'), Buffer.from('\0\0\0\u0010freefoundry!')])
  await dropFiles(page, '.arrivals', [{ name: 'lost_take.mov', bytes }])
  await expect(page.getByRole('heading', { name: /^24 arrived$/ })).toBeVisible({ timeout: 30_000 })
  await place(page, 'Timelines')
  for (const clip of ['lost_take', 'bell_swing_B011']) await clipToPlace(page, clip).press('Enter')
  // Four seconds of 50 frames: at twice the speed they are over in two, and so is their placement.
  await block(page, 'bell_swing').click()
  await way(page, /^another speed/).click()
  await docket(page).getByRole('textbox', { name: 'speed' }).fill('200')
  await docket(page).getByRole('textbox', { name: 'speed' }).press('Enter')
  await expect(block(page, 'bell_swing')).toHaveAccessibleName(/twice|200 %|4 frames/)
  await expect(docket(page)).not.toContainText('beyond the end of its source')
  await saved(page)
  await page.reload()
  await expect(strip(page).getByRole('button', { name: /lost_take.*its file is not at hand/ })).toBeVisible({
    timeout: 30_000,
  })
  await strip(page).focus()
  await expect(page.locator('.trouble')).toContainText(
    'lost_take.mov is not at hand: take the file in again',
    {
      timeout: 30_000,
    },
  )
  await strip(page).press('ArrowDown')
  const first = page.locator('.viewer canvas').first()
  await expect(first).toHaveAttribute('data-source-frame', /^\d+$/, { timeout: 30_000 })
  await strip(page).press('End')
  await expect(page.locator('.trouble')).toHaveCount(0)
  // Played, what is lost is told and what is there is shown.
  await page.getByRole('button', { name: 'play', exact: true }).click()
  await page.getByRole('button', { name: 'stop', exact: true }).waitFor()
  await page.getByRole('button', { name: 'play', exact: true }).waitFor({ timeout: 60_000 })
  await expect(page.locator('.achieved')).toContainText('lost_take.mov: not at hand')
})

test('a tab that is closed while it plays, or while something is dragged, loses nothing', async ({
  page,
  context,
}) => {
  await begun(page, '1920x1080@25p')
  for (const clip of ['visitor_C002', 'pour_A007']) await clipToPlace(page, clip).press('Enter')
  await saved(page)
  const url = page.url()
  await page.getByRole('button', { name: 'play', exact: true }).click()
  await page.getByRole('button', { name: 'stop', exact: true }).waitFor()
  await page.close()
  const again = await context.newPage()
  await again.goto(url)
  await expect(block(again, 'pour_A007')).toBeVisible({ timeout: 30_000 })
  const box = (await block(again, 'pour_A007').boundingBox())!
  await again.mouse.move(box.x + box.width / 2, box.y + 20)
  await again.mouse.down()
  await again.mouse.move(box.x + box.width / 2 + 60, box.y + 20, { steps: 4 })
  await saved(again)
  await again.close()
  const last = await context.newPage()
  await last.goto(url)
  await expect(block(last, 'pour_A007')).toBeVisible({ timeout: 30_000 })
  await expect(block(last, 'visitor_C002')).toBeVisible()
})
