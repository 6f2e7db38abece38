import { readFile } from 'node:fs/promises'
import {
  clipToPlace,
  demoFile,
  dropFiles,
  expect,
  findPayer,
  openDemo,
  place,
  row,
  saved,
  test,
} from './line'

test('a title card that comes first decides nothing, and it is said why', async ({ page }) => {
  await page.goto('/new?name=Wrong start')
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await dropFiles(page, '.arrivals', [{ name: 'title_card.png', bytes: await demoFile('title_card.png') }])
  await expect(row(page, 'title_card')).toContainText('does not vote')
  await place(page, 'Timelines')
  await expect(page.getByRole('button', { name: 'New timeline' })).toBeDisabled()
  await expect(page.getByText('a timeline never takes it from what is placed first')).toBeVisible()
  await place(page, 'Yard')
  await expect(page.getByText('Stills and sound never decide a format')).toBeVisible()

  // A clip with moving pictures comes; the card still has no vote, and none to give.
  await place(page, 'Arrivals')
  await dropFiles(page, '.arrivals', [
    { name: 'hall_wide_A004.mp4', bytes: await demoFile('hall_wide_A004.mp4') },
  ])
  await expect(row(page, 'hall_wide_A004')).toContainText('3840×2160')
  await place(page, 'Yard')
  await expect(page.getByText('1 still do not vote')).toBeVisible()
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await expect(candidates.getByRole('listitem').first()).toContainText('All footage stays untouched')
  await page.getByRole('button', { name: /^title_card/ }).click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await expect(docket).toContainText('A still never decides a format; it only pays.')
  await expect(docket.getByRole('button', { name: 'Set it as project format' })).toHaveCount(0)
  await docket.getByRole('button', { name: '‹ candidates' }).click()
  await candidates.getByRole('button', { name: 'Set as project format' }).click()

  // Placed first of all, it is treated and asks nothing; the format stays.
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await clipToPlace(page, 'title_card').press('Enter')
  await expect(page.getByText('frame 0 of 125')).toBeVisible()
  await expect(page.getByRole('dialog')).toBeHidden()
  await expect(page.getByRole('banner')).toContainText('3840×2160 · 25p')
})

test('a format is set from a clip, what it does is told before, and the log keeps why', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await openDemo(page)
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await expect(candidates).toContainText('Nothing is placed yet, so all of it is still free')
  await candidates.getByRole('button', { name: 'Set as project format' }).click()
  await expect(page.getByRole('banner')).toContainText('project format, recommended')

  // Two timelines: one follows, one gets its own format.
  await place(page, 'Timelines')
  const list = page.getByRole('complementary', { name: 'Timelines and clips' })
  await page.getByRole('button', { name: 'New timeline' }).click()
  await clipToPlace(page, 'hall_wide_A003').press('Enter')
  await clipToPlace(page, 'pour_A007').press('Enter')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await list.getByRole('button', { name: 'Change “Cut 3840×2160 · 25p (2)”' }).click()
  const question = page.getByRole('dialog')
  await question
    .getByLabel('A standard size or an own format')
    .selectOption({ label: '1080×1920 HD portrait' })
  await expect(question.getByRole('status')).toContainText(
    'goes from 3840×2160 · 25p to 1080×1920 · 25p; nothing is placed in it. It stays when the project’s format changes.',
  )
  await question.getByRole('button', { name: 'Set it' }).click()
  await expect(list).toContainText('its own, tried')

  // One is made from a clip; its name proposes itself.
  await list.getByRole('button', { name: 'with own…' }).click()
  await question
    .getByLabel('The format of a clip')
    .selectOption({ label: 'archive_reel2.mov: 720×576 (64:45) · 50i' })
  await expect(question.getByRole('status')).toContainText(
    'It runs in 720×576 (64:45) · 50i, taken from archive_reel2.mov.',
  )
  await question.getByRole('button', { name: 'Make it' }).click()
  await expect(list).toContainText('Cut 720×576 (64:45) · 50i')
  await expect(list).toContainText('its own, taken from archive_reel2.mov')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(list.getByText('taken from archive_reel2.mov')).toHaveCount(0)

  // Trying another format tells both fates.
  await place(page, 'Yard')
  await findPayer(page, 'bell_swing_B011')
  await page.getByRole('button', { name: /^bell_swing_B011/ }).click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await docket.getByRole('button', { name: 'Try its format' }).click()
  await docket.getByRole('button', { name: '‹ candidates' }).click()
  const does = candidates.getByRole('list', { name: 'What setting it does' })
  await expect(does).toContainText(
    '“Cut 3840×2160 · 25p” goes from 3840×2160 · 25p to 1920×1080 · 50p; every cut stays in time',
  )
  await expect(does).toContainText('“Cut 1080×1920 · 25p” has its own format, 1080×1920 · 25p, and stays.')
  await expect(candidates).toContainText('2 clips are placed: another rate moves their cuts')

  await findPayer(page, 'bell_swing_B011')
  await page.getByRole('button', { name: /^bell_swing_B011/ }).click()
  await docket.getByRole('button', { name: 'Set it as project format' }).click()
  await expect(page.getByRole('banner')).toContainText('1920×1080 · 50p')
  await expect(page.getByRole('banner')).toContainText('taken from a clip')
  await docket.getByRole('button', { name: '‹ candidates' }).click()
  await candidates.getByRole('button', { name: /^log/ }).click()
  await expect(candidates.getByRole('listitem').first()).toContainText(
    'The format of bell_swing_B011.mp4. Loss 0.3',
  )
  await candidates.getByRole('button', { name: 'Copy the log' }).click()
  const copied = await page.evaluate(() => navigator.clipboard.readText())
  expect(copied).toContain('1920×1080 · 50p (HD), taken from a clip. The format of bell_swing_B011.mp4.')
  expect(copied).toContain('3840×2160 · 25p (UHD), recommended.')

  // The same as a sheet, light on paper even at night, without what surrounds it.
  await page.getByRole('button', { name: 'night' }).click()
  await candidates.getByRole('link', { name: 'as a sheet to print' }).click()
  await expect(page.getByRole('heading', { name: 'The Ninth Bell: decisions on the format' })).toBeVisible()
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('banner')).toBeHidden()
  await page.evaluate(() => dispatchEvent(new Event('beforeprint')))
  expect(await page.locator('html').getAttribute('data-edition')).toBe('light')
  await page.evaluate(() => dispatchEvent(new Event('afterprint')))
  expect(await page.locator('html').getAttribute('data-edition')).toBe('night')
  await page.emulateMedia({ media: 'screen' })

  // Undone: the cut is where it was.
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByRole('banner')).toContainText('3840×2160 · 25p')
  await place(page, 'Timelines')
  await list.getByRole('button', { name: /^Cut 3840×2160 · 25p 3840/ }).click()
  await expect(page.getByText('frame 0 of 1350')).toBeVisible()
})

