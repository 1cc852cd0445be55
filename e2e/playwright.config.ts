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
  // The start command needs no demo: it is tried while the first of the others fill theirs, and its long file
  // is not what the last worker is left with.
  projects: [
    { name: 'start', testMatch: 'start.spec.ts' },
    { name: 'interface', testIgnore: 'start.spec.ts' },
  ],
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    screenshot: 'only-on-failure',
    launchOptions: CHROMIUM,
  },
})
