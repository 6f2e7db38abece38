/** Takes the pictures of the README from the demo, in both editions: `npm run screenshots` while `npm start` runs. */
import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { chromium } from '@playwright/test'

const base = process.env.BASE ?? 'http://127.0.0.1:4173'
const folder = process.env.OUT ?? join(import.meta.dirname, '..', '..', 'docs', 'screenshots')
const only = process.argv.slice(2)
await mkdir(folder, { recursive: true })
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on(
  'console',
  (message) => ['error', 'warning'].includes(message.type()) && console.log(message.type(), message.text()),
)
page.on('pageerror', (error) => console.log('page error', error.message))
const wanted = (name: string) => only.length === 0 || only.some((part) => name.includes(part))
const edition = (name: 'light' | 'night') =>
  page.evaluate((value) => localStorage.setItem('edition', value), name)

async function shoot(name: string) {
  // Also where no picture is wanted: dialogs fade in before they take keys.
  await page.waitForTimeout(400)
  if (!wanted(name)) return
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
const place = (name: string) =>
  page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name }).click()

await page.goto(base)
await edition('light')
await page.reload()
await page.getByText('files from').waitFor()
await page.goto(`${base}/new?name=The%20Ninth%20Bell`)
await page.getByLabel('known', { exact: true }).check()
await shoot('new')
await page.goto(`${base}/habits`)
if ((await page.getByLabel('Name of Foundry window').count()) === 0) {
  for (const text of ['1920x1080@50i', '1080x1350@25p']) {
    await page.getByLabel('A format to keep').fill(text)
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
  }
  await page.getByLabel('Name of 1080×1350 · 25p').fill('Foundry window')
  await page.keyboard.press('Tab')
}
await shoot('habits')
await page.goto(base)
await page.getByRole('button', { name: 'Open the demo' }).click()
await page.getByRole('option', { name: /yard_dawn/ }).waitFor()
// Posters first, then what the pictures say.
await page.getByRole('region', { name: 'Being measured' }).waitFor({ timeout: 60_000 })
await page.getByRole('region', { name: 'Being measured' }).waitFor({ state: 'detached', timeout: 300_000 })
await page.getByRole('option', { name: /archive_dub_07/ }).click()
await page.waitForTimeout(1500)
await shoot('arrivals')
await page.getByRole('complementary', { name: 'Docket' }).getByRole('button', { name: 'scan' }).click()
await page.getByRole('dialog', { name: 'Interlaced, explained' }).waitFor()
await page.waitForTimeout(1500)
await shoot('terms')
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'Look closer' }).click()
await page.getByText(/blocks of 16×16 comb/).waitFor()
await page.waitForTimeout(1200)
await shoot('closer')
await page.keyboard.press('Escape')
await page.getByRole('dialog').waitFor({ state: 'hidden' })
await place('Yard')
await page.getByRole('button', { name: 'Set as project format' }).waitFor()
await shoot('yard')
await page.getByLabel('A second format beside it').selectOption({ index: 1 })
await page.getByRole('button', { name: 'charts' }).click()
await shoot('yard-charts')
await page.getByLabel('A second format beside it').selectOption({ index: 0 })
await page.getByRole('grid', { name: 'What each clip pays' }).focus()
await page.keyboard.type('clerk_phone')
await page.getByRole('button', { name: /^clerk_phone_0417/ }).click()
await page.waitForTimeout(1500)
await shoot('yard-docket')
await page.getByRole('button', { name: '‹ candidates' }).click()
await page.getByRole('button', { name: 'candidates', exact: true }).click()
await page.getByRole('button', { name: 'Set as project format' }).click()
await place('Timelines')
await page.getByRole('button', { name: 'New timeline' }).click()
for (const name of [
  'hall_wide_A003',
  'bell_swing_B011',
  'visitor_C002',
  'archive_reel2',
  'pour_A007',
  'tower_P100',
]) {
  await page
    .getByRole('complementary', { name: 'Timelines and clips' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .press('Enter')
  const question = page.getByRole('dialog')
  if (await question.isVisible({ timeout: 600 }).catch(() => false)) {
    await page.waitForTimeout(300)
    await question.locator('canvas[aria-busy=true]').first().waitFor({ state: 'detached' })
    await shoot('mismatch')
    await page.getByRole('button', { name: 'Keep it, treat the clip' }).click()
    await question.waitFor({ state: 'hidden' })
  }
}
const strip = page.getByRole('group', { name: /The cut to scale/ })
const block = (name: string) =>
  strip.getByRole('button', { name: new RegExp(`^${name}[^:]*: (?!sound)`) }).first()
const way = (name: RegExp) => page.getByRole('radio', { name }).first()
const clip = (name: string) =>
  page
    .getByRole('complementary', { name: 'Timelines and clips' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .first()
await strip.focus()
for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown')
await clip('title_card').press('u')
await page.getByRole('button', { name: 'show what happens' }).click()
await block('archive_reel2').click()
await way(/^interpolate, double rate/).click()
await page.getByRole('button', { name: 'Make a rule…' }).click()
await page.getByRole('button', { name: 'Make the rule' }).click()
for (let i = 0; i < 12; i++) await strip.press('ArrowRight')
await page.getByRole('button', { name: 'two ways, split' }).click()
await way(/^weave/).hover()
await page.waitForTimeout(4000)
await shoot('timelines')
await page.getByRole('button', { name: 'beside', exact: true }).click()
await page.getByRole('button', { name: 'one to one', exact: true }).click()
await page.getByLabel('Magnification').selectOption('2')
await way(/^weave/).hover()
await page.waitForTimeout(4000)
await shoot('timelines-ways')
await page.getByRole('button', { name: 'whole', exact: true }).click()
await block('visitor_C002').click()
await way(/^blend/).hover()
await page.getByRole('button', { name: 'hold', exact: true }).click()
await strip.press('p')
await page.waitForTimeout(2600)
await shoot('timelines-motion')
await strip.press(' ')
await page.getByRole('button', { name: 'beside', exact: true }).click()
const carry = page.getByRole('region', { name: 'Carry over' })
await page.getByRole('button', { name: /^Carry “/ }).click()
await carry.getByRole('button', { name: '50', exact: true }).click()
await page.waitForTimeout(800)
await shoot('carry')
await carry.getByRole('button', { name: '25', exact: true }).click()
await carry.getByRole('button', { name: 'turn it' }).click()
await carry.getByRole('slider', { name: /pour_A007/ }).press('Shift+ArrowRight')
await page.waitForTimeout(5000)
await shoot('carry-portrait')
await carry.getByRole('button', { name: 'leave it as it is' }).click()
await page.getByRole('button', { name: 'history', exact: true }).click()
const history = page.getByRole('complementary', { name: 'History' })
await history.getByRole('button', { name: 'Name this point…' }).click()
await history.getByLabel('Name of the restore point').fill('Rough cut for the founder')
await history.getByRole('button', { name: 'Keep it' }).click()
await block('tower_P100').click()
await strip.press('4')
await strip.press('Delete')
await page.keyboard.press('Control+z')
await history.getByRole('button', { name: /^What differs from Rough cut/ }).click()
await page.waitForTimeout(600)
await shoot('history')
await history.getByRole('button', { name: 'close' }).click()
await place('Dispatch')
// Two deliverables of the cut, one of them made and read back.
for (const [format, until] of [
  ['1080x1920@25p', null],
  ['1920x1080@25p', '00:00:04:00'],
] as const) {
  const field = page.getByLabel('Format to deliver')
  if (!(await field.isVisible())) await page.getByRole('button', { name: 'New…' }).click()
  await field.fill(format)
  await field.press('Enter')
  if (!until) continue
  await page.getByLabel('To timecode').fill(until)
  await page.getByLabel('To timecode').press('Enter')
  await page.getByRole('button', { name: 'Make the file' }).click()
  await page.getByRole('region', { name: 'Proof' }).waitFor({ timeout: 120_000 })
}
await page.waitForTimeout(500)
await shoot('dispatch')
await edition('night')
await page.reload()
await page.waitForTimeout(800)
await place('Yard')
await page.waitForTimeout(500)
await shoot('yard-night')
await edition('light')
await page.goto(base)
await page.getByRole('link', { name: 'The Ninth Bell' }).first().waitFor()
await page.waitForTimeout(500)
await shoot('start')
// The walk along the line, at the step that shows what each way costs.
await page.getByRole('button', { name: 'Walk along the line' }).click()
const walk = page.getByRole('region', { name: 'The walk along the line' })
await walk.getByLabel('goes on by itself').uncheck()
for (let step = 1; step < 6; step++) {
  await walk.getByText('a moment…').waitFor({ state: 'hidden', timeout: 60_000 })
  await walk.getByRole('button', { name: 'On' }).click()
}
await walk.getByText('a moment…').waitFor({ state: 'hidden', timeout: 60_000 })
await page.waitForTimeout(2500)
await shoot('walk')
await browser.close()
