import { drawnClips } from '../../tools/demo/clips'
import { type Page, type Locator } from '@playwright/test'
import { demoFile, dropFiles, expect, openDemo, row, saved, test } from './line'

const docket = (page: Page): Locator => page.getByRole('complementary', { name: 'Docket' })

/** Takes demo files in by hand, and waits until the pictures of all are measured. */
async function measured(page: Page, names: readonly string[]) {
  await page.goto('/new?name=Evidence')
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await expect(page.getByText('Nothing has arrived yet')).toBeVisible()
  const files = await Promise.all(names.map(async (name) => ({ name, bytes: await demoFile(name) })))
  await dropFiles(page, '.arrivals', files)
  await expect(page.getByRole('heading', { name: `${names.length} arrived` })).toBeVisible()
  await expect(page.getByRole('option').filter({ hasText: 'not yet' })).toHaveCount(0, { timeout: 300_000 })
}

/** What stands in the list for what a demo clip was drawn with. */
function told({ holds, says }: (typeof drawnClips)[number]): string[] {
  const order = holds?.fields === 'bottom-first' ? 'bottom' : 'top'
  const flagged = says ? says.scan === 'interlaced' && says.fieldOrder === holds?.fields : true
  return [
    ...(holds?.fields && !flagged ? [`fields, ${order} first`] : []),
    ...(holds?.repeats ? [`repeats ${holds.repeats}`] : []),
    ...(holds?.detail ? [`enlarged ${holds.detail.join('×')}`] : []),
    ...(holds?.bars ? ['bars'] : []),
  ]
}

test('clips of the demo have a picture each, and what is measured is what was drawn', async ({ page }) => {
  test.setTimeout(420_000)
  // The long takes of ultra-high definition say nothing that others do not, and take half of the time.
  const clips = drawnClips.filter(
    ({ cut, width, height, count }) => !cut && (width * height < 3_000_000 || count < 100),
  )
  await measured(
    page,
    clips.map(({ file }) => file),
  )
  const wrong: string[] = []
  for (const clip of clips) {
    await row(page, clip.file).click()
    await expect(
      docket(page)
        .getByRole('img', { name: `A frame of ${clip.file}` })
        .first(),
    ).toBeVisible()
    const text = await row(page, clip.file).innerText()
    for (const word of told(clip))
      if (!text.includes(word)) wrong.push(`${clip.file} lacks “${word}”: ${text}`)
    // What was not drawn is not found, whatever else cannot be told.
    for (const word of ['fields, ', 'repeats ', 'enlarged ', 'bars', 'mixed'])
      if (text.includes(word) && !told(clip).some((text) => text.includes(word.trim())))
        wrong.push(`${clip.file} says “${word}”: ${text}`)
  }
  expect(wrong).toEqual([])
})

test('a contradiction is told with what follows, corrected in one action, and undone; the measurement stays', async ({
  page,
}) => {
  await measured(page, ['archive_dub_07.mp4', 'festival_print.mp4', 'archive_reel4.mov'])
  await row(page, 'archive_dub').click()
  const card = docket(page).getByRole('region', { name: 'Flagged progressive, but it combs.' })
  await expect(card).toContainText('Two moments in each frame, top field first')
  await expect(card).toContainText('Each frame is taken as two fields')
  await card.getByRole('button', { name: 'Take it as 50i, top first' }).click()
  await expect(card).toBeHidden()
  await expect(docket(page)).toContainText('interlaced, top field first')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(card).toBeVisible()
  await card.getByRole('button', { name: 'Leave as claimed' }).click()
  await expect(card).toBeHidden()
  await page.getByRole('button', { name: 'undo' }).click()

  await row(page, 'festival_print').click()
  const print = docket(page).getByRole('region', { name: 'A 24 shot in a file of 60.' })
  await expect(print).toContainText('its toll goes from heavy to free')
  await print.getByRole('button', { name: 'Take each frame once, at 24' }).click()
  await expect(docket(page)).toContainText('24 frames a second')
  const bars = docket(page).getByRole('region', { name: 'Bars are baked into the picture.' })
  await bars.getByRole('button', { name: 'Take 1920×812 as the picture' }).click()
  await expect(row(page, 'festival_print')).toContainText('1920×812')

  await row(page, 'archive_reel4').click()
  await expect(docket(page)).toContainText('Flagged top field first, but the other field is first in time.')

  // Found by what was measured, grouped by it, and kept: nothing is measured again after a reload.
  await page.getByLabel('Find clips by name or fact').fill('contradicts')
  await expect(page.getByRole('heading', { name: '2 of 3' })).toBeVisible()
  await page.getByLabel('Find clips by name or fact').fill('')
  await page.getByLabel('Group by').selectOption('measured')
  await expect(page.getByText('fields, bottom first').first()).toBeVisible()
  await saved(page)
  await page.reload()
  await expect(row(page, 'archive_reel4')).toContainText('fields, bottom')
  await expect(page.getByRole('region', { name: 'Being measured' })).toHaveCount(0)
})

