import type { Locator, Page } from '@playwright/test'
import { proofOf, queue } from './delivering'
import { expect, test } from './line'

/** Tabs on, or back, until something is in focus: what cannot be reached so fails. The pointer is never used. */
async function reach(page: Page, wanted: Locator, back = false): Promise<void> {
  await expect(wanted).toBeVisible()
  for (let presses = 0; presses < 160; presses++) {
    if (await wanted.evaluate((element) => element === document.activeElement)) return
    await page.keyboard.press(back ? 'Shift+Tab' : 'Tab')
  }
  throw new Error(`160 tabs do not reach ${String(wanted)}`)
}
const press = async (page: Page, wanted: Locator, key = 'Enter') => {
  await reach(page, wanted)
  await page.keyboard.press(key)
}
/** Nothing that was done left the keyboard nowhere. */
const focused = (page: Page) =>
  expect.poll(() => page.evaluate(() => document.activeElement?.tagName ?? 'BODY')).not.toBe('BODY')

test('the whole line by keyboard alone: from a new project to a proof', async ({ page }) => {
  test.setTimeout(240_000)
  await page.goto('/')
  await reach(page, page.getByLabel('Name of the new project'))
  await page.keyboard.type('By keys')
  await page.keyboard.press('Enter')

  // What is delivered: known, and worked in from the start or not; radios go by arrows.
  await expect(page.getByRole('heading', { name: 'A new project' })).toBeVisible()
  await reach(page, page.getByRole('radio', { name: /not known yet/ }))
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('radio', { name: 'known', exact: true })).toBeChecked()
  await reach(page, page.getByLabel('Another rate'))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('25')
  await press(page, page.getByRole('button', { name: 'Begin' }))

  // Arrivals: what is on the siding is taken in, one is looked at closely, and a correction is made.
  await press(page, page.getByRole('button', { name: /^Siding/ }))
  await press(page, page.getByRole('checkbox', { name: /as soon as they rest/ }), ' ')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('dialog')).toBeHidden()
  await focused(page)
  await press(
    page,
    page.getByRole('region', { name: 'Being measured' }).getByRole('button', { name: 'pause' }),
  )
  await reach(page, page.getByRole('listbox', { name: 'Clips' }))
  await page.keyboard.type('bell_swing')
  await expect(page.getByRole('complementary', { name: 'Docket' })).toContainText('bell_swing_B011')
  await page.keyboard.press('Enter')
  const closer = page.getByRole('dialog', { name: /bell_swing_B011/ })
  await expect(closer).toBeVisible()
  // It takes the keyboard as soon as it has faded in.
  await expect.poll(() => closer.evaluate((sheet) => sheet.contains(document.activeElement))).toBe(true)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await expect(page.getByRole('listbox', { name: 'Clips' })).toBeFocused()

  // Yard: the candidate moves by arrows, and what is delivered is set.
  const places = page.getByRole('navigation', { name: 'Places' })
  await reach(page, places.getByRole('link', { name: /^Yard/ }), true)
  await page.keyboard.press('Enter')
  await reach(page, page.getByRole('application', { name: /^The candidate is/ }))
  const yard = page.getByRole('application', { name: /^The candidate is/ })
  const before = await yard.getAttribute('aria-label')
  await page.keyboard.press('ArrowDown')
  await expect(yard).not.toHaveAttribute('aria-label', before ?? '')
  await reach(page, page.getByLabel('Another format'))
  await page.keyboard.type('1920x1080@25p')
  await press(page, page.getByRole('button', { name: 'Try', exact: true }))
  await press(page, page.getByRole('button', { name: 'Set as project format' }))
  await expect(page.getByRole('banner')).toContainText('1920×1080 · 25p')
  await focused(page)

  // Timelines: a clip is placed, the question answered, cut, treated and played.
  await reach(page, places.getByRole('link', { name: /^Timelines/ }), true)
  await page.keyboard.press('Enter')
  await press(page, page.getByRole('button', { name: 'New timeline' }))
  const left = page.getByRole('complementary', { name: 'Timelines and clips' })
  await press(page, left.getByRole('button', { name: /^bell_swing_B011/ }))
  const question = page.getByRole('dialog')
  await expect(question).toContainText('differs in rate')
  await press(page, question.getByRole('button', { name: 'Keep it, treat the clip' }))
  await expect(question).toBeHidden()
  const strip = page.getByRole('group', { name: /The cut to scale/ })
  await reach(page, strip)
  for (const key of ['ArrowRight', 'ArrowRight', 'ArrowRight', 'n', 'Enter']) await page.keyboard.press(key)
  // Picture and sound, each in two.
  await expect(strip.getByRole('button', { name: /^bell_swing_B011/ })).toHaveCount(4)
  const docket = page.getByRole('complementary', { name: 'Docket' })
  await reach(page, docket.getByRole('radiogroup', { name: 'Motion' }).getByRole('radio').first())
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await focused(page)
  await expect(docket.getByRole('radiogroup', { name: 'Motion' }).getByRole('radio').nth(1)).toBeChecked()
  await reach(page, strip, true)
  await page.keyboard.press('Home')
  await page.keyboard.press(' ')
  await expect(page.getByRole('button', { name: 'stop', exact: true })).toBeVisible()
  await page.keyboard.press(' ')
  await expect(page.getByRole('button', { name: 'play', exact: true })).toBeVisible()

  // Dispatch: what was to be delivered is made, and read back.
  await reach(page, places.getByRole('link', { name: /^Dispatch/ }), true)
  await page.keyboard.press('Enter')
  await reach(page, page.getByLabel('To timecode'))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('00:00:00:20')
  await page.keyboard.press('Enter')
  await press(page, page.getByRole('button', { name: 'Make the file' }))
  await expect(queue(page).getByText('made', { exact: true })).toHaveCount(1, { timeout: 120_000 })
  await focused(page)
  const proof = await proofOf(page)
  expect(proof.get('each frame')?.holds).toBe('matches')
})

