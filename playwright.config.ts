import { defineConfig } from '@playwright/test'
import { launchOptions } from './bin/lib/chromium.mjs'

/** What stops processes and the database, and what starts programs of its own, runs when nothing else does. */
const alone = /(behind-tls|rolling|running)\.spec\.ts$/

export default defineConfig({
  testDir: 'e2e',
  // One application and one practice host serve all tests; each test has an account of its own.
  workers: 2,
  fullyParallel: false,
  projects: [
    { name: 'together', testIgnore: alone },
    { name: 'alone', testMatch: alone, workers: 1, dependencies: ['together'] },
  ],
  timeout: 60_000,
  retries: 1,
  expect: { timeout: 10_000 },
  outputDir: 'test-results',
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: process.env.E2E_ADDRESS,
    viewport: { width: 1280, height: 800 },
    // Recording takes as long as the tests; what fails is run again with it, and named if it then passes.
    trace: 'on-first-retry',
    launchOptions,
  },
})
