import { execFile } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { type BrowserContext, type Page, chromium } from '@playwright/test'
import { expect, fillable, openDemo, place, row, saved, test } from './line'
import { stored } from './stored'

/** How often the browser is killed: a few times with every run; `KILLS=50` for all of it. */
const kills = Number(process.env.KILLS ?? 4)
/** How many interleavings of two tabs are drawn; `TABS=30` for all of it. */
const interleavings = Number(process.env.TABS ?? 6)

/** A small deterministic dice, so that a failure can be drawn again. */
function dice(seed: number) {
  let state = seed
  return (below: number) => {
    state = (state * 1664525 + 1013904223) % 2 ** 32
    return Math.floor((state / 2 ** 32) * below)
  }
}
const noTrouble = async (page: Page) => {
  await expect(page.getByRole('alert')).toHaveCount(0)
}

test.describe('a browser that is killed', () => {
  const launch = (folder: string): Promise<BrowserContext> =>
    chromium.launchPersistentContext(folder, {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      headless: true,
      viewport: { width: 1280, height: 800 },
      baseURL: 'http://127.0.0.1:4183',
      args: ['--headless', '--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-sync'],
    })
  /** Kills every process of the browser at once, as a power button would. */
  const killAll = (folder: string) =>
    promisify(execFile)('pkill', ['-9', '-f', `user-data-dir=${folder}`]).catch(() => {})

  test(`loses nothing that is older than 300 ms, ${kills} times`, async () => {
    test.setTimeout(60_000 + kills * 25_000)
    const folder = await mkdtemp(join(tmpdir(), 'yard-tally-kill-'))
    const lost: number[] = []
    const roll = dice(20260527)
    try {
      let context = await launch(folder)
      let page = context.pages()[0] ?? (await context.newPage())
      await openDemo(page)
      await saved(page)
      const url = page.url()
      let count = (await stored(page)).position
      for (let kill = 0; kill < kills; kill++) {
        await page.goto(url)
        await expect(row(page, 'hall_wide_A003').first()).toBeVisible()
        /** When each edit was made, by the number of its step. */
        const marks: number[] = []
        const tell = (n: number) => void (marks[n] = Date.now())
        await page.exposeFunction('made', tell)
        // Scripted editing by the store that the screens edit by: names, priorities, timelines made and taken out.
        await page.evaluate(() => {
          interface App {
            config: { globalProperties: { $pinia: { _s: Map<string, Record<string, never>> } } }
          }
          const app = (document.querySelector('#app') as unknown as { __vue_app__: App }).__vue_app__
          const stores = app.config.globalProperties.$pinia._s
          const project = stores.get('project') as unknown as {
            edit(
              label: string,
              recipe: (doc: {
                project: { name: string }
                clips: Record<string, { priority: string }>
              }) => void,
            ): void
            position: number
          }
          const timelines = stores.get('timelines') as unknown as { create(): void }
          let n = 0
          const go = () => {
            n++
            if (n % 7 === 0) timelines.create()
            else
              project.edit(`step ${n}`, (doc) => {
                doc.project.name = `Bell ${n}`
                const [first] = Object.values(doc.clips)
                if (first) first.priority = n % 2 ? 'key' : 'normal'
              })
            ;(window as unknown as { made(n: number): void }).made(project.position)
            setTimeout(go, 5 + ((n * 37) % 60))
          }
          go()
        })
        await page.waitForTimeout(400 + roll(2200))
        const killedAt = Date.now()
        await killAll(folder)
        await context.close().catch(() => {})
        context = await launch(folder)
        page = context.pages()[0] ?? (await context.newPage())
        await page.goto(url)
        await expect(row(page, 'hall_wide_A003').first()).toBeVisible()
        const { position, project, steps } = await stored(page)
        const due = marks.reduce((last, at, n) => (at !== undefined && at < killedAt - 300 ? n : last), count)
        lost.push(Math.max(0, due - position))
        expect(position, `of ${due} steps that were due`).toBeGreaterThanOrEqual(due)
        // Consistent: the last step in force is what the document says.
        const last = steps.find(({ n }) => n === position)!
        if (/^step \d+$/.test(last.label)) expect(project.name).toBe(last.label.replace('step', 'Bell'))
        await noTrouble(page)
        count = position
      }
      await context.close()
    } finally {
      await killAll(folder)
      await rm(folder, { recursive: true, force: true, maxRetries: 5 })
    }
    expect(lost.every((mark) => mark === 0)).toBe(true)
  })
})

