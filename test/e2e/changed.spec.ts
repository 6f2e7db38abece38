import { copyFile, mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { cutIn, expect, place, row, test } from './line'
import { addressOf, served, stopped } from './served'

const clips = join(import.meta.dirname, '..', '..', 'tools', 'demo', 'clips')

test('a file of the siding that is replaced is noticed, and read again in its place', async ({ page }) => {
  const folder = await mkdtemp(join(tmpdir(), 'siding-'))
  const take = join(folder, 'take.mp4')
  await copyFile(join(clips, 'bell_swing_B011.mp4'), take)
  const server = await served(false, undefined, undefined, folder)
  try {
    await page.goto(`${addressOf(server)}/new?name=Copies`)
    await page.getByRole('button', { name: 'Begin the project' }).click()
    await page.getByRole('button', { name: /Take in all 1 / }).click()
    await expect(row(page, 'take.mp4')).toContainText('50p')
    await cutIn(page, '1920x1080@25p', ['take.mp4'])
    const blocks = page.getByRole('button', { name: /^take\.mp4: / })
    await expect(blocks).toHaveCount(2)

    await copyFile(join(clips, 'pour_fast_B014.mp4'), take)
    await place(page, 'Arrivals')
    const notice = page.getByRole('status').filter({ hasText: 'changed on disk' })
    await expect(notice).toContainText('1 file changed on disk: take.mp4', { timeout: 15_000 })
    await expect(row(page, 'take.mp4')).toContainText('50p')
    await notice.getByRole('button', { name: 'Read 1 again' }).click({ timeout: 15_000 })
    await expect(notice).toHaveCount(0)
    await expect(row(page, 'take.mp4')).toContainText('100p')
    await place(page, 'Timelines')
    await expect(blocks).toHaveCount(2)
  } finally {
    await page.close()
    await stopped(server)
    await rm(folder, { recursive: true })
  }
})
