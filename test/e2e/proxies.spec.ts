import { type Page, expect, test } from '@playwright/test'
import { fileBytes, makeFile, queue } from './delivering'
import { begun, demoFile, place, saved } from './line'
import { test as workshopTest } from './workshop/test'

/** Proxies: made of heavy clips, played instead of them, thrown away, and never in what is made. */

const left = (page: Page) => page.getByRole('complementary', { name: 'Timelines and clips' })

test('the gain that evens a clip is one action, and can be undone', async ({ page }) => {
  test.setTimeout(90_000)
  await begun(page, '1920x1080@25p', ['bell_strike', 'hall_sound'])
  await left(page).getByRole('button', { name: 'sound…' }).click()
  const rows = left(page).getByRole('list', { name: 'Sound of the clips' }).getByRole('listitem')
  await expect(rows.first()).toContainText(/−\d+\.\d LUFS/, { timeout: 30_000 })
  await expect(rows.first()).toContainText('44.1 kHz, resampled to 48 kHz')
  await expect(rows.first()).toContainText('1 channel, on both sides alike')
  const even = rows.first().getByRole('button', { name: /^Even it/ })
  const [, sign, gain] = /([+−])(\d+\.\d) dB/.exec(await even.innerText()) ?? []
  await even.click()
  await expect(rows.first()).toContainText(`heard ${sign}${gain} dB`)
  await expect(even).toHaveCount(0)
  await page.getByRole('button', { name: 'undo', exact: true }).click()
  await expect(even).toBeVisible()
})

workshopTest(
  'a proxy is played, marked, found again and thrown away; what is made comes from the original',
  async ({ page, workshop }) => {
    workshopTest.setTimeout(240_000)
    await begun(page, '1920x1080@100p', ['pour_fast_B014'])
    await left(page).getByRole('button', { name: 'playback…' }).click()
    await left(page).getByRole('button', { name: 'Make 1 proxy' }).click()
    const row = left(page).getByRole('list', { name: 'Playback of the clips' }).getByRole('listitem')
    await expect(row).toContainText(/proxy, \d/, { timeout: 120_000 })
    await expect(left(page)).toContainText(/MB kept/)
    await page.getByRole('button', { name: 'play', exact: true }).click()
    await expect(page.locator('.achieved')).toContainText('1 proxy played', { timeout: 30_000 })
    await page.getByRole('button', { name: 'stop', exact: true }).click()
    await workshopTest.step('it is found again after a reload', async () => {
      await saved(page)
      await page.reload()
      await left(page).getByRole('button', { name: 'playback…' }).click()
      await expect(row).toContainText(/proxy, \d/)
    })
    await workshopTest.step('what is made has every pixel of the original', async () => {
      await place(page, 'Dispatch')
      await makeFile(page, '1920x1080@100p', '00:00:00:02', async () => {
        await page.getByLabel('Codec', { exact: true }).selectOption('FFV1')
      })
      await expect(queue(page).getByText('made', { exact: true })).toBeVisible({ timeout: 120_000 })
      const luma = async (base64: string, ending: string) =>
        workshop.page.evaluate(
          async ([bytes, kind]) => {
            const raw = atob(await window.workshop.firstFrame(bytes, kind, 'gray'))
            return Array.from({ length: 4000 }, (_, i) => raw.charCodeAt(i * 517))
          },
          [base64, ending] as const,
        )
      const brightness = await luma(await fileBytes(page, 'The-Ninth-Bell_1920-1080-100p.mkv'), 'mkv')
      const original = await luma((await demoFile('pour_fast_B014.mp4')).toString('base64'), 'mp4')
      expect(brightness).toEqual(original)
      expect(new Set(brightness).size).toBeGreaterThan(20)
    })
    await workshopTest.step('all are thrown away by one action', async () => {
      await place(page, 'Timelines')
      await left(page).getByRole('button', { name: 'playback…' }).click()
      await left(page).getByRole('button', { name: 'throw away' }).click()
      await expect(row).not.toContainText(/proxy, \d/)
      await expect(left(page).getByRole('button', { name: 'Make 1 proxy' })).toBeVisible()
    })
  },
)
