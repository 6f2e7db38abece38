/** What sorting and scrolling five thousand clips costs, in milliseconds of script a frame. */
import type { CDPSession } from '@playwright/test'
import { aVideo } from '../../src/core/model/doc.fixture'
import { withProject } from './project'
import { sized } from './size'

const scriptSeconds = async (client: CDPSession) => {
  const { metrics } = await client.send('Performance.getMetrics')
  return metrics.find((m) => m.name === 'ScriptDuration')!.value
}

export async function measureList(count = sized(5000, 60)): Promise<{ sort: number[]; scroll: number[] }> {
  const formats = [
    '3840x2160@25p',
    '1920x1080@50p',
    '720x576/64:45@50i',
    '4096x2160@23.976p',
    '1920x1080@59.94p',
  ]
  const clips = Array.from({ length: count }, (_, i) =>
    aVideo(`take_${(i * 7919) % count}`, formats[i % 5]!, 2 + (i % 97)),
  )
  return withProject(clips, async (page) => {
    const client = await page.context().newCDPSession(page)
    await client.send('Performance.enable')
    const sort: number[] = []
    for (const column of ['time', 'size', 'rate', 'codec', 'clip']) {
      const before = await scriptSeconds(client)
      await page.locator(`button[title="Sort by ${column}"]`).first().click()
      await page.evaluate(
        () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
      )
      sort.push((await scriptSeconds(client)) * 1000 - before * 1000)
    }
    const scroll: number[] = []
    for (let round = 0; round < 5; round++) {
      const before = await scriptSeconds(client)
      const frames = await page.getByRole('listbox').evaluate(async (list) => {
        for (let i = 0; i < 60; i++) {
          list.scrollTop += 400
          await new Promise((done) => requestAnimationFrame(done))
        }
        return 60
      })
      scroll.push((((await scriptSeconds(client)) - before) * 1000) / frames)
    }
    return { sort, scroll }
  })
}
