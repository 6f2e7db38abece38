/** Measures and prints; asserts nothing. `npm run bench` (all), `npm run bench -- NAME…`. */
import { existsSync } from 'node:fs'
import { measureFirstUse } from './first-use'
import { measureRanking } from './ranking'

const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]
const range = (values: readonly number[]) =>
  `${Math.min(...values).toFixed(0)}–${Math.max(...values).toFixed(0)}`
const line = (name: string, value: string) => console.log(`${name.padEnd(52)}${value}`)

const wanted = process.argv.slice(2)
const asked = (name: string) => wanted.length === 0 || wanted.includes(name)

if (asked('ranking')) {
  for (const { clips, milliseconds, candidates } of measureRanking()) {
    line(
      `full ranking, ${clips} clips, 40 readings, ${candidates} candidates`,
      `${median(milliseconds).toFixed(1)} ms (${range(milliseconds)})`,
    )
  }
}
if (asked('first-use')) {
  if (!existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium'))
    console.log('first use: no Chromium here, not measured')
  else {
    const { firstView, twelveClips } = await measureFirstUse()
    line(
      'first view usable after load (target 1500 ms)',
      `${median(firstView).toFixed(0)} ms (${range(firstView)})`,
    )
    line(
      '12 clips of the siding listed (target 1000 ms)',
      `${median(twelveClips).toFixed(0)} ms (${range(twelveClips)})`,
    )
  }
}
