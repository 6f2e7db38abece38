/** A browser and a server of our own, what they weigh, and a project to measure in. Needs the build and Chromium. */
import { type ChildProcess, spawn } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { type Browser, chromium } from '@playwright/test'

const port = 4193
export const base = `http://127.0.0.1:${port}`
const root = join(import.meta.dirname, '..', '..')

let running: ChildProcess | null = null
/** The process of the server that is running, to be weighed. */
export const serverPid = (): number => running?.pid ?? 0

async function withServer<T>(work: () => Promise<T>, words: readonly string[]): Promise<T> {
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts', ...words], {
    cwd: root,
    env: { ...process.env, PORT: String(port) },
  })
  running = server
  try {
    for (let i = 0; i < 100; i++) {
      if (await fetch(base).catch(() => null)) break
      await new Promise((done) => setTimeout(done, 100))
    }
    return await work()
  } finally {
    running = null
    server.kill()
  }
}

/**
 * A browser and a server of our own for the length of some work.
 * @param words for the server, as behind `npm start --`
 */
export async function withBrowser<T>(
  work: (browser: Browser) => Promise<T>,
  words: readonly string[] = [],
): Promise<T> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  })
  try {
    return await withServer(() => work(browser), words)
  } finally {
    await browser.close()
  }
}

/** Weighs what the heaviest page and its workers hold, in megabytes. */
export async function scales(browser: Browser): Promise<() => Promise<number>> {
  const session = await browser.newBrowserCDPSession()
  return async () => {
    const { processInfo } = await session.send('SystemInfo.getProcessInfo')
    const pages = (processInfo as { id: number; type: string }[]).filter(({ type }) => type === 'renderer')
    const held = pages.map(async ({ id }) => {
      const status = await readFile(`/proc/${id}/status`, 'utf8').catch(() => '')
      return Number(/^VmRSS:\s+(\d+)/m.exec(status)?.[1] ?? 0) / 1024
    })
    return Math.max(0, ...(await Promise.all(held)))
  }
}
