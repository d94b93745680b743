import { defineConfig } from '@playwright/test'
import { launchOptions } from './bin/lib/chromium.mjs'

export default defineConfig({
  testDir: 'e2e',
  // One application and one practice host serve all tests; each test has an account of its own.
  workers: 1,
  fullyParallel: false,
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
