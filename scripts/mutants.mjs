/** `npm run mutants`: runs the mutation tests and tells the share that was killed, by room of the core. */
import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './prepare.mjs'

const leastInRoom = 85
const bin = join(root, 'node_modules', '.bin', 'stryker')
const { status } = spawnSync(bin, ['run', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' })
const { files } = JSON.parse(readFileSync(join(root, 'test-results', 'mutants.json'), 'utf8'))

const rooms = new Map()
for (const [path, { mutants }] of Object.entries(files)) {
  const room = path.split('/')[2]
  const counted = rooms.get(room) ?? { killed: 0, lived: 0 }
  for (const mutant of mutants) {
    if (mutant.status === 'Killed' || mutant.status === 'Timeout') counted.killed++
    if (mutant.status === 'Survived' || mutant.status === 'NoCoverage') counted.lived++
  }
  rooms.set(room, counted)
}
const share = ({ killed, lived }) => (100 * killed) / Math.max(1, killed + lived)
let short = false
for (const [room, counted] of [...rooms].sort()) {
  short ||= share(counted) < leastInRoom
  console.log(
    `${room.padEnd(12)} ${share(counted).toFixed(1).padStart(5)} %  ${counted.killed} of ${counted.killed + counted.lived}`,
  )
}
process.exit(status || (short ? 1 : 0))
