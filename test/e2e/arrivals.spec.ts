import { execFile } from 'node:child_process'
import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Page } from '@playwright/test'
import { aDoc, aVideo } from '../../src/core/model/doc.fixture'
import { writeProjectFile } from '../../src/core/stored/project-file'
import { addressOf, served, stopped } from './served'
import { demoFile, dropFiles, expect, openDemo, row, saved, test } from './line'

const root = join(import.meta.dirname, '..', '..')
const fixtures = join(root, 'test', 'fixtures', 'files')

async function begin(page: Page, name: string) {
  await page.goto('/')
  await page.getByLabel('Name of the new project').fill(name)
  await page.getByRole('button', { name: 'Begin…' }).click()
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await expect(page.getByText('Nothing has arrived yet')).toBeVisible()
}

test('files arrive on the siding one by one, and are read when they rest', async ({ page }) => {
  const card = await served(true)
  await page.goto(addressOf(card))
  await page.getByRole('button', { name: 'Open the demo' }).click()
  await expect(page.getByText('is arriving on the siding')).toBeVisible()
  await expect(page.getByText('read when it rests')).toBeVisible()
  await expect(row(page, 'archive_reel2')).toBeVisible()
  await expect(page.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible()
  await expect(page.getByText('is arriving on the siding')).toBeHidden()
  // All of it is one step.
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByText('Nothing has arrived yet')).toBeVisible()
  await stopped(card)
})

test('a folder is dropped with all that is in it', async ({ page }) => {
  await begin(page, 'A folder')
  const client = await page.context().newCDPSession(page)
  const data = { items: [], files: [fixtures], dragOperationsMask: 1 }
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    await client.send('Input.dispatchDragEvent', { type, x: 400, y: 400, data })
  }
  const count = (await readdir(fixtures)).length
  await expect(page.getByRole('heading', { name: `${count} arrived` })).toBeVisible({ timeout: 60_000 })
  await page.getByLabel('Find clips by name or fact').fill('mould')
  await expect(row(page, 'mould_hevc_main10')).toContainText('HEVC')
})

test('the browser reads what the terminal reads', async ({ page }) => {
  const names = (await readdir(fixtures)).sort()
  const paths = names.map((name) => join(fixtures, name))
  await begin(page, 'Both')
  await page.getByLabel('Files to take in').setInputFiles(paths)
  await expect(page.getByRole('heading', { name: `${names.length} arrived` })).toBeVisible({
    timeout: 60_000,
  })
  await page.getByRole('navigation').getByRole('link', { name: 'Dispatch' }).click()
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Project file', exact: true }).click(),
  ])
  const { clips } = JSON.parse(await readFile(await saved.path(), 'utf8')) as {
    clips: { name: string; reading: Record<string, unknown> | null; fault: { code: string } | null }[]
  }
  const printed = await promisify(execFile)(
    process.execPath,
    ['tools/scripts/tally.mjs', 'inspect', '--json', ...paths],
    { cwd: root, maxBuffer: 1e8 },
  ).catch((error: { stdout: string }) => error)
  const lines = printed.stdout
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line))
  expect(lines).toHaveLength(names.length)
  for (const [i, name] of names.entries()) {
    const clip = clips.find((c) => c.name === name)!
    expect(clip.fault?.code, name).toBe(lines[i].error?.code)
    // The project keeps more than the terminal prints; what it prints is the same.
    if (lines[i].reading) expect(clip.reading, name).toMatchObject(lines[i].reading)
  }
})

test('five thousand clips are listed, sorted, grouped and found', async ({ page }) => {
  const formats = [
    '3840x2160@25p',
    '1920x1080@50p',
    '720x576/64:45@50i',
    '4096x2160@23.976p',
    '1920x1080@59.94p',
  ]
  const clips = Array.from({ length: 5000 }, (_, i) =>
    aVideo(`take_${String(i).padStart(4, '0')}`, formats[i % 5]!, 2 + (i % 97)),
  )
  const folder = await mkdtemp(join(tmpdir(), 'many-'))
  const file = join(folder, 'many.json')
  await writeFile(file, writeProjectFile(aDoc(clips)))
  await page.goto('/')
  await page.getByLabel('Project file').setInputFiles(file)
  await expect(page.getByRole('heading', { name: '5000 arrived' })).toBeVisible({ timeout: 60_000 })
  await rm(folder, { recursive: true })
  expect(await page.getByRole('option').count()).toBeLessThan(80)
  const list = page.getByRole('listbox', { name: 'Clips' })
  await list.focus()
  await list.press('End')
  await expect(row(page, 'take_4999')).toBeVisible()
  await page.getByRole('button', { name: 'time', exact: true }).click()
  await page.getByRole('button', { name: /^time/ }).click()
  await list.press('Home')
  await expect(list.getByRole('option').first()).toContainText('1:38')
  await page.getByLabel('Group by').selectOption('size')
  await expect(page.getByText('1920×1080', { exact: true }).first()).toBeVisible()
  await page.getByLabel('Find clips by name or fact').fill('interlaced')
  await expect(page.getByRole('heading', { name: '1000 of 5000' })).toBeVisible()
})

