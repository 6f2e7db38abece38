import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { expect, gzipped, test } from './line'

test('the first view is light', async ({ page }) => {
  const asked = new Set<string>()
  page.on('request', (request) => {
    const { pathname } = new URL(request.url())
    if (pathname.endsWith('.js')) asked.add(pathname)
  })
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo' }).waitFor()
  const dist = join(import.meta.dirname, '..', '..', 'dist')
  const sizes = await Promise.all([...asked].map(async (path) => gzipped(await readFile(join(dist, path)))))
  const bytes = sizes.reduce((a, b) => a + b, 0)
  test
    .info()
    .annotations.push({ type: 'first view', description: `${bytes} bytes of script in ${asked.size} files` })
  expect(asked.size).toBeGreaterThan(1)
  expect(bytes).toBeLessThan(400_000)
})