test('the walk goes along the line, points at real things and leaves them as they are to play with', async ({
  page,
}) => {
  test.setTimeout(150_000)
  await page.goto('/')
  await page.getByRole('button', { name: 'Walk along the line' }).click()
  const card = page.getByRole('region', { name: 'The walk along the line' })
  await card.getByLabel('goes on by itself').uncheck()
  for (const [n, at] of [
    'arrivals',
    'arrivals',
    'yard',
    'yard',
    'timelines',
    'timelines',
    'timelines',
    'dispatch',
  ].entries()) {
    await expect(card).toContainText(`step ${n + 1} of 8 · ${at}`)
    await expect(card).not.toContainText('a moment…', { timeout: 40_000 })
    await expect(page.locator('.ring')).toBeVisible()
    await expect(page).toHaveURL(new RegExp(`${at}$`))
    if (n === 1)
      await expect(page.getByRole('complementary', { name: 'Docket' })).toContainText(
        'Flagged progressive, but it combs.',
      )
    if (n === 6) await expect(page.getByRole('button', { name: 'stop', exact: true })).toBeVisible()
    await card.getByRole('button', { name: n < 7 ? 'On' : 'Play with it' }).click()
  }
  await expect(card).toBeHidden()
  await expect(page.getByRole('button', { name: 'Make the file' })).toBeVisible()
  // All of it can be undone.
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByRole('button', { name: 'Make the file' })).toBeHidden()
})

test('by itself the walk goes on, and less motion keeps it where it is', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Walk along the line' }).click()
  const card = page.getByRole('region', { name: 'The walk along the line' })
  await expect(card).toContainText('step 2 of 8', { timeout: 45_000 })
  await card.getByRole('button', { name: 'leave' }).click()
  await expect(card).toBeHidden()
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await page.goto('/')
  await page.getByRole('button', { name: 'Walk along the line' }).click()
  await expect(card.getByLabel('goes on by itself')).not.toBeChecked()
})

test('clips of one’s own, from the start page to a decision', async ({ page }) => {
  await page.goto('/')
  // The browser here has all that is needed: nothing is said to be lacking.
  await page.waitForTimeout(500)
  await expect(page.getByText(/This browser lacks/)).toBeHidden()
  await page.getByLabel('A folder of clips').setInputFiles('tools/demo/clips')
  await expect(page.getByRole('heading', { name: /^23 arrived$/ })).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('banner')).toContainText('clips')
  await page.getByRole('link', { name: 'Which format? To the Yard' }).click()
  await page.getByRole('button', { name: 'Set as project format' }).click()
  await expect(page.getByRole('banner')).toContainText('3840×2160 · 25p')
})
