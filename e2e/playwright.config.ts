import { defineConfig } from '@playwright/test'
import { CHROMIUM } from '../scripts/setup/chromium.mjs'

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  // A machine may be given a fifth of its processor for minutes: a limit tells what hangs, not what is slow.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: false,
  retries: 0,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    screenshot: 'only-on-failure',
    launchOptions: CHROMIUM,
  },
})
