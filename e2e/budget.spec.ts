import { expect, gzipped, test } from './line'

test('the first view is light', async ({ page }) => {
  const scripts: Promise<number>[] = []
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) scripts.push(response.body().then(gzipped))
  })
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo' }).waitFor()
  const bytes = (await Promise.all(scripts)).reduce((a, b) => a + b, 0)
  test.info().annotations.push({
    type: 'first view',
    description: `${bytes} bytes of script`,
  })
  expect(bytes).toBeLessThan(400_000)
})
