import { defineConfig } from '@playwright/test'
import { WORKERS } from './workers.ts'

export default defineConfig({
  testDir: '.',
  workers: WORKERS,
  timeout: 300_000,
  expect: { timeout: 25_000 },
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: '../.tmp/e2e.json' }]],
  outputDir: '../.tmp/e2e',
  globalSetup: './start-server.ts',
  use: {
    launchOptions: { executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium' },
    actionTimeout: 25_000,
    testIdAttribute: 'data-test',
    trace: 'off',
    // What a browser keeps is not fetched for every journey anew; those out of coverage ask for it.
    serviceWorkers: 'block',
  },
  projects: [
    { name: 'desk', use: { viewport: { width: 1280, height: 800 } }, grepInvert: /@tablet|@phone/ },
    { name: 'tablet', use: { viewport: { width: 820, height: 1180 }, hasTouch: true }, grep: /@both|@tablet/ },
    { name: 'phone', use: { viewport: { width: 400, height: 860 }, hasTouch: true }, grep: /@phone/ },
  ],
})