test('a claim is corrected on two clips, shown everywhere, and taken back', async ({ page }) => {
  await openDemo(page)
  await row(page, 'bell_swing_B011').click()
  await row(page, 'bell_swing_B012').click({ modifiers: ['Control'] })
  await page.getByRole('button', { name: 'Correct 2…' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Rate').fill('23.98')
  await expect(dialog).toContainText('23.98 is taken as 23.976')
  await expect(dialog).toContainText(
    'Slow motion from real frames: 47.95 % speed, 4.00 s become 8.34 s. No frame is created.',
  )
  await dialog.getByRole('button', { name: 'Correct 2' }).click()
  await expect(row(page, 'bell_swing_B011')).toContainText('23.976p')
  await expect(row(page, 'bell_swing_B012')).toContainText('corrected')
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await expect(docket).toContainText('corrected')
  await expect(docket.locator('.overruled').first()).toContainText('50 frames a second')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(row(page, 'bell_swing_B011')).toContainText('50p')
  await expect(row(page, 'bell_swing_B011')).not.toContainText('corrected')
})

test('clips are compared side by side', async ({ page }) => {
  await openDemo(page)
  await row(page, 'archive_reel2').click()
  await row(page, 'archive_tape').click({ modifiers: ['Control'] })
  await page.getByRole('button', { name: 'Compare 2' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('row', { name: /picture/ })).toContainText('HD anamorphic')
  await expect(dialog.getByRole('row', { name: /^scan/ })).toBeHidden()
  await dialog.getByLabel(/all facts/).check()
  await expect(dialog.getByRole('row', { name: /^scan/ })).toContainText('top field first')
})

test('files are asked for once after a reload, and linked in one go', async ({ page }) => {
  await begin(page, 'Again')
  const files = [
    { name: 'bell.mp4', bytes: await demoFile('bell_swing_B011.mp4') },
    { name: 'tower.mp4', bytes: await demoFile('tower_P100.mp4') },
  ]
  await dropFiles(page, '.arrivals', files)
  await expect(page.getByRole('heading', { name: '2 arrived' })).toBeVisible()
  await saved(page)
  await page.reload()
  await expect(page.getByText('2 files are not at hand')).toBeVisible()
  await expect(row(page, 'tower.mp4')).toContainText('file not at hand')
  await page
    .getByLabel('Files to take in')
    .setInputFiles([
      ...files.map(({ name, bytes }) => ({ name, mimeType: 'video/mp4', buffer: bytes })),
      { name: 'other.mp4', mimeType: 'video/mp4', buffer: await demoFile('pour_fast_B014.mp4') },
    ])
  // The two are known by name, size and hash; only the third is new.
  await expect(page.getByRole('heading', { name: '3 arrived' })).toBeVisible()
  await expect(page.getByText('not at hand')).toBeHidden()
  await row(page, 'tower.mp4').click()
  await page.getByRole('button', { name: 'Look closer' }).click()
  await expect(page.getByRole('dialog').locator('canvas')).toHaveAttribute('data-frame', '0', {
    timeout: 30_000,
  })
})

test('everything is reached by keyboard alone', async ({ page }) => {
  await openDemo(page)
  const list = page.getByRole('listbox', { name: 'Clips' })
  await list.focus()
  await page.keyboard.type('tower')
  await expect(row(page, 'tower_P100')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Enter')
  const closer = page.getByRole('dialog').getByRole('group', { name: /Frames of tower_P100/ })
  await expect(closer.locator('canvas')).toHaveAttribute('data-frame', '0', { timeout: 30_000 })
  await closer.focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(closer.locator('canvas')).toHaveAttribute('data-frame', '2', { timeout: 30_000 })
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await list.focus()
  await page.keyboard.press('Home')
  await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('Shift+ArrowDown')
  await expect(page.getByText('3 selected')).toBeVisible()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('heading', { name: '20 arrived' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('heading', { name: '23 arrived' })).toBeVisible()
  await page.keyboard.press('Control+a')
  await expect(page.getByText('23 selected')).toBeVisible()
})
