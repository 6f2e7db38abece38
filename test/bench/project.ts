import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { aDoc } from '../../src/core/model/doc.fixture'
import { type Clip } from '../../src/core/model/clip'
import type { Doc } from '../../src/core/model/project'
import { writeProjectFile } from '../../src/core/stored/project-file'
import { base, withBrowser } from './browser'

/** Counts from now on, in every document of a page, for how long it is held up at a time. */
export const watchLongTasks = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const held: number[] = []
    Object.assign(window, { held })
    new PerformanceObserver((seen) => seen.getEntries().forEach((task) => held.push(task.duration))).observe({
      entryTypes: ['longtask'],
    })
  })
/** The longest time in milliseconds that a page was held up since it was last asked. */
export const longestTask = (page: Page): Promise<number> =>
  page.evaluate(() => Math.max(0, ...(window as unknown as { held: number[] }).held.splice(0)))

/** Opens a project of made-up clips in a browser, at rest, for the length of some work. */
export const withProject = <T>(clips: readonly Clip[], work: (page: Page) => Promise<T>): Promise<T> =>
  withDoc(aDoc(clips), work)

/** Opens a project in a browser, at rest, for the length of some work. */
export async function withDoc<T>(doc: Doc, work: (page: Page) => Promise<T>): Promise<T> {
  const clips = Object.keys(doc.clips)
  const folder = await mkdtemp(join(tmpdir(), 'many-'))
  const file = join(folder, 'many.json')
  await writeFile(file, writeProjectFile(doc))
  try {
    return await withBrowser(async (browser) => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await page.goto(base)
      await page.getByLabel('Project file').setInputFiles(file)
      await page.getByRole('heading', { name: `${clips.length} arrived` }).waitFor({ timeout: 60_000 })
      // What follows an import (looking for files, posters) has to be over.
      await page.waitForTimeout(6000)
      return work(page)
    })
  } finally {
    await rm(folder, { recursive: true })
  }
}