test('two tabs: one edits, the other follows, takes over, and is alone when the first dies', async ({
  page,
  context,
}) => {
  test.setTimeout(120_000)
  await openDemo(page)
  await saved(page)
  const second = await context.newPage()
  await second.goto(page.url())
  await expect(second.getByText('Open in another tab.')).toBeVisible()
  await place(page, 'Yard')
  await page.getByRole('button', { name: 'Set as project format' }).click()
  // It follows live.
  await expect(second.getByRole('banner')).toContainText('project format')
  await row(second, 'bell_swing_B011').first().click()
  await second.keyboard.press('Delete')
  await expect(second.getByText('Not done: take out 1 clip.')).toBeVisible()
  await second.getByRole('button', { name: 'Write it here' }).click()
  await expect(second.getByText('Open in another tab.')).toHaveCount(0)
  await expect(page.getByText('Open in another tab.')).toBeVisible()
  await row(second, 'bell_swing_B011').first().click()
  await second.keyboard.press('Delete')
  await expect(second.getByRole('heading', { name: '22 arrived' })).toBeVisible()
  await place(page, 'Arrivals')
  await expect(page.getByRole('heading', { name: '22 arrived' })).toBeVisible()
  // The one that writes dies: the other writes at once.
  await second.close()
  await expect(page.getByText('Open in another tab.')).toHaveCount(0, { timeout: 5000 })
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('heading', { name: '23 arrived' })).toBeVisible()
  await saved(page)
})

test(`no edit of two tabs is lost without being told, in ${interleavings} interleavings`, async ({
  page,
  context,
}) => {
  test.setTimeout(60_000 + interleavings * 30_000)
  await openDemo(page)
  await saved(page)
  const url = page.url()
  const second = await context.newPage()
  await second.goto(url)
  const tabs: Page[] = [page, second]
  /** Edits by the store; whether it was taken. */
  const edit = (tab: Page, name: string) =>
    tab.evaluate((wanted) => {
      const app = (document.querySelector('#app') as unknown as { __vue_app__: never }).__vue_app__ as {
        config: { globalProperties: { $pinia: { _s: Map<string, unknown> } } }
      }
      const project = app.config.globalProperties.$pinia._s.get('project') as {
        edit(label: string, recipe: (doc: { project: { name: string } }) => void): void
        refused: string | null
        readOnly: boolean
      }
      const was = project.readOnly
      project.edit(wanted, (doc) => void (doc.project.name = wanted))
      return { taken: !was, told: project.refused === wanted }
    }, name)
  for (let round = 0; round < interleavings; round++) {
    const roll = dice(7000 + round)
    const taken: string[] = []
    for (let act = 0; act < 8; act++) {
      const tab = tabs[roll(2)]!
      const name = `Round ${round}, act ${act}`
      switch (roll(5)) {
        case 0: {
          const take = tab.getByRole('button', { name: 'Write it here' })
          if (await take.isVisible()) await take.click({ timeout: 2000 }).catch(() => {})
          break
        }
        case 1:
          // In the midst of writing too: here nobody is there to answer what the browser asks then.
          await tab.reload()
          await expect(row(tab, 'hall_wide_A003').first()).toBeVisible()
          break
        default: {
          const done = await edit(tab, name)
          if (done.taken) taken.push(name)
          else expect(done.told, `${name} was refused and told`).toBe(true)
        }
      }
      if (roll(3) === 0) await tab.waitForTimeout(roll(60))
    }
    // Whoever writes settles; both show the same, and the last edit that was taken is what lies on disk.
    for (const tab of tabs) await saved(tab)
    await expect(async () => {
      const { project, steps } = await stored(page)
      const labels = new Set(steps.map(({ label }) => label))
      for (const name of taken) expect(labels.has(name), `${name} is in the history`).toBe(true)
      if (taken.length) expect(project.name).toBe(taken.at(-1))
      for (const tab of tabs)
        await expect(tab.getByRole('banner')).toContainText(project.name, { timeout: 2000 })
    }).toPass({ timeout: 15_000 })
    for (const tab of tabs) await noTrouble(tab)
  }
})

test('a full disk is told, the work stays and can be taken along, and is written once there is room', async ({
  page,
}) => {
  const full = await fillable(page)
  await openDemo(page)
  await saved(page)
  await full(true)
  await row(page, 'bell_swing_B011').first().click()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('alert')).toContainText('The browser’s storage is full.')
  await expect(page.getByRole('button', { name: 'Save the project file' })).toBeVisible()
  await expect(page.getByRole('heading', { name: '22 arrived' })).toBeVisible()
  await full(false)
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('heading', { name: '22 arrived' })).toBeVisible()
})

