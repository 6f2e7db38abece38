import { expect, openDemo, row, test } from './line'
import { termFamilies } from '../../src/core/terms/terms'

test('a term is explained where it stands, by pointer and by key, of the clip in hand, and the keyboard comes back', async ({
  page,
}) => {
  await openDemo(page)
  await row(page, 'archive_tape').click()
  const mark = page.getByRole('complementary', { name: 'Docket' }).getByRole('button', { name: 'scan' })
  await mark.hover()
  const card = page.getByRole('dialog', { name: 'Interlaced, explained' })
  await expect(card).toBeVisible()
  await expect(card.getByRole('img', { name: /Even lines show a bar at one moment/ })).toBeVisible()
  await expect(card).toContainText('It is held interlaced, top first.')
  // It is no trap: the pointer goes, and so does it.
  await page.mouse.move(300, 400)
  await expect(card).toBeHidden()

  await mark.focus()
  await page.keyboard.press('Enter')
  await expect(card).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(card).toBeHidden()
  await expect(mark).toBeFocused()

  // The drawing is live: it is another a moment later.
  await mark.press('Enter')
  const drawing = card.getByRole('img')
  const first = await drawing.innerHTML()
  await expect.poll(() => drawing.innerHTML()).not.toBe(first)
})

test('with less motion a drawing stands still and is stepped through by hand', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await openDemo(page)
  await page.keyboard.press(';')
  const sheet = page.getByRole('complementary', { name: 'Terms' })
  await sheet.getByRole('textbox').fill('cadence')
  await sheet.getByRole('button', { name: 'Cadence' }).click()
  const drawing = sheet.getByRole('img').last()
  const first = await drawing.innerHTML()
  await page.waitForTimeout(700)
  expect(await drawing.innerHTML()).toBe(first)
  await sheet.getByRole('button', { name: 'a step on' }).click()
  await expect.poll(() => drawing.innerHTML()).not.toBe(first)
})

test('all terms are listed, those of the screen first, searched, and each opens with its drawing', async ({
  page,
}) => {
  await openDemo(page)
  await row(page, 'archive_dub').click()
  await page.keyboard.press(';')
  const sheet = page.getByRole('complementary', { name: 'Terms' })
  await expect(sheet.getByRole('textbox')).toBeFocused()
  await expect(sheet.getByRole('region', { name: 'on this screen' }).getByRole('button')).not.toHaveCount(0)
  for (const { family, terms } of termFamilies) {
    const group = sheet.getByRole('region', { name: family })
    for (const { name } of terms) {
      await group.getByRole('button', { name, exact: true }).click()
      await expect(group.getByRole('img')).toBeVisible()
    }
  }
  await sheet.getByRole('textbox').fill('no such word')
  await expect(sheet).toContainText('No term bears “no such word”.')
  await page.keyboard.press('Escape')
  await expect(sheet).toBeHidden()
})

test('keys are seen, searched and changed; a clash is refused, and a changed key outlives the page', async ({
  page,
}) => {
  await openDemo(page)
  await page.getByRole('listbox', { name: 'Clips' }).focus()
  await page.keyboard.press('?')
  const sheet = page.getByRole('dialog', { name: 'What the keyboard does' })
  await expect(sheet).toContainText('look closer')
  await sheet.getByRole('textbox').fill('terms on this')
  await expect(sheet.getByRole('listitem')).toHaveCount(1)
  const change = sheet.getByRole('button', { name: 'change: the terms on this screen, explained' })
  await change.click()
  await page.keyboard.press('k')
  await expect(sheet.getByRole('alert')).toContainText('lists find names')
  await page.keyboard.press('\\')
  await expect(sheet.getByRole('listitem')).toContainText('\\')
  await page.keyboard.press('Escape')
  await expect(sheet).toBeHidden()
  const terms = page.getByRole('complementary', { name: 'Terms' })
  await page.reload()
  await page.getByRole('listbox', { name: 'Clips' }).focus()
  await page.keyboard.press(';')
  await expect(terms).toBeHidden()
  await page.keyboard.press('\\')
  await expect(terms).toBeVisible()
})
