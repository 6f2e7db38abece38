import { expect, gzipped, test } from './line'

test('the first view comes fast and light', async ({ page }) => {
  const scripts: Promise<number>[] = []
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) scripts.push(response.body().then(gzipped))
  })
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo' }).waitFor()
  const usable = await page.evaluate(() => performance.now())
  const bytes = (await Promise.all(scripts)).reduce((a, b) => a + b, 0)
  test.info().annotations.push({
    type: 'first view',
    description: `${usable.toFixed(0)} ms, ${bytes} bytes of script`,
  })
  expect(bytes).toBeLessThan(400_000)
  expect(usable).toBeLessThan(1500)
})

test('twelve clips of the siding are listed within a second of the click', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Name of the new project').fill('Twelve')
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.getByRole('button', { name: /^Siding/ }).click()
  const boxes = page.getByRole('dialog').getByRole('checkbox')
  await expect(boxes).toHaveCount(19)
  for (let i = 12; i < 19; i++) await boxes.nth(i).uncheck()
  await page.evaluate(() => {
    const button = [...document.querySelectorAll('button')].find((b) =>
      b.textContent?.includes('Take in 12'),
    )!
    const times = window as unknown as { clickedAt: number; listedAt: number }
    button.addEventListener('click', () => (times.clickedAt = performance.now()), { capture: true })
    new MutationObserver((_, observer) => {
      if (document.querySelectorAll('[role=option]').length < 12) return
      times.listedAt = performance.now()
      observer.disconnect()
    }).observe(document.body, { childList: true, subtree: true })
  })
  await page.getByRole('button', { name: 'Take in 12' }).click()
  await expect(page.getByRole('option')).toHaveCount(12)
  const took = await page.evaluate(() => {
    const times = window as unknown as { clickedAt: number; listedAt: number }
    return times.listedAt - times.clickedAt
  })
  test.info().annotations.push({ type: 'twelve clips', description: `${took.toFixed(0)} ms` })
  expect(took).toBeLessThan(1000)
})
