/** A film of a feature’s size: what importing, opening and leaving it costs, and for how long the page is held up at a time. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { aDoc, aVideo } from '../../src/core/model/doc.fixture'
import { newTimeline, placementOf } from '../../src/core/edit/placing'
import type { Doc } from '../../src/core/model/project'
import type { Timeline } from '../../src/core/model/timeline'
import { writeProjectFile } from '../../src/core/stored/project-file'
import { parseFormat } from '../../src/core/format/parse'
import { base, withBrowser } from './browser'
import { longestTask, watchLongTasks } from './project'
import { sized } from './size'

const formats = ['3840x2160@25p', '1920x1080@50p', '1920x1080@50i', '4096x2160@23.976p', '1280x720@29.97p']

/** So many clips, and placements of them on eight tracks of each of so many timelines. */
export function largeDoc(clips: number, placements: number, timelines = 1): Doc {
  const doc = aDoc(
    Array.from({ length: clips }, (_, i) => aVideo(`take_${i}`, formats[i % formats.length]!, 2 + (i % 97))),
  )
  const { format } = parseFormat('1920x1080@25p')!
  doc.project.format = format
  for (let t = 0; t < timelines; t++) {
    const timeline = newTimeline(`t${t}`, t ? `Scene ${t}` : 'All of it', '2026-05-01T10:00:00Z', null)
    const [model] = timeline.tracks
    const tracks = Array.from({ length: 8 }, (_, k): Timeline['tracks'][number] => {
      let end = 0
      const run = Array.from({ length: Math.floor(placements / timelines / 8) }, (_, i) => {
        const clip = doc.clips[`take_${(t * 7919 + k * 12_007 + i * 31) % clips}`]!
        const start = end
        end = start + 10 + ((i * 7) % 60)
        return { ...placementOf(clip, format, `p${t}-${k}-${i}`), start, length: end - start }
      })
      return { ...model!, id: `v${t}-${k}`, name: `V${k + 1}`, placements: run }
    })
    doc.timelines[timeline.id] = { ...timeline, rate: format.rate, tracks } as never
    doc.project.timelineOrder.push(timeline.id)
  }
  return doc
}

/** So many steps are in the history while a project is open. */
const steps = sized(5000, 40)

/** A placement is moved and trimmed to and fro by keys, as fast as the page takes them. */
async function makeSteps(page: Page): Promise<void> {
  await page.getByRole('group', { name: /The cut to scale/ }).focus()
  await page.keyboard.press('End')
  await page.keyboard.press('Enter')
  await page.evaluate(async (count) => {
    for (let i = 0; i < count; i++) {
      // Later, shorter, earlier, longer: two of a kind that follow each other would be one step.
      const key = '8374'[i % 4]!
      document.activeElement?.dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
      )
      if (i % 10 === 9) await new Promise((shown) => requestAnimationFrame(shown))
    }
  }, steps)
}

/** Seconds of each part, and the longest task meanwhile in milliseconds. */
export interface LargePart {
  readonly name: string
  readonly seconds: number
  readonly longest: number
}

export async function measureLarge(
  clips = sized(25_000, 60),
  placements = sized(100_000, 160),
  timelines = sized(200, 2),
): Promise<{ readonly parts: readonly LargePart[]; readonly megabytes: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'large-'))
  const file = join(folder, 'large.json')
  await writeFile(file, writeProjectFile(largeDoc(clips, placements, timelines)))
  const parts: LargePart[] = []
  let megabytes = 0
  try {
    await withBrowser(async (browser) => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await watchLongTasks(page)
      const part = async (name: string, act: () => Promise<unknown>, settle = 3000) => {
        await longestTask(page)
        const begun = performance.now()
        await act()
        const seconds = (performance.now() - begun) / 1000
        await page.waitForTimeout(settle)
        parts.push({ name, seconds, longest: await longestTask(page) })
      }
      const listed = () =>
        page.getByRole('heading', { name: `${clips} arrived` }).waitFor({ timeout: 120_000 })
      const place = (name: string) =>
        page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name }).click()
      await page.goto(base)
      await part('imported', async () => {
        await page.getByLabel('Project file').setInputFiles(file)
        await listed()
      })
      await part('left', async () => {
        await page.getByRole('link', { name: 'Yard Tally, all projects' }).click()
        await page.getByText('Kept in this browser').waitFor()
      })
      await page.reload()
      await part('opened', async () => {
        await page.getByRole('link', { name: 'The Ninth Bell' }).click()
        await listed()
      })
      await part('its cut looked at', async () => {
        await place('Timelines')
        await page.getByRole('group', { name: /The cut to scale/ }).waitFor({ timeout: 120_000 })
      })
      await part('the Yard', async () => {
        await place('Yard')
        await page.getByRole('application', { name: /^The candidate is/ }).waitFor({ timeout: 120_000 })
      })
      await part('Dispatch', async () => {
        await place('Dispatch')
        await page.getByRole('complementary', { name: 'Deliverables' }).waitFor({ timeout: 120_000 })
      })
      await part('Arrivals', async () => {
        await place('Arrivals')
        await listed()
      })
      await part('the cut again', async () => {
        await place('Timelines')
        await page.getByRole('group', { name: /The cut to scale/ }).waitFor({ timeout: 120_000 })
      })
      await part(`${steps} steps made`, () => makeSteps(page))
      const history = page.getByRole('complementary', { name: 'History' })
      await part('the history of them', async () => {
        await page.getByRole('button', { name: 'history', exact: true }).click()
        await history.getByText(`${steps} steps`).waitFor()
      })
      await part('back before the first shown', () =>
        history.getByRole('listitem').last().getByRole('button').first().click(),
      )
      await part('forward to the last', () =>
        history.getByRole('listitem').first().getByRole('button').first().click(),
      )
      await history.getByRole('button', { name: 'close' }).click()
      const session = await page.context().newCDPSession(page)
      await session.send('HeapProfiler.collectGarbage')
      const heap = await page.evaluate(
        () => (performance as unknown as { memory?: { usedJSHeapSize: number } }).memory?.usedJSHeapSize ?? 0,
      )
      megabytes = heap / 1e6
      await part('left again', async () => {
        await page.getByRole('link', { name: 'Yard Tally, all projects' }).click()
        await page.getByText('Kept in this browser').waitFor()
      })
    })
  } finally {
    await rm(folder, { recursive: true })
  }
  return { parts, megabytes }
}
