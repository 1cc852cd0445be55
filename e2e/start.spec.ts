import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PLAIN_PRINTER } from '@tender/core/bench'
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

/**
 * npm start as a person starts it, on data of its own; resolves with what it says once it is up or over, or
 * after some time.
 */
function start(
  args: string[] = [],
  env: Record<string, string> = {},
  withinMs: number | null = null,
  person: { uid?: number; gid?: number } = {},
): Promise<{ child: ChildProcess; said: string; url: string | null; code: number | null }> {
  const child = spawn(process.execPath, ['scripts/start.mjs', ...args], {
    cwd: ROOT,
    env: { ...process.env, HOME: folder, DATABASE_URL: '', PORT: '', ...env, TENDER_DATA_DIR: folder },
    ...person,
  })
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
    if (withinMs !== null) setTimeout(() => resolve({ child, said, url: null, code: null }), withinMs)
  })
}

function end(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve()
  return new Promise((resolve) => {
    child.once('exit', () => resolve())
    child.kill(signal)
  })
}

const total = async (url: string | null, shelf: string) =>
  (await (await fetch(`${url}/api/${shelf}`)).json()).total
const put = (url: string | null, name: string) => {
  const { id: _, ...plain } = PLAIN_PRINTER
  const printer = { ...plain, name }
  return fetch(`${url}/api/printers/${crypto.randomUUID()}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(printer),
  })
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
  const lock = [join(folder, 'cluster/data/postmaster.pid'), join(folder, 'data/postmaster.pid')].find(
    existsSync,
  )!
  const lines = readFileSync(lock, 'utf8').split('\n')
  await end(afterKill.child, 'SIGKILL')
  process.kill(Number(lines[0]), 'SIGKILL')
  await expect.poll(() => existsSync(`/proc/${lines[0]}`)).toBe(false)
  writeFileSync(lock, [String(process.pid), ...lines.slice(1)].join('\n'))

  const last = await start(['--empty'])
  expect(await total(last.url, 'printers')).toBe(1)
  await end(last.child, 'SIGTERM')
})

test('DATABASE_URL and PORT are honoured; what is wrong with them is said in one sentence, and nothing is left behind', async () => {
  const cluster = process.env.TEST_DATABASE_URL!
  const mine = await start(['--empty'], { DATABASE_URL: cluster })
  expect(mine.url).not.toBeNull()
  expect(existsSync(join(folder, 'cluster'))).toBe(false)
  await end(mine.child, 'SIGTERM')
  const holder = createServer()
  await new Promise<void>((resolve) => holder.listen(0, '127.0.0.1', resolve))
  const taken = (holder.address() as AddressInfo).port
  const nobody = new URL(cluster)
  nobody.username = 'nobody'
  const lost = new URL(cluster)
  lost.pathname = '/lost'
  for (const [args, env, sentence] of [
    [[], { PORT: String(taken) }, `Port ${taken} is taken; set PORT to another one.`],
    [[], { PORT: 'harbour' }, 'PORT is "harbour"; it must be a number from 1 to 65535, or 0 for any.'],
    [
      [],
      { DATABASE_URL: 'postgres://127.0.0.1:9/none' },
      'The database does not answer at the address in DATABASE_URL',
    ],
    [[], { DATABASE_URL: nobody.href }, 'The database does not let in the user of DATABASE_URL'],
    [[], { DATABASE_URL: lost.href }, 'DATABASE_URL names a database that is not there'],
    [[], { DATABASE_URL: 'my database' }, 'DATABASE_URL is not right: it is not an address of a database'],
    [['--fast'], {}, 'npm start knows --empty and --share only, not --fast.'],
  ] as const) {
    const wrong = await start([...args], env)
    expect([wrong.code, wrong.said.trim().split('\n').length]).toEqual([1, 1])
    expect(wrong.said).toContain(sentence)
    expect(existsSync(join(folder, 'owner.json'))).toBe(false)
  }
  holder.close()
})

test('a first start killed while it makes its files starts the next time, whatever state it left', async () => {
  for (const afterMs of [60, 250, 500, 900]) {
    const { child, url } = await start(['--empty'], {}, afterMs)
    expect(url).toBeNull()
    await end(child, 'SIGKILL')
  }
  // And once it has begun on its files, however long a start takes here to get that far.
  const home = join(folder, 'cluster')
  void start(['--empty'])
  await expect.poll(() => existsSync(join(folder, 'password')), { intervals: [20] }).toBe(true)
  await end(running.at(-1)!, 'SIGKILL')
  // As versions before left it: files that look complete, in their place, and are not.
  spawnSync('pkill', ['-9', '-f', home])
  // What was under way may write for a moment longer than the start that began it.
  await expect
    .poll(() => {
      try {
        for (const name of readdirSync(home)) rmSync(join(home, name), { recursive: true })
        return readdirSync(home)
      } catch {
        return ['still written']
      }
    })
    .toEqual([])
  spawnSync('runuser', ['-u', 'postgres', '--', 'mkdir', '-p', join(home, 'data/global')])
  for (const name of ['PG_VERSION', 'global/pg_control']) writeFileSync(join(home, 'data', name), '')
  rmSync(join(folder, 'password'))
  const healed = await start(['--empty'])
  expect(healed.url).not.toBeNull()
  expect(healed.said).toContain('made anew')
  expect((await put(healed.url, 'First')).status).toBe(201)
  await end(healed.child, 'SIGTERM')
  // The password alone is lost: the data are not.
  writeFileSync(join(folder, 'password'), '')
  const again = await start(['--empty'])
  expect(await total(again.url, 'printers')).toBe(1)
})

test('of two starts at once one owns the folder; a database that dies is started again; data of another PostgreSQL are left alone', async () => {
  const [a, b] = await Promise.all([start(['--empty']), start(['--empty'])])
  const [owner, other] = a.said.includes('already') ? [b, a] : [a, b]
  expect(other.said).toContain(`already running: ${owner.url}`)
  await expect.poll(() => other.child.exitCode).toBe(0)
  await put(owner.url, 'Kept')
  const data = [join(folder, 'cluster/data'), join(folder, 'data')].find(existsSync)!
  process.kill(Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL')
  await expect.poll(async () => (await fetch(`${owner.url}/api/health`)).status, { timeout: 5_000 }).toBe(503)
  await expect
    .poll(async () => (await fetch(`${owner.url}/api/health`)).status, { timeout: 20_000 })
    .toBe(200)
  expect(await total(owner.url, 'printers')).toBe(1)
  await end(owner.child, 'SIGTERM')
  writeFileSync(join(data, 'PG_VERSION'), '9.1\n')
  const wrong = await start(['--empty'])
  expect(wrong).toMatchObject({ code: 1, said: expect.stringContaining('were written by PostgreSQL 9.1') })
})

test('whoever starts first, sudo finds the same workshop, and somebody else is told whose it is', async () => {
  test.skip(process.getuid!() !== 0, 'only root may be two people')
  // Users that every Debian has: nobody, and games.
  const person = { uid: 65534, gid: 65534 }
  chownSync(folder, person.uid, person.gid)
  const mine = await start(['--empty'], {}, null, person)
  expect((await put(mine.url, 'Mine')).status).toBe(201)
  await end(mine.child, 'SIGINT')
  const sudo = await start(['--empty'])
  expect(await total(sudo.url, 'printers')).toBe(1)
  await end(sudo.child, 'SIGINT')
  const mineAgain = await start(['--empty'], {}, null, person)
  expect(await total(mineAgain.url, 'printers')).toBe(1)
  await end(mineAgain.child, 'SIGINT')
  chmodSync(folder, 0o777)
  const other = await start(['--empty'], {}, null, { uid: 5, gid: 60 })
  expect(other).toMatchObject({ code: 1, said: expect.stringMatching(/belongs to|cannot be read/) })
})
