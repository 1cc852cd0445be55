import { spawn, type ChildProcess } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'

const ROOT = join(import.meta.dirname, '..')
let folder: string
const running: ChildProcess[] = []
test.beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'tender-start-'))
  // The database's own user walks through it.
  chmodSync(folder, 0o711)
})
test.afterEach(async () => {
  for (const child of running.splice(0)) await end(child, 'SIGTERM')
  rmSync(folder, { recursive: true, force: true })
})

/** npm start as a person starts it, on data of its own; resolves with what it says once it is up or over. */
function start(args: string[] = [], env: Record<string, string> = {}): Promise<{ child: ChildProcess; said: string; url: string | null; code: number | null }> {
  const child = spawn(process.execPath, ['scripts/start.mjs', ...args], { cwd: ROOT, env: { ...process.env, DATABASE_URL: '', PORT: '', ...env, TENDER_DATA_DIR: folder } })
  running.push(child)
  let said = ''
  return new Promise((resolve) => {
    const look = (code: number | null) => {
      const url = /(http:\/\/127\.0\.0\.1:\d+)/.exec(said)?.[1] ?? null
      if (url || code !== null) resolve({ child, said, url, code })
    }
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk) => {
        said += chunk
        look(null)
      })
    child.once('exit', (code) => look(code ?? -1))
  })
}

function end(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve()
  return new Promise((resolve) => {
    child.once('exit', () => resolve())
    child.kill(signal)
  })
}

const total = async (url: string | null, shelf: string) => (await (await fetch(`${url}/api/${shelf}`)).json()).total
const put = (url: string | null, name: string) => {
  const printer = { name, feed: 'nozzles', loads: 2, nozzleMm: 0.4, bedMm: [220, 220], heightMm: 220, wallMmS: 60, fillMmS: 80, standMmS: 70, interfaceMmS: 40, firstLayerMmS: 25, travelMmS: 150, accelMmS2: 2000, cornerMmS: 8, retractS: 0.1, swapS: 8, minLayerS: 6, purgeMm3S: 8 } // prettier-ignore
  return fetch(`${url}/api/printers/${crypto.randomUUID()}`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(printer) })
}

test('starts empty when asked, keeps the data over an orderly end, a killed start, a killed database and a stale lock', async () => {
  const first = await start(['--empty'])
  expect(await total(first.url, 'printers')).toBe(0)
  expect((await put(first.url, 'Kept')).status).toBe(201)
  // A second start on the same data points to the first.
  const second = await start()
  expect(second.said).toContain('already running')
  expect(second.url).toBe(first.url)
  await end(first.child, 'SIGINT')
  expect(existsSync(join(folder, 'running.json'))).toBe(false)

  const again = await start(['--empty'])
  expect(await total(again.url, 'printers')).toBe(1)
  await end(again.child, 'SIGKILL')

  const afterKill = await start(['--empty'])
  expect(await total(afterKill.url, 'printers')).toBe(1)
  // The database dies without a word, and its lock file names a process that is somebody else.
  const lock = [join(folder, 'cluster/data/postmaster.pid'), join(folder, 'data/postmaster.pid')].find(existsSync)!
  const lines = readFileSync(lock, 'utf8').split('\n')
  await end(afterKill.child, 'SIGKILL')
  process.kill(Number(lines[0]), 'SIGKILL')
  await expect.poll(() => existsSync(`/proc/${lines[0]}`)).toBe(false)
  writeFileSync(lock, [String(process.pid), ...lines.slice(1)].join('\n'))

  const last = await start(['--empty'])
  expect(await total(last.url, 'printers')).toBe(1)
  await end(last.child, 'SIGTERM')
})

test('DATABASE_URL and PORT are honoured; what is wrong with them is said in a sentence', async () => {
  const cluster = process.env.TEST_DATABASE_URL!
  const mine = await start(['--empty'], { DATABASE_URL: cluster })
  expect(mine.url).not.toBeNull()
  expect(existsSync(join(folder, 'cluster'))).toBe(false)
  const port = new URL(mine.url!).port
  rmSync(join(folder, 'running.json'))
  const taken = await start([], { DATABASE_URL: cluster, PORT: port })
  expect(taken.said).toContain(`Port ${port} is taken`)
  await end(mine.child, 'SIGTERM')
  const wrong = await start(['--fast'])
  expect(wrong).toMatchObject({ code: 1, said: expect.stringContaining('knows --empty only, not --fast') })
})
