/** What zooming, scrolling and editing cost with two thousand placements on eight tracks. */
import { addTrack, changeTrack } from '../../src/core/edit/arranging'
import { aDoc, aVideo } from '../../src/core/model/doc.fixture'
import { addTimeline, setProjectFormat } from '../../src/core/edit/operations'
import { append, newTimeline, placementOf } from '../../src/core/edit/placing'
import { parseFormat } from '../../src/core/format/parse'
import { withDoc } from './project'
import { sized } from './size'

const formats = ['3840x2160@25p', '1920x1080@50p', '1440x1080/4:3@50i', '1080x1920@30p', '1920x1080@25p']
const [count, tracks] = [sized(2000, 80), 8]

function manyPlacements() {
  const clips = formats.map((format, i) => aVideo(`take_${i}`, format, 60))
  const doc = aDoc(clips)
  const { format } = parseFormat('1920x1080@25p')!
  setProjectFormat(doc, { at: '', setBy: 'typed', format, reason: 'for the bench' })
  addTimeline(doc, newTimeline('t', 'Main cut', '2026-05-01T08:00:00Z'))
  for (let track = 0; track < tracks; track++) {
    const id = track === 0 ? doc.timelines.t!.tracks[0]!.id : addTrack(doc, 't', 'video', () => `v${track}`)
    const placements = Array.from({ length: count / tracks }, (_, i) => ({
      ...placementOf(clips[(i + track) % clips.length]!, format, `p${track}-${i}`),
      length: 20 + ((i * 37 + track * 11) % 60),
    }))
    append(doc, 't', placements)
    // What is full is locked, so that the next ones come onto the next track.
    changeTrack(doc, 't', id, { locked: true })
  }
  for (const { id } of doc.timelines.t!.tracks) changeTrack(doc, 't', id, { locked: false })
  return doc
}

/** Milliseconds of frames while it is zoomed and scrolled, and from a key that edits to the page laid out anew. */
export const measureStrip = (): Promise<{ zoom: number[]; scroll: number[]; edit: number[] }> =>
  withDoc(manyPlacements(), async (page) => {
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Timelines' }).click()
    const strip = page.getByRole('group', { name: /The cut to scale/ })
    await strip.waitFor()
    await page.waitForTimeout(4000)
    // What compiles these sources names functions by a helper that the page does not have.
    await page.evaluate('globalThis.__name = (of) => of')
    return strip.evaluate(async (element) => {
      const frame = () => new Promise<number>((done) => requestAnimationFrame(done))
      const laidOut = () => document.body.getBoundingClientRect().height
      const box = element.querySelector('.box')!
      async function each(times: number, act: (i: number) => void) {
        const took: number[] = []
        for (let i = 0; i < times; i++) {
          await frame()
          const start = performance.now()
          act(i)
          await Promise.resolve()
          laidOut()
          await new Promise((done) => setTimeout(done))
          took.push(performance.now() - start)
        }
        return took
      }
      const wheel = (init: WheelEventInit) =>
        box.dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, ...init }))
      const key = (name: string) =>
        element.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }))
      const x = box.getBoundingClientRect().left + 400
      const zoom = await each(40, (i) => wheel({ deltaY: i < 20 ? -1 : 1, ctrlKey: true, clientX: x }))
      for (let i = 0; i < 8; i++) wheel({ deltaY: -1, ctrlKey: true, clientX: x })
      await frame()
      const scroll = await each(60, (i) => wheel({ deltaX: i < 30 ? 120 : -120 }))
      ;(element as HTMLElement).focus()
      key('Enter')
      await new Promise((done) => setTimeout(done, 500))
      const edit = await each(12, (i) => key(i % 2 ? '3' : '4'))
      return { zoom, scroll, edit }
    })
  })
