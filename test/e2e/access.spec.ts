import { makeFile } from './delivering'
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import type { AxeResults } from 'axe-core'
import { clipToPlace, expect, openDemo, place, row, test } from './line'

const axe = await readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What of the page as it stands departs from WCAG 2.2 AA, or is called serious or critical besides. */
async function violations(page: Page, view: string) {
  await page.evaluate(axe)
  const { violations } = await page.evaluate(() =>
    (window as unknown as { axe: { run: (options: object) => Promise<AxeResults> } }).axe.run({
      // Off by default: targets of 24 px, or far enough from others.
      rules: { 'target-size': { enabled: true } },
      resultTypes: ['violations'],
    }),
  )
  return violations
    .filter(
      (v) => v.impact === 'serious' || v.impact === 'critical' || v.tags.some((tag) => /^wcag2/.test(tag)),
    )
    .flatMap((v) =>
      v.nodes
        .slice(0, 3)
        .map(
          (node) =>
            `${view}: ${v.id} at ${node.target.join(' ')} ${node.failureSummary?.split('\n')[1] ?? ''}`,
        ),
    )
}

test('nothing is cut off in a window of 1024 pixels, nor at twice the size, where the page scrolls', async ({
  page,
}) => {
  await openDemo(page)
  await row(page, 'archive_reel2').click()
  await place(page, 'Yard')
  await page.getByRole('button', { name: 'Set as project format' }).click()
  await place(page, 'Timelines')
  await page.getByRole('button', { name: 'New timeline' }).click()
  await page.getByLabel('ask about mismatches').uncheck()
  await clipToPlace(page, 'bell_swing_B011').press('Enter')
  for (const [width, height] of [
    [1024, 768],
    // 1280 × 800 at 200 %.
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height })
    for (const name of ['Arrivals', 'Yard', 'Timelines', 'Dispatch']) {
      await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name }).press('Enter')
      await page.waitForTimeout(300)
      // Every control that is there can be brought into view: it, or what it stands in, scrolls.
      const lost = await page.evaluate(() => {
        const reachable = (element: Element): boolean => {
          element.scrollIntoView({ block: 'nearest', inline: 'nearest' })
          const { left, right, top, bottom, width } = element.getBoundingClientRect()
          if (width === 0) return true
          return left > -2 && right < innerWidth + 2 && top > -2 && bottom < innerHeight + 2
        }
        const controls = [...document.querySelectorAll('button, a, input:not([type=file]), select')]
        const found = controls.filter(
          (control) =>
            !control.closest('.visually-hidden') &&
            control.getBoundingClientRect().height < innerHeight &&
            !reachable(control),
        )
        document.documentElement.scrollTo(0, 0)
        return found.map((control) => control.textContent.trim() || control.getAttribute('aria-label'))
      })
      expect(lost, `${name} at ${width}`).toEqual([])
      if (width === 1024)
        expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024)
    }
  }
})

