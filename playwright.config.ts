import { defineConfig } from '@playwright/test'

const port = Number(process.env.E2E_PORT ?? 4183)

export default defineConfig({
  testDir: 'test/e2e',
  outputDir: 'test-results/browser',
  fullyParallel: false,
  // Each worker has a browser of its own, and a project of its own in it.
  workers: 2,
  timeout: 180_000,
  // A shared machine may stall for seconds; a test that only passes again is reported as such.
  retries: process.env.CI ? 1 : 0,
  expect: { timeout: 20_000 },
  reporter: [['line'], ['json', { outputFile: process.env.BROWSER_REPORT ?? 'test-results/browser.json' }]],
  use: {
    actionTimeout: 20_000,
    // What is kept of the app for use without its server has a test of its own; the others ask the server.
    serviceWorkers: 'block',
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node --import tsx test/e2e/served.ts',
    env: { PORT: String(port) },
    url: `http://127.0.0.1:${port}/`,
    reuseExistingServer: false,
  },
})
