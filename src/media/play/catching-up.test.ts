import { describe, expect, it } from 'vitest'
import { frameToMake, frameToShow, makingTime, pictureSize } from './catching-up'

const stretch = { from: 0, to: 500, loops: false }

/** Plays a stretch whose frames take so long to make, one after the other, and tells what is on screen at each tick. */
function played(msPerFrame: (n: number, at: number) => number, seconds: number, perSecond = 25) {
  const making = makingTime()
  const ready = new Set<number>()
  const screen: number[] = []
  let [next, busyUntil, inWork, shown] = [0 as number | null, 0, null as number | null, -1]
  for (let time = 0; time < seconds * 1000; time += 1000 / 60) {
    const due = Math.floor((time * perSecond) / 1000)
    if (inWork !== null && time >= busyUntil) {
      ready.add(inWork)
      inWork = null
    }
    if (inWork === null && next !== null && ready.size < 24) {
      next = frameToMake(next, due, making.took(), perSecond, stretch)
      if (next !== null) {
        const took = msPerFrame(next, time)
        making.add(took)
        ;[inWork, busyUntil, next] = [next, time + took, next + 1]
      }
    }
    const frame = frameToShow(ready, due, shown, false)
    if (frame !== null) shown = frame
    for (const n of ready) if (n < due) ready.delete(n)
    screen.push(shown)
  }
  return screen
}
/** For how long the picture stood at most, in milliseconds. */
const longestStand = (screen: readonly number[]) => {
  let [longest, stands] = [0, 0]
  screen.forEach((frame, i) => {
    stands = frame === screen[i - 1] ? stands + 1000 / 60 : 0
    longest = Math.max(longest, stands)
  })
  return longest
}

describe('playing that falls behind', () => {
  it('shows every frame where they are made in time', () => {
    const screen = played(() => 20, 4)
    expect(new Set(screen.slice(10)).size).toBeGreaterThan(95)
  })
  it('goes on with what can be in time, and never stands for half a second', () => {
    for (const took of [45, 60, 100, 200]) {
      const screen = played(() => took, 8)
      expect(longestStand(screen.slice(30)), `${took} ms a frame`).toBeLessThan(500)
      // It is where the sound is.
      expect(8 * 25 - screen.at(-1)!).toBeLessThan(13)
    }
  })
  it('catches up within half a second once it can', () => {
    const screen = played((_, at) => (at < 3000 ? 250 : 10), 6)
    const at = (ms: number) => Math.round((ms * 60) / 1000)
    expect(Math.floor(3.75 * 25) - screen[at(3750)]!).toBeLessThanOrEqual(1)
  })
  it('goes round where it loops', () => {
    const loop = { from: 10, to: 60, loops: true }
    expect(frameToMake(12, 11, 40, 25, loop)).toBe(12)
    expect(frameToMake(58, 59, 40, 25, loop)).toBe(11)
    expect(frameToMake(10, 59, 40, 25, loop)).toBe(10)
    expect(frameToShow([12, 58], 12, 58, true)).toBe(12)
    expect(frameToShow([58], 12, 11, true)).toBeNull()
  })
  it('makes pictures smaller before it shows fewer', () => {
    const size = pictureSize()
    size.count(1, { due: 0, shown: 0 })
    size.count(300, { due: 8, shown: 8 })
    expect(size.share()).toBe(1)
    size.count(600, { due: 16, shown: 11 })
    expect(size.share()).toBe(0.5)
    size.count(900, { due: 24, shown: 12 })
    size.count(1200, { due: 32, shown: 13 })
    expect(size.share()).toBe(0.25)
  })
  it('takes any frame where the right one would take too long', () => {
    const making = makingTime()
    for (let i = 0; i < 4; i++) making.add(900)
    expect(making.isHopeless()).toBe(true)
    for (let i = 0; i < 4; i++) making.add(50)
    expect(making.isHopeless()).toBe(false)
  })
})
