/** Frames a second of a render with one layer that is reduced, beside the media toolkit doing the same. */
import { spawnSync } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { cutIn } from '../e2e/line'
import { base, scales, withBrowser } from './browser'
import { hasToolkit, leastInTurn } from './native'
import { sized } from './size'

const demoClip = join(import.meta.dirname, '../../tools/demo/clips/hall_wide_A003.mp4')
const bits = 12_000_000
/** How small the layer is drawn, in percent. */
const zoom = 60

/** A clip of so many seconds, 25p in H.264 with sound, of a size: one of the demo, over and over. */
export function longClip(folder: string, seconds: number, size = '1920:1080'): string {
  const file = join(folder, 'hall_long.mp4')
  spawnSync('ffmpeg', [
    ...['-v', 'error', '-stream_loop', '-1', '-i', demoClip, '-t', `${seconds}`, '-vf', `scale=${size}`],
    ...['-map', '0:v:0', '-map', '0:a:0', '-c:v', 'libx264', '-preset', 'veryfast', '-b:v', '15M'],
    ...['-c:a', 'aac', '-y', file],
  ])
  return file
}

/** Opens a new project with one clip in a timeline of its format. */
export async function placed(page: Page, file: string, format: string): Promise<void> {
  await page.goto(base)
  await page.getByLabel('Name of the new project').fill('Second casting')
  await page.getByRole('button', { name: 'Begin…' }).click()
  await page.getByRole('button', { name: 'Begin the project' }).click()
  await page.getByLabel('Files to take in').setInputFiles(file)
  await page.getByRole('heading', { name: /^1 arrived$/ }).waitFor({ timeout: 60_000 })
  await cutIn(page, format, ['hall_long'])
}

/** Asks for a deliverable of a format. */
async function askFor(page: Page, format: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Dispatch' }).click()
  const field = page.getByLabel('Format to deliver')
  if (!(await field.isVisible())) await page.getByRole('button', { name: 'New…' }).click()
  await field.fill(format)
  await field.press('Enter')
  await page.getByLabel('Bit rate in Mbit/s').fill(String(bits / 1e6))
  await page.getByLabel('Bit rate in Mbit/s').press('Enter')
}

/** Has it made, once more where it was made before. @returns frames a second of making it, as the app counts them */
async function made(page: Page, longest: number): Promise<number> {
  const line = page.getByRole('region', { name: 'Queue' }).locator('[data-frames-per-second]')
  await page.getByRole('button', { name: 'Make the file' }).click()
  await line.waitFor({ state: 'detached' })
  await line.waitFor({ timeout: longest })
  return Number(await line.getAttribute('data-frames-per-second'))
}

/** Frames a second of both, by turns, the best of each; the toolkit's is null where it is not here. */
export async function measureRendering(
  seconds = sized(4, 1),
): Promise<{ own: number; native: number | null }> {
  if (!hasToolkit()) return { own: 0, native: null }
  const folder = await mkdtemp(join(tmpdir(), 'render-'))
  try {
    const file = longClip(folder, seconds)
    const words = `scale=iw*${zoom / 100}:ih*${zoom / 100}:flags=bicubic,pad=1920:1080:(ow-iw)/2:(oh-ih)/2`
    const native = () =>
      spawnSync('ffmpeg', [
        ...['-v', 'error', '-nostdin', '-i', file, '-vf', words, '-c:v', 'libx264', '-preset', 'veryfast'],
        ...['-b:v', `${bits}`, '-c:a', 'aac', '-y', join(folder, 'out.mp4')],
      ])
    return await withBrowser(async (browser) => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await placed(page, file, '1920x1080@25p')
      await page.locator('button.block').first().click()
      const box = page.getByRole('complementary', { name: 'Docket' }).getByLabel('zoom')
      await box.fill(String(zoom))
      await box.press('Enter')
      await askFor(page, '1920x1080@25p')
      let own = 0
      const least = await leastInTurn({
        own: async () => (own = Math.max(own, await made(page, 600_000))),
        native,
      })
      return { own, native: (seconds * 25 * 1000) / least.native }
    })
  } finally {
    await rm(folder, { recursive: true })
  }
}

export interface LongFigures {
  readonly frames: number
  readonly framesPerSecond: number
  /** What the page and its workers held at most, in megabytes, and by how much it grew each minute of the second half. */
  readonly held: number
  readonly growth: number
  /** Milliseconds between the ends of picture and sound in the file. */
  readonly apart: number
}

/** A synthetic source with sound, of a size and rate. */
function syntheticClip(folder: string, seconds: number, size: string, rate: string): string {
  const file = join(folder, 'hall_long.mp4')
  spawnSync('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=${rate}:duration=${seconds}`],
    ...['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=48000:duration=${seconds}`, '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-ac', '2', '-y', file],
  ])
  return file
}

/** What a long render holds in memory, and whether its sound ends with its picture. Needs the media toolkit. */
export async function measureLong(
  seconds: number,
  size: string,
  rate: string,
  format: string,
): Promise<LongFigures> {
  const folder = await mkdtemp(join(tmpdir(), 'long-'))
  try {
    const file = syntheticClip(folder, seconds, size, rate)
    return await withBrowser(async (browser) => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await placed(page, file, format)
      const weigh = await scales(browser)
      const weights: number[] = []
      let over = false
      await askFor(page, format)
      const making = made(page, 3_600_000).finally(() => (over = true))
      while (!over) {
        weights.push(await weigh())
        await page.waitForTimeout(1000)
      }
      const framesPerSecond = await making
      const proof = page.getByRole('region', { name: 'Proof' })
      await proof.waitFor({ timeout: 3_600_000 })
      const found = async (what: string) =>
        Number.parseInt(
          await proof
            .getByRole('row', { name: new RegExp(`^${what} `) })
            .getByRole('cell')
            .nth(2)
            .innerText(),
        )
      const [frames, samples] = [await found('length'), await found('sound length')]
      const [num = 1, den = 1] = rate.split('/').map(Number)
      const half = weights.slice(Math.floor(weights.length / 2))
      return {
        frames,
        framesPerSecond,
        held: Math.max(...weights),
        growth: slope(half) * 60,
        apart: Math.abs((frames * den) / num - samples / 48_000) * 1000,
      }
    })
  } finally {
    await rm(folder, { recursive: true })
  }
}

/** By how much values grow from one to the next, by least squares. */
function slope(values: readonly number[]): number {
  const middle = (values.length - 1) / 2
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length
  const over = values.reduce((sum, value, i) => sum + (i - middle) * (value - mean), 0)
  return over / values.reduce((sum, _, i) => sum + (i - middle) ** 2, 0)
}
