/**
 * `npm run mutants`: changes the core in thousands of places, room by room, and tells the share that a test notices.
 * `npm run mutants -- toll motion` looks at some rooms. What lived stands in `test-results/mutants/ROOM.txt`.
 */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { changesNothing } from '../../stryker.config.mjs'
import { root } from './prepare.mjs'

const all = 'picture words treatment framing motion format check exchange choice toll edit'.split(' ')
const [leastInAll, leastInRoom] = [90, 85]
const rooms = process.argv.length > 2 ? process.argv.slice(2) : all
const bin = join(root, 'node_modules', '.bin', 'stryker')
const folder = join(root, 'test-results', 'mutants')
mkdirSync(folder, { recursive: true })
const report = join(root, 'test-results', 'mutants.json')

const sum = { killed: 0, lived: 0 }
const share = ({ killed, lived }) => (100 * killed) / Math.max(1, killed + lived)
let short = false
/** Whether a comparison was changed only in what it says of equals: `<` to `<=`. */
const onlyAtTheBound = (code, replacement) =>
  code.replace(/([<>])=/g, '$1').includes(replacement.replace(/([<>])=/g, '$1'))
for (const room of rooms) {
  const mutate = `src/core/${room}/**/*.ts,!src/core/**/*.test.ts,!src/core/**/*.fixture.ts`
  rmSync(report, { force: true })
  spawnSync(bin, ['run', '--mutate', mutate], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] })
  if (!existsSync(report)) {
    console.error(`${room}: nothing was tried, the tests have to pass first.`)
    process.exit(1)
  }
  const { files } = JSON.parse(readFileSync(report, 'utf8'))
  const counted = { killed: 0, lived: 0 }
  const survivors = []
  for (const [path, { source, mutants }] of Object.entries(files)) {
    const lines = source.split('\n')
    for (const { status, location, mutatorName, replacement } of mutants) {
      if (status === 'Killed' || status === 'Timeout') counted.killed++
      if (status !== 'Survived' && status !== 'NoCoverage') continue
      const { line } = location.start
      const code = lines[line - 1].trim()
      const idle = changesNothing.some(
        (known) =>
          known.mutator === mutatorName &&
          known.line.test(code) &&
          (known.replacement ?? replacement) === replacement &&
          (mutatorName !== 'EqualityOperator' || onlyAtTheBound(code, replacement)),
      )
      if (idle) continue
      counted.lived++
      survivors.push(`${path}:${line} ${mutatorName} ${status}\n  ${code}\n  → ${replacement}`)
    }
  }
  writeFileSync(join(folder, `${room}.txt`), survivors.join('\n') + '\n')
  sum.killed += counted.killed
  sum.lived += counted.lived
  short ||= share(counted) < leastInRoom
  console.log(
    `${room.padEnd(10)} ${share(counted).toFixed(1).padStart(5)} %  ${counted.killed} of ${counted.killed + counted.lived}`,
  )
}
console.log(`together   ${share(sum).toFixed(1).padStart(5)} %  ${sum.killed} of ${sum.killed + sum.lived}`)
process.exit(short || share(sum) < leastInAll ? 1 : 0)
