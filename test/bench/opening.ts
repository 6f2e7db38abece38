/** What opening a large project costs: until its first list stands, and how long the page is held up at a time. */
import { aVideo } from '../../src/core/model/doc.fixture'
import { longestTask, watchLongTasks, withProject } from './project'
import { sized } from './size'

const count = sized(10_000, 50)
const formats = ['3840x2160@25p', '1920x1080@50p', '1920x1080@50i', '4096x2160@23.976p', '1280x720@29.97p']

/** Milliseconds from the beginning of the page until its list is painted, and the longest task meanwhile. */
export const measureOpening = (): Promise<{ list: number[]; longest: number[] }> =>
  withProject(
    Array.from({ length: count }, (_, i) => aVideo(`take_${i}`, formats[i % formats.length]!, 2 + (i % 97))),
    async (page) => {
      const [list, longest]: [number[], number[]] = [[], []]
      await watchLongTasks(page)
      await page.addInitScript(() => {
        new MutationObserver((_, observer) => {
          if (!document.querySelector('[role=option]')) return
          observer.disconnect()
          requestAnimationFrame(() => requestAnimationFrame(() => performance.mark('listed')))
        }).observe(document, { childList: true, subtree: true })
      })
      for (let i = 0; i < sized(5, 1); i++) {
        await page.reload()
        await page.waitForFunction(() => performance.getEntriesByName('listed').length > 0)
        // What follows (files, posters) belongs to the opening too.
        await page.waitForTimeout(3000)
        list.push(await page.evaluate(() => performance.getEntriesByName('listed')[0]!.startTime))
        longest.push(await longestTask(page))
      }
      return { list, longest }
    },
  )