test('own formats are kept, edited, exported, dropped, put back, imported and used', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Yard')
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await candidates.getByLabel('Another format').fill('1440x1080/4:3@50i')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await candidates.getByRole('button', { name: 'Keep as own' }).click()
  await expect(candidates.getByRole('button', { name: 'Kept' })).toBeDisabled()

  await page.getByRole('link', { name: 'habits' }).click()
  await page.getByLabel('A format to keep').fill('1081x1350@29.97p')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByText('odd side')).toBeVisible()
  await page.getByLabel('A format to keep').fill('1080x1350@29.97p')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  const name = page.getByLabel('Name of 1080×1350 · 29.97p')
  await name.fill('Foundry window')
  await name.press('Tab')
  const format = page.getByLabel('Format of Foundry window')
  await format.fill('1080x1350@nonsense')
  await format.press('Tab')
  await expect(page.getByRole('status').first()).toContainText('is not a format')
  await format.fill('1080x1350@25p')
  await format.press('Tab')
  await expect(page.getByRole('row', { name: /Foundry window/ })).toContainText('1080×1350 · 25p')

  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export as JSON' }).first().click(),
  ])
  const text = await readFile(await file.path(), 'utf8')
  expect(JSON.parse(text)).toMatchObject({
    kind: 'yard-tally-formats',
    version: 1,
    formats: [
      {
        name: '1440×1080 (4:3) · 50i',
        format: { width: 1440, height: 1080, pixelAspect: { num: 4, den: 3 }, scan: 'interlaced' },
      },
      { name: 'Foundry window', format: { width: 1080, height: 1350, rate: { num: 25, den: 1 } } },
    ],
  })

  await page.getByRole('button', { name: 'Drop Foundry window' }).click()
  await expect(page.getByLabel('Name of Foundry window')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(page.getByLabel('Name of Foundry window')).toBeVisible()
  for (const own of ['Foundry window', '1440×1080 (4:3) · 50i'])
    await page.getByRole('button', { name: `Drop ${own}` }).click()
  await expect(page.getByText('None yet. Keep one here')).toBeVisible()

  const input = page.getByLabel('File of formats')
  await input.setInputFiles({
    name: 'bad.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"kind":"x"}'),
  })
  await expect(page.getByRole('status').first()).toContainText(
    'bad.json: The file is JSON, but not a list of formats',
  )
  await input.setInputFiles({ name: 'own.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  await expect(page.getByRole('status').first()).toContainText('2 formats came in.')
  await input.setInputFiles({ name: 'own.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  await expect(page.getByRole('status').first()).toContainText('0 formats came in, 2 were here already.')
  const again = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export as JSON' }).first().click(),
  ])
  expect(await readFile(await again[0].path(), 'utf8')).toBe(text)

  // Kept over a reload, and offered in the Yard.
  await expect(page.getByRole('main')).toHaveAttribute('data-saved', 'true')
  await page.goto('/')
  await page.getByRole('link', { name: 'The Ninth Bell' }).click()
  await place(page, 'Yard')
  await candidates
    .getByLabel('A standard size or an own format')
    .selectOption({ label: 'Foundry window: 1080×1350 · 25p' })
  await candidates.getByRole('button', { name: 'Set as project format' }).click()
  await expect(page.getByRole('banner')).toContainText('1080×1350 · 25p')
  await expect(page.getByRole('banner')).toContainText('an own format')
  await saved(page)
})

