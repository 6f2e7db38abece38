import { readFile } from 'node:fs/promises'
import {
  clipToPlace,
  demoFile,
  dropFiles,
  expect,
  fillable,
  markOnScreen,
  openDemo,
  place,
  row,
  saved,
  test,
} from './line'

test('the whole line: from the siding to the hand-over, and back after a reload', async ({ page }) => {
  await openDemo(page)

  // Arrivals: facts, faults with their reasons, a poster from the real picture.
  await expect(row(page, 'hall_wide_A003')).toContainText('3840×2160')
  await expect(row(page, 'clerk_phone_0417')).toContainText('1080×1920')
  await expect(row(page, 'archive_reel2')).toContainText('50i')
  await expect(row(page, 'pour_backup_B015')).toContainText('Cut off after')
  await row(page, 'archive_reel2').click()
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await expect(docket).toContainText('64:45')
  await expect(docket).toContainText('top field first')
  await expect(docket.getByRole('img', { name: 'A frame of archive_reel2.mov' })).toBeVisible({
    timeout: 30_000,
  })

  // Yard: the candidates are priced, stills do not vote, one is chosen and the log keeps why.
  await place(page, 'Yard')
  await expect(page.getByText('1 still')).toBeVisible()
  const candidates = page.getByRole('complementary', { name: 'Candidates' })
  await candidates.getByLabel('Another format').fill('3840x2160@25p')
  await candidates.getByRole('button', { name: 'Try' }).click()
  await candidates.getByRole('button', { name: 'Set as project format' }).click()
  await expect(page.getByRole('banner')).toContainText('3840×2160 · 25p')
  await candidates.getByRole('button', { name: /^log/ }).click()
  await expect(candidates.getByRole('listitem').last()).toContainText('stays untouched')

  // Timelines: what matches is placed; what differs is asked about with figures for both answers.
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await clipToPlace(page, 'hall_wide_A003').press('Enter')
  await expect(page.getByRole('dialog')).toBeHidden()
  await clipToPlace(page, 'bell_swing_B011').dblclick()
  const question = page.getByRole('dialog')
  await expect(question).toContainText('differs in size and rate')
  await expect(question).toContainText('75 % of the pixels invented')
  await expect(question).toContainText('1 of 1 placed clips pays more than now')
  await expect(question.locator('canvas[aria-busy=false]')).toHaveCount(2)
  await question.getByRole('button', { name: 'Keep it, treat the clip' }).click()
  await clipToPlace(page, 'visitor_C002').dragTo(page.getByRole('region', { name: /^Cut/ }))
  await question.getByRole('button', { name: 'Keep it, treat the clip' }).click()
  await expect(page.getByText('frame 0 of 1025')).toBeVisible()
  // Once it is closed, the question gives the focus back to where it was.
  await expect(question).toBeHidden()

  // The viewer shows the source frame that the cadence says: timeline frame 810 is the 10th of the 50p clip.
  const strip = page.getByRole('group', { name: /The cut to scale/ })
  await strip.focus()
  await strip.press('ArrowDown')
  for (let i = 0; i < 10; i++) await strip.press('ArrowRight')
  await expect(page.locator('.viewer canvas')).toHaveAttribute('data-source-frame', '21', { timeout: 30_000 })
  expect(await markOnScreen(page, { height: 1 })).toBe(21)
  // 4096×2160 in 16:9 has bars: the picture stands below them.
  await strip.press('ArrowDown')
  await expect(page.locator('.viewer canvas')).toHaveAttribute('data-source-frame', '0', { timeout: 30_000 })
  expect(await markOnScreen(page, { height: 15 / 16, top: 1 / 32 })).toBe(0)

  // Dispatch: the check as a list, the cut as OpenTimelineIO with exact times.
  await place(page, 'Dispatch')
  await expect(page.getByRole('region', { name: 'Check of the timeline' })).toContainText(
    'bell_swing_B011.mp4',
  )
  const [otioFile] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Cut as OpenTimelineIO' }).click(),
  ])
  const otio = JSON.parse(await readFile(await otioFile.path(), 'utf8'))
  expect(otio.OTIO_SCHEMA).toBe('Timeline.1')
  const [hall, bell, visitor] = otio.tracks.children[0].children
  const times = (clip: typeof hall) => [
    clip.source_range.start_time.value,
    clip.source_range.start_time.rate,
    clip.source_range.duration.value,
    clip.source_range.duration.rate,
  ]
  expect(times(hall)).toEqual([((10 * 60 + 4) * 60 + 12) * 25, 25, 800, 25])
  expect(times(bell)).toEqual([(14 * 60 + 10) * 50, 50, 100, 25])
  expect(times(visitor)).toEqual([((1 * 60 + 2) * 60 + 3) * 24 + 4, 24000 / 1001, 125, 25])
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV of' }).click(),
  ])
  expect((await readFile(await csv.path(), 'utf8')).split('\n')).toHaveLength(4)
  const [projectFile] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Project file', exact: true }).click(),
  ])

  // A reload finds everything.
  await saved(page)
  await page.reload()
  await expect(page.getByRole('region', { name: 'Check of the timeline' })).toContainText('visitor_C002.mov')
  await place(page, 'Arrivals')
  await expect(page.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible()
  await row(page, 'archive_reel2').click()
  await expect(docket.getByRole('img', { name: 'A frame of archive_reel2.mov' })).toBeVisible()

  // The project file comes back as a second project in the same state.
  await page.goto('/')
  await page.getByLabel('Project file').setInputFiles(await projectFile.path())
  await expect(page.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible()
  await expect(page.getByRole('banner')).toContainText('3840×2160 · 25p')
  await place(page, 'Dispatch')
  const [again] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Project file', exact: true }).click(),
  ])
  const state = async (path: string) => {
    const file = JSON.parse(await readFile(path, 'utf8'))
    delete file.project.id
    return file
  }
  expect(await state(await again.path())).toEqual(await state(await projectFile.path()))
})

