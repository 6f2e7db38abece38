/** Frames that are shown while they are due, of all that fall due, as the app itself counts them. */
import type { Page } from '@playwright/test'
import { cutIn } from '../e2e/line'
import { base, withBrowser } from './browser'
import { sized } from './size'

export interface Played {
  readonly name: string
  readonly due: number
  readonly shown: number
  readonly target: string
}

const runs = [
  { name: 'HD 25p, H.264', format: '1920x1080@25p', clip: 'visitor_C002', target: '99 %' },
  { name: 'HD 50p, H.264', format: '1920x1080@50p', clip: 'bell_swing_B011', target: '99 %' },
  { name: 'UHD 25p, H.264', format: '3840x2160@25p', clip: 'pour_A007', target: '80 %' },
  {
    name: 'HD 50i, MPEG-2, by the second engine',
    format: '1920x1080@25p',
    clip: 'archive_tape',
    target: 'none',
  },
  {
    name: 'HD 25p, two ways in step',
    format: '1920x1080@25p',
    clip: 'visitor_C002',
    target: 'none',
    two: true,
  },
] as const

async function played(page: Page, { format, clip, ...run }: (typeof runs)[number]): Promise<Played> {
  await page.goto(base)
  await page.getByRole('button', { name: 'Open the demo' }).click()
  await page.getByRole('heading', { name: /^23 arrived$/ }).waitFor({ timeout: 60_000 })
  await cutIn(page, format, [clip])
  await page.waitForTimeout(4000)
  if ('two' in run) await page.getByRole('button', { name: 'beside', exact: true }).click()
  await page.getByRole('button', { name: 'play', exact: true }).click()
  await page.getByRole('button', { name: 'stop', exact: true }).waitFor()
  await page.getByRole('button', { name: 'play', exact: true }).waitFor({ timeout: 120_000 })
  const achieved = page.locator('.achieved')
  const [due, shown] = await Promise.all(
    ['data-due', 'data-shown'].map(async (name) => Number(await achieved.getAttribute(name))),
  )
  return { name: run.name, target: run.target, due: due ?? 0, shown: shown ?? 0 }
}

export const measurePlaying = (): Promise<Played[]> =>
  withBrowser(async (browser) => {
    const playings: Played[] = []
    for (const run of runs.slice(0, sized(runs.length, 1))) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      playings.push(await played(page, run))
      await page.close()
    }
    return playings
  })
