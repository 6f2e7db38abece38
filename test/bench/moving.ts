/** What moving the candidate costs with two thousand clips: the prices alone, and the page with all that follows. */
import { gatherPayers, payIn } from '../../src/core/choice/pay'
import { aVideo } from '../../src/core/model/doc.fixture'
import { type Clip } from '../../src/core/model/clip'
import { parseFormat } from '../../src/core/format/parse'
import { defaultWeights } from '../../src/core/toll/policy'
import { tollTable } from '../../src/core/toll/table'
import { withProject } from './project'
import { sized } from './size'

const sizes = [
  '3840x2160',
  '1920x1080',
  '4096x2160',
  '2704x1520',
  '1280x720',
  '1080x1920',
  '720x576',
  '640x480',
]
const rates = ['25p', '29.97p', '23.976p', '50p', '50i']
const fortyReadings = sizes.flatMap((size) => rates.map((rate) => `${size}@${rate}`))
const count = sized(2000, 40)

const someClips = (format: (i: number) => string): Clip[] =>
  Array.from({ length: count }, (_, i) => aVideo(`take_${i}`, format(i), 2 + (i % 97)))

const usual = () => someClips((i) => fortyReadings[i % fortyReadings.length]!)

/** Milliseconds of pricing every clip at one format after another. */
export function measurePaying(): { same: number[]; unlike: number[] } {
  const tried = [
    '3840x2160@25p',
    '1920x1080@50p',
    '1920x1080@23.976p',
    '1280x720@60p',
    '4096x2160@24p',
    '1080x1920@30p',
  ]
  const measure = (clips: readonly Clip[]) => {
    const payers = gatherPayers(clips)
    const milliseconds = tried.flatMap((text) => {
      const { format } = parseFormat(text)!
      return [0, 1].map(() => {
        const start = performance.now()
        payIn(payers, format, tollTable(defaultWeights))
        return performance.now() - start
      })
    })
    return milliseconds.slice(2)
  }
  return { same: measure(usual()), unlike: measure(someClips((i) => `${640 + 2 * i}x${360 + 2 * i}@25p`)) }
}

/** Milliseconds that a frame of animation takes in which the candidate moves: prices, lines and rows, laid out anew. */
export const measureMoving = (): Promise<number[]> =>
  withProject(usual(), async (page) => {
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Yard' }).click()
    await page.getByRole('button', { name: 'Set as project format' }).waitFor()
    await page.waitForTimeout(1500)
    return page.getByRole('application').evaluate(async (yard) => {
      const keys = [
        'ArrowDown',
        'ArrowDown',
        'ArrowRight',
        'ArrowDown',
        'ArrowLeft',
        'ArrowUp',
        'ArrowRight',
        'ArrowUp',
      ]
      const milliseconds: number[] = []
      for (let i = 0; i < 80; i++) {
        // As fast as a held key repeats: the step before is painted by then.
        await new Promise((done) => setTimeout(done, 33))
        // The candidate moves with a frame of animation: from the first of its callbacks to the last is what a move costs.
        let start = 0
        requestAnimationFrame(() => (start = performance.now()))
        const before = performance.now()
        yard.dispatchEvent(new KeyboardEvent('keydown', { key: keys[i % keys.length]!, bubbles: true }))
        const asking = performance.now() - before
        await new Promise<void>((done) =>
          requestAnimationFrame(() => {
            // Reading a size lays out what has changed.
            document.body.getBoundingClientRect()
            yard.getBoundingClientRect()
            milliseconds.push(asking + performance.now() - start)
            done()
          }),
        )
      }
      // The first steps warm up what the others run on.
      return milliseconds.slice(16)
    })
  })