for (const edition of ['light', 'night'] as const) {
  test(`no serious fault of access in any view, ${edition}`, async ({ page }) => {
    test.setTimeout(400_000)
    await page.addInitScript((value) => localStorage.setItem('edition', value), edition)
    const found: string[] = []
    const look = async (view: string) => {
      // Dialogs fade in; colours are judged when they stand.
      await page.waitForTimeout(350)
      found.push(...(await violations(page, view)))
    }
    await page.goto('/')
    await page.getByRole('button', { name: 'Open the demo' }).waitFor()
    await look('start')
    await page.goto('/new')
    await page.getByLabel('known', { exact: true }).check()
    await look('new project')
    await page.goto('/habits')
    await page.getByLabel('A format to keep').fill('1080x1350@25p')
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await look('habits')
    await openDemo(page)
    await row(page, 'archive_reel2').click()
    await look('arrivals')
    await page.getByRole('complementary', { name: 'Docket' }).getByRole('button', { name: 'scan' }).click()
    await page.getByRole('dialog', { name: /explained/ }).waitFor()
    await look('a term')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'terms', exact: true }).click()
    await page.getByRole('complementary', { name: 'Terms' }).getByRole('button', { name: 'Cadence' }).click()
    await look('terms')
    await page.getByRole('complementary', { name: 'Terms' }).getByRole('button', { name: 'close' }).click()
    await page.getByRole('button', { name: 'keys', exact: true }).click()
    await look('keys')
    await page.keyboard.press('Escape')
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await page.getByRole('button', { name: 'Correct…' }).click()
    await look('correct')
    await page.keyboard.press('Escape')
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await page.getByRole('button', { name: 'Look closer' }).click()
    await look('closer')
    await page.keyboard.press('Escape')
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await row(page, 'archive_tape').click({ modifiers: ['Control'] })
    await page.getByRole('button', { name: 'Compare 2' }).click()
    await look('compare')
    await page.keyboard.press('Escape')
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await page.getByRole('link', { name: 'inspection sheet' }).click()
    await look('inspection')
    await place(page, 'Yard')
    await page.getByRole('button', { name: 'Set as project format' }).waitFor()
    await look('yard')
    await page.getByLabel('A second format beside it').selectOption({ index: 1 })
    await look('yard, two formats')
    await page.getByLabel('A second format beside it').selectOption({ index: 0 })
    for (const name of ['motion', 'charts', 'weights', 'log']) {
      await page
        .getByRole('group', { name: 'What is shown' })
        .getByRole('button', { name, exact: true })
        .click()
      await look(`yard, ${name}`)
    }
    await page.getByRole('button', { name: /^furnace_heat_12/ }).click()
    await page.getByRole('button', { name: 'Watch the motion' }).waitFor()
    await look('yard, docket')
    await page.getByRole('button', { name: '‹ candidates' }).click()
    await page.getByRole('button', { name: 'Set as project format' }).click()
    await page.getByRole('button', { name: /^log/ }).click()
    await page.getByRole('link', { name: 'as a sheet to print' }).click()
    await look('log sheet')
    await page.getByRole('link', { name: 'back to the Yard' }).click()
    await place(page, 'Timelines')
    await page.getByRole('button', { name: 'New timeline' }).click()
    await page.getByRole('button', { name: /^Change “/ }).click()
    await look('format of a timeline')
    await page.getByRole('button', { name: 'Leave it' }).click()
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await clipToPlace(page, 'hall_wide_A003').press('Enter')
    await clipToPlace(page, 'visitor_C002').press('Enter')
    await page.getByRole('dialog').waitFor()
    await look('question')
    await page.getByRole('button', { name: 'Keep it, treat the clip' }).click()
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await look('timelines')
    await page.getByRole('button', { name: /^Carry “/ }).click()
    await page.getByRole('button', { name: '24', exact: true }).click()
    await look('carried to another rate')
    await page.getByRole('button', { name: 'turn it' }).click()
    await look('carried to another shape')
    await page.getByRole('button', { name: 'leave it as it is' }).click()
    await page.getByRole('button', { name: 'history', exact: true }).click()
    await page.getByRole('button', { name: 'Name this point…' }).click()
    await page.getByRole('button', { name: 'What differs from the beginning' }).click()
    await look('history')
    await page.getByRole('complementary', { name: 'History' }).getByRole('button', { name: 'close' }).click()
    for (const panel of ['sound…', 'playback…']) {
      await page.getByRole('button', { name: panel }).click()
      await look(panel)
    }
    await place(page, 'Dispatch')
    await look('dispatch')
    await makeFile(page, '640x360@25p', '00:00:00:10')
    await page.getByRole('region', { name: 'Proof' }).waitFor({ timeout: 60_000 })
    await page.getByRole('button', { name: 'keep as own' }).click()
    await look('dispatch, proven')
    await page.getByRole('link', { name: 'on paper', exact: true }).click()
    await page.getByRole('heading', { name: 'Footage: 23 clips' }).waitFor()
    await look('report')
    await page.getByRole('link', { name: 'back to Dispatch' }).click()
    await place(page, 'Arrivals')
    await row(page, 'archive_reel2').click()
    await page.getByRole('button', { name: 'Another in its place…' }).click()
    await look('another in its place')
    await page.keyboard.press('Escape')
    await page.getByRole('dialog').waitFor({ state: 'hidden' })
    await page.getByRole('link', { name: 'Yard Tally, all projects' }).click()
    await page.getByText('Kept in this browser').waitFor()
    await look('kept projects')
    expect(found).toEqual([])
  })
}