test('storage that is really full refuses, and nothing is torn', async ({ page }) => {
  await openDemo(page)
  await saved(page)
  const session = await page.context().newCDPSession(page)
  const origin = new URL(page.url()).origin
  await session.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: 1000 })
  // The browser believes for half a minute in the room that it found last.
  await page.waitForTimeout(32_000)
  await row(page, 'bell_swing_B011').first().click()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('alert')).toContainText('The browser’s storage is full.')
  expect((await stored(page)).project.clipOrder).toHaveLength(23)
  await session.send('Storage.overrideQuotaForOrigin', { origin })
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await saved(page)
  expect((await stored(page)).project.clipOrder).toHaveLength(22)
})

test('storage that is denied is told, and the work goes on in memory', async ({ page }) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('denied', 'SecurityError')
    }
  })
  await page.goto('/')
  await expect(page.getByRole('alert')).toContainText('does not let the page keep anything')
  await page.getByRole('button', { name: 'Open the demo' }).click()
  await expect(page.getByRole('heading', { name: '23 arrived' })).toBeVisible()
  await expect(page.getByRole('alert').first()).toContainText('does not let the page keep anything')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the project file' }).click(),
  ])
  expect(file.suggestedFilename()).toContain('json')
})

test('a database that an older tab keeps to itself is told, and opens once that is closed', async ({
  context,
}) => {
  const older = await context.newPage()
  await older.goto('/api/demo')
  await older.evaluate(
    () =>
      new Promise<void>((done) => {
        const request = indexedDB.open('yard-tally', 40)
        request.onupgradeneeded = () => {
          const make = (name: string, keyPath: string | string[]) =>
            request.result.createObjectStore(name, { keyPath }).createIndex('projectId', 'projectId')
          request.result.createObjectStore('projects', { keyPath: 'id' })
          request.result.createObjectStore('habits', { keyPath: 'id' })
          for (const name of ['clips', 'timelines', 'leftAside']) make(name, ['projectId', 'id'])
          for (const name of ['posters', 'handles']) make(name, ['projectId', 'clipId'])
          request.result
            .createObjectStore('putAside', { keyPath: 'key', autoIncrement: true })
            .createIndex('projectId', 'projectId')
        }
        // It does not let go when a newer one asks.
        request.onsuccess = () => done()
      }),
  )
  // The library that opens the database warns of it in the console too.
  const page = await context.newPage()
  await page.goto('/')
  await expect(page.getByRole('alert')).toContainText('An older Yard Tally is open in another tab')
  await older.close()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await openDemo(page)
  await saved(page)
})

test('storage that the browser cleared is told, and all is written anew', async ({ page }) => {
  await openDemo(page)
  await saved(page)
  const session = await page.context().newCDPSession(page)
  await session.send('Storage.clearDataForOrigin', {
    origin: new URL(page.url()).origin,
    storageTypes: 'indexeddb',
  })
  await row(page, 'bell_swing_B011').first().click()
  await page.keyboard.press('Delete')
  await expect(page.getByText('The browser had cleared what it kept of this project.')).toBeVisible()
  await saved(page)
  await page.reload()
  await expect(page.getByRole('heading', { name: '22 arrived' })).toBeVisible()
})

test('projects are backed up by themselves into a folder that the browser grants, under names that follow in time', async ({
  page,
}) => {
  // The browser's own file system stands in for a folder of the editor's.
  await page.addInitScript(() => {
    Object.assign(window, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('backups', { create: true }),
    })
  })
  await openDemo(page)
  await saved(page)
  await page.getByRole('link', { name: 'Yard Tally, all projects' }).click()
  await page.getByRole('button', { name: 'choose a folder…' }).click()
  await expect(page.getByText('Backups go to the folder backups')).toBeVisible()
  await page.getByRole('link', { name: 'The Ninth Bell' }).click()
  await expect(page.getByRole('heading', { name: '23 arrived' })).toBeVisible()
  await page.getByRole('link', { name: 'Yard Tally, all projects' }).click()
  const files = () =>
    page.evaluate(async () => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('backups')
      const found: [string, number][] = []
      for await (const [name, handle] of (
        folder as unknown as { entries(): AsyncIterable<[string, FileSystemFileHandle]> }
      ).entries()) {
        const { project } = JSON.parse(await (await handle.getFile()).text()) as {
          project: { clipOrder: string[] }
        }
        found.push([name, project.clipOrder.length])
      }
      return found
    })
  await expect.poll(async () => (await files()).length).toBe(1)
  const [[name, clips]] = (await files()) as [[string, number]]
  expect(name).toMatch(/^The_Ninth_Bell_\d{8}-\d{6}_.+\.json$/)
  expect(clips).toBe(23)
})