test('files dropped onto Arrivals are read, kept, undone and found again', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Name of the new project').fill('Second casting')
  await page.getByRole('button', { name: 'Begin…' }).click()
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await expect(page.getByText('Nothing has arrived yet')).toBeVisible()
  await dropFiles(page, '.arrivals', [
    { name: 'bell.mp4', bytes: await demoFile('bell_swing_B011.mp4') },
    { name: 'card.png', bytes: await demoFile('title_card.png') },
    { name: 'letter.txt', bytes: Buffer.from('Dear founder, the bell has cracked.') },
    { name: 'nothing.mov', bytes: Buffer.alloc(0) },
  ])
  await expect(row(page, 'bell.mp4')).toContainText('50p')
  await expect(row(page, 'card.png')).toContainText('does not vote')
  await expect(page.getByRole('button', { name: '1 file left aside' })).toBeVisible()
  await expect(row(page, 'nothing.mov')).toContainText('empty')
  await row(page, 'bell.mp4').click()
  await expect(page.getByRole('img', { name: 'A frame of bell.mp4' })).toBeVisible({ timeout: 30_000 })

  // A title card on its own never sets the format.
  await place(page, 'Yard')
  await expect(page.getByRole('complementary', { name: 'Candidates' })).toBeVisible()
  await expect(page.getByRole('listitem').first()).toContainText('1920×1080 · 50p')

  await saved(page)
  await page.reload()
  await place(page, 'Arrivals')
  await expect(page.getByRole('heading', { name: /^3 arrived$/ })).toBeVisible()
  await row(page, 'nothing.mov').click()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('heading', { name: /^2 arrived$/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('heading', { name: /^3 arrived$/ })).toBeVisible()
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByRole('heading', { name: /^2 arrived$/ })).toBeVisible()
  await saved(page)
  await page.reload()
  await expect(page.getByRole('heading', { name: /^2 arrived$/ })).toBeVisible()
  await expect(page.getByRole('button', { name: '1 file left aside' })).toBeVisible()
})

test('what the browser cannot write is told, kept, and written later', async ({ page }) => {
  const disk = await fillable(page)
  await openDemo(page)
  // What is measured meanwhile would be written too, as soon as it can be.
  const queue = page.getByRole('region', { name: 'Being measured' })
  await queue.getByRole('button', { name: 'cancel' }).click({ timeout: 60_000 })
  await place(page, 'Yard')
  await saved(page)
  await disk(true)
  await page.getByRole('button', { name: 'Set as project format' }).click()
  const trouble = page.getByRole('alert')
  await expect(trouble).toContainText('The last changes are not saved')
  await expect(trouble).toContainText('storage is full')
  await trouble.getByRole('button', { name: 'Try again' }).click()
  await expect(trouble).toContainText('storage is full')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    trouble.getByRole('button', { name: 'Save the project file' }).click(),
  ])
  expect(JSON.parse(await readFile(await file.path(), 'utf8')).project.decisions).toHaveLength(1)

  await disk(false)
  await trouble.getByRole('button', { name: 'Try again' }).click()
  await expect(trouble).toBeHidden()
  await saved(page)
  await page.reload()
  await expect(page.getByRole('banner')).toContainText('3840×2160 · 25p')
})

test('a title card placed first changes nothing, and a wrong choice is undone', async ({ page }) => {
  await openDemo(page)
  await place(page, 'Timelines')
  await expect(page.getByText('The project has no format yet')).toBeVisible()
  await expect(page.getByRole('button', { name: 'New timeline' })).toBeDisabled()
  await place(page, 'Yard')
  await page.getByRole('button', { name: 'Set as project format' }).click()
  const format = await page.getByRole('banner').locator('.format b').innerText()
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await clipToPlace(page, 'title_card').press('Enter')
  await expect(page.locator('.strip')).toContainText('title_card.png')
  await expect(page.getByRole('banner').locator('.format b')).toHaveText(format)
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.locator('.strip')).not.toContainText('title_card.png')
  await page.getByRole('button', { name: 'undo' }).click()
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByRole('banner')).toContainText('format not chosen')
})
