// npm test: sets up whatever is missing, then types, lint, unit and server tests, and the real interface.
// Ends with one line of counts.
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuild } from './setup/build.mjs'
import { throwAwayCluster } from './setup/cluster.mjs'
import { ensureChromium } from './setup/debian.mjs'
import { ensurePackages } from './setup/packages.mjs'
import { ROOT } from './setup/paths.mjs'
import { runMain, say } from './setup/say.mjs'

let passed = 0
let failed = 0

function report(title, ok) {
  say(`${ok ? 'ok    ' : 'FAILED'} ${title}`)
  if (ok) passed++
  else failed++
}

/** Runs a check whose exit code is all there is to know. */
async function check(title, command, args) {
  const code = await new Promise((resolve) =>
    spawn(command, args, { cwd: ROOT, stdio: 'inherit' }).once('exit', resolve),
  )
  report(title, code === 0)
}

/** Runs a tool that writes a report as JSON; a report that is missing counts as one failure. */
async function counted(title, args, env, file, count) {
  const code = await new Promise((resolve) =>
    spawn('npx', args, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } }).once(
      'exit',
      resolve,
    ),
  )
  let counts = null
  try {
    counts = count(JSON.parse(readFileSync(file, 'utf8')))
  } catch {
    // The tool ended before it could write: told below.
  }
  if (!counts || (code !== 0 && counts.failed === 0)) return report(`${title} (exit ${code})`, false)
  say(
    `${counts.failed === 0 ? 'ok    ' : 'FAILED'} ${title}: ${counts.passed} passed, ${counts.failed} failed`,
  )
  passed += counts.passed
  failed += counts.failed
}

await runMain(async () => {
  // Debian and the registry are waited for side by side; so is what needs no database.
  const chromium = ensureChromium()
  ensurePackages()
  const build = ensureBuild()
  // Types and tests are worth hearing of even where nothing can be built.
  build.catch(() => undefined)
  await Promise.all([
    chromium,
    check('types', 'node', ['scripts/types.mjs']),
    check('lint', 'npm', ['run', '--silent', 'lint:rules']),
    check('layout', 'npm', ['run', '--silent', 'lint:layout']),
  ])
  const folder = mkdtempSync(join(tmpdir(), 'tender-report-'))
  const cluster = await throwAwayCluster()
  const stop = () => {
    cluster.discard()
    rmSync(folder, { recursive: true, force: true })
  }
  process.on('SIGINT', () => (stop(), process.exit(130)))
  process.on('SIGTERM', () => (stop(), process.exit(143)))
  try {
    const jest = join(folder, 'jest.json')
    await counted(
      'unit and server',
      ['jest', '--json', `--outputFile=${jest}`],
      { TEST_DATABASE_URL: cluster.url, NODE_OPTIONS: '--experimental-vm-modules --no-warnings' },
      jest,
      (result) => ({
        passed: result.numPassedTests,
        failed: result.numFailedTests + result.numRuntimeErrorTestSuites,
      }),
    )
    await build
    const e2e = join(folder, 'e2e.json')
    await counted(
      'interface',
      ['playwright', 'test', '--config', 'e2e/playwright.config.ts'],
      { TEST_DATABASE_URL: cluster.url, PLAYWRIGHT_JSON_OUTPUT_NAME: e2e },
      e2e,
      ({ stats }) => ({
        passed: stats.expected + stats.flaky,
        failed: stats.unexpected,
      }),
    )
  } finally {
    stop()
  }
  say(`${passed} passed, ${failed} failed`)
  process.exitCode = failed === 0 ? 0 : 1
})