test('a project begins from what is delivered, with the editor’s habits', async ({ page }) => {
  await page.goto('/habits')
  await page.getByLabel('60 Hz').check()
  await page.getByLabel('keep the timeline’s format, treat the clip').check()
  await page.getByLabel('Shape').fill('9:16')
  await page.getByLabel('Shape').press('Tab')
  await page.getByLabel('Rate', { exact: true }).fill('23.98')
  await page.getByLabel('Rate', { exact: true }).press('Tab')
  await expect(page.getByRole('status').first()).toContainText('24000/1001')
  await expect(page.getByRole('main')).toHaveAttribute('data-saved', 'true')

  await page.goto('/')
  await expect(page.getByText('60 Hz, 9:16, 23.976 frames a second')).toBeVisible()
  await page.getByLabel('Name of the new project').fill('Bell on the phone')
  await page.getByRole('button', { name: 'Begin…' }).click()
  const comesTo = page.getByRole('complementary', { name: 'What it comes to' })
  await expect(comesTo).toContainText('openly undecided')
  await page.getByLabel('known', { exact: true }).check()
  await expect(comesTo).toContainText('1080×1920 · 23.976p')
  await expect(comesTo).toContainText('HD portrait, 9:16')
  await page.getByRole('button', { name: 'Turn on its side' }).click()
  await expect(comesTo).toContainText('1920×1080 · 23.976p')
  await expect(comesTo).toContainText('HD, 16:9')
  // UHD and DCI 4K are never one.
  await page.getByLabel('Another shape').fill('256:135')
  await page.getByRole('radio', { name: '4096×2160' }).check()
  await expect(comesTo).toContainText('DCI 4K, 256:135')
  await page.getByLabel('Another size').fill('1921x1081')
  await page.getByLabel('Another size').press('Tab')
  await expect(comesTo.getByRole('alert')).toContainText('odd side')
  await expect(page.getByRole('button', { name: 'Begin the project' })).toBeDisabled()
  await page.getByLabel('Another size').fill('1920x1080')
  await page.getByLabel('Another size').press('Tab')
  await page.getByLabel('Another rate').fill('50i')
  await expect(comesTo).toContainText('1920×1080 · 50i')
  await expect(page.getByText('Under 60 Hz lamps 25 frames a second may flicker.')).toBeVisible()
  await page.getByLabel('what is delivered, from the start').check()
  await page.getByRole('button', { name: 'Begin the project' }).click()

  await expect(page.getByRole('banner')).toContainText('Bell on the phone')
  await expect(page.getByRole('banner')).toContainText('1920×1080 · 50i')
  await expect(page.getByRole('banner')).toContainText('as delivered')
  await dropFiles(page, '.arrivals', [
    { name: 'hall_wide_A004.mp4', bytes: await demoFile('hall_wide_A004.mp4') },
  ])
  await expect(row(page, 'hall_wide_A004')).toContainText('3840×2160')
  await place(page, 'Yard')
  await expect(page.getByRole('complementary', { name: 'Candidates' })).toContainText(
    'delivered: 1920×1080 · 50i',
  )
  // Kept without being asked, as the habit is; the project may differ.
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await clipToPlace(page, 'hall_wide_A004').press('Enter')
  await expect(page.getByText('frame 0 of 600')).toBeVisible()
  await page.getByLabel('ask about mismatches').check()
  await clipToPlace(page, 'hall_wide_A004').press('Enter')
  await expect(page.getByRole('dialog')).toContainText('differs in size and scan')
})
