/** `npm test`: installs what is missing, then lint, licences, types, arrows, unit tests, browser tests. The last line counts the tests. */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, ensureBuilt, ensureChromium, ensureInstalled, root, run, runBeside } from './prepare.mjs'

ensureInstalled()
ensureChromium()
ensureBuilt()
const bin = (name) => join(root, 'node_modules', '.bin', name)
const results = join(root, 'test-results')
rmSync(results, { recursive: true, force: true })
mkdirSync(results, { recursive: true })
const report = (name) => join(results, `${name}.json`)
const read = (name) => (existsSync(report(name)) ? JSON.parse(readFileSync(report(name), 'utf8')) : null)

const [lint, licences, types, arrows] = await Promise.all([
  runBeside('npm', ['run', '--silent', 'lint']),
  runBeside(process.execPath, [join(root, 'tools', 'scripts', 'licences.mjs'), '--check']),
  runBeside('npm', ['run', '--silent', 'types']),
  runBeside('npm', ['run', '--silent', 'arrows']),
])
const steps = {
  lint,
  licences,
  types,
  arrows,
  unit: run(
    bin('vitest'),
    ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${report('unit')}`],
    { mayFail: true },
  ),
  browser: run(bin('playwright'), ['test'], {
    mayFail: true,
    env: { ...process.env, CHROMIUM: chromium, BROWSER_REPORT: report('browser') },
  }),
}
const unit = read('unit')
const browser = read('browser')?.stats
const passed = (unit?.numPassedTests ?? 0) + (browser?.expected ?? 0) + (browser?.flaky ?? 0)
const failed = (unit?.numFailedTests ?? 0) + (browser?.unexpected ?? 0)
const broken = Object.entries(steps).flatMap(([name, status]) => (status === 0 ? [] : [name]))
if (broken.length) console.log(`\nNot in order: ${broken.join(', ')}`)
// A step that broke without a failed test (lint, types, a crash) still counts as a failure.
const counted = broken.length && failed === 0 ? broken.length : failed
console.log(`${passed} passed, ${counted} failed`)
process.exit(counted === 0 ? 0 : 1)