test('the proof is shown on the clip’s own frames', async ({ page }) => {
  await measured(page, ['archive_dub_07.mp4', 'festival_print.mp4'])
  await row(page, 'archive_dub').click()
  await docket(page).getByRole('button', { name: 'Look closer' }).click()
  const closer = page.getByRole('dialog')
  await expect(closer.getByRole('tab', { name: 'combs' })).toHaveAttribute('aria-selected', 'true')
  await expect(closer.getByText(/\d+ blocks of 16×16 comb in this frame/)).toBeVisible()
  expect(await closer.locator('svg .block').count()).toBeGreaterThan(20)
  await closer.getByRole('tab', { name: 'fields' }).click()
  await expect(closer.getByText('top field, shown first')).toBeVisible()
  await page.keyboard.press('Escape')

  await row(page, 'festival_print').click()
  await docket(page).getByRole('button', { name: 'Look closer' }).click()
  await expect(closer.getByText(/their difference, made 8 times as strong/)).toBeVisible()
  const apart = await closer.locator('figcaption b').innerText()
  expect(Number(apart)).toBeLessThan(4)
  await closer.getByRole('tab', { name: 'edges' }).click()
  await expect(closer.locator('svg .bar')).toHaveCount(2)
  await closer.getByRole('tab', { name: 'detail' }).click()
  await expect(closer.getByRole('img', { name: /Strength across: / })).toBeVisible()
})

test('measuring rests, goes on, is left and asked for', async ({ page }) => {
  await openDemo(page, true)
  const queue = page.getByRole('region', { name: 'Being measured' })
  await expect(queue).toContainText(/\d+ of 20/, { timeout: 60_000 })
  await queue.getByRole('button', { name: 'pause' }).click()
  await expect(queue).toContainText('Measuring rests')
  await queue.getByRole('button', { name: 'go on' }).click()
  await expect(queue).toContainText(/\d+ of 20/)
  await queue.getByRole('button', { name: 'cancel' }).click()
  await expect(queue).toHaveCount(0)
  await row(page, 'tower_dv_03').click()
  await docket(page).getByRole('button', { name: 'measure now' }).click()
  await expect(docket(page)).toContainText('38 frames of it were looked at', { timeout: 60_000 })
})

test('measuring holds still while a clip plays, and goes on where it was', async ({ page }) => {
  await openDemo(page, true)
  const queue = page.getByRole('region', { name: 'Being measured' })
  await expect(queue).toContainText(/\d+ of 20/, { timeout: 60_000 })
  await row(page, 'bell_swing_B011').click()
  await docket(page).getByRole('button', { name: 'Look closer' }).click()
  const closer = page.getByRole('dialog')
  await closer.getByRole('button', { name: 'Play', exact: true }).click()
  await expect(queue).toContainText('Measuring waits for what plays')
  // The frame that is under way is still told; then nothing moves.
  await page.waitForTimeout(500)
  const held = await queue.getByRole('progressbar').getAttribute('value')
  await page.waitForTimeout(600)
  expect(await queue.getByRole('progressbar').getAttribute('value')).toBe(held)
  await closer.getByRole('button', { name: 'Pause', exact: true }).click()
  await expect(queue).toContainText('Being measured')
  await expect.poll(() => queue.getByRole('progressbar').getAttribute('value')).not.toBe(held)
})
