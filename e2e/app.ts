import { randomUUID } from 'node:crypto'
import { spawn } from 'node:child_process'
import { rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import AxeBuilder from '@axe-core/playwright'
import { test as base, expect, type Page, type Request } from '@playwright/test'
import { newDocument } from '@tender/core/decide'
import { writeStl, type Mesh } from '@tender/core/mesh'
import { table } from '@tender/core/testing'
import pg from 'pg'
import { program } from '../scripts/setup/programs.mjs'
import { standInPorts, standInsText, startStandIns } from '../scripts/setup/standIns.mjs'

const ROOT = join(import.meta.dirname, '..')

export type App = {
  readonly url: string
  readonly stop: () => Promise<void>
  /** @param openings whether plans are worked out ahead this time */
  readonly restart: (openings?: 'yes') => Promise<void>
  readonly idOf: (shelf: string, name: string) => Promise<string>
}

type Server = { readonly port: number; readonly stop: () => Promise<void> }

const main = program('server')

/** The real server on a database. */
async function serve(
  databaseUrl: URL,
  demo: boolean,
  { port = 0, ports = {}, openings = 'no' }: { port?: number; ports?: object; openings?: 'yes' | 'no' } = {},
): Promise<Server> {
  const file = await main
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['--enable-source-maps', file], {
      cwd: ROOT,
      stdio: ['pipe', 'pipe', 'inherit'],
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl.href,
        PORT: String(port),
        TENDER_DEMO: demo ? 'yes' : 'no',
        TENDER_FOLLOWS: 'stdin',
        TENDER_STAND_INS: standInsText(ports),
        TENDER_OPENINGS: openings,
        TENDER_PRINTS_DIR: printsOf(databaseUrl),
        NODE_ENV: 'production',
      },
    })
    const ended = new Promise<void>((done) => child.once('exit', () => done()))
    child.stdout.on('data', (chunk) => {
      const line = /listening (\d+)/.exec(String(chunk))
      if (line) resolve({ port: Number(line[1]), stop: async () => (child.kill('SIGTERM'), ended) })
    })
    void ended.then(() => reject(new Error('The server ended before it was ready.')))
  })
}

const printsOf = (databaseUrl: URL) => join(tmpdir(), databaseUrl.pathname.slice(1))

/** Filled by a first start of the server, and copied from then on: plans are worked out for it. */
const DEMO_DATABASE = 'e2e_demo'

async function ensureDemo(admin: pg.Client, cluster: string): Promise<void> {
  // Whoever comes second waits.
  await admin.query('select pg_advisory_lock(1)')
  const { rowCount } = await admin.query('select from pg_database where datname = $1', [DEMO_DATABASE])
  if (rowCount === 0) {
    await admin.query(`create database ${DEMO_DATABASE}`)
    const first = await serve(databaseOf(cluster, DEMO_DATABASE), true)
    await first.stop()
  }
  await admin.query('select pg_advisory_unlock(1)')
}

function databaseOf(cluster: string, name: string): URL {
  const url = new URL(cluster)
  url.pathname = `/${name}`
  return url
}

/** The real server on a database of its own in the cluster of the test command. */
async function startApp(
  demo: boolean,
  withStandIns = false,
): Promise<App & { discard: () => Promise<void> }> {
  const ports = withStandIns ? await standInPorts() : {}
  const standIns = startStandIns(ports)
  await standIns.ready
  const cluster = process.env.TEST_DATABASE_URL
  if (!cluster) throw new Error('These tests need TEST_DATABASE_URL; npm test sets it.')
  const name = `e2e_${randomUUID().replaceAll('-', '')}`
  const admin = new pg.Client({ connectionString: cluster })
  await admin.connect()
  if (demo) await ensureDemo(admin, cluster)
  await admin.query(`create database ${name} ${demo ? `template ${DEMO_DATABASE}` : ''}`)
  const databaseUrl = databaseOf(cluster, name)
  let server = await serve(databaseUrl, demo, { ports })
  const url = `http://127.0.0.1:${server.port}`
  return {
    url,
    stop: () => server.stop(),
    restart: async (openings) => {
      server = await serve(databaseUrl, demo, { port: server.port, ports, openings })
    },
    idOf: async (shelf, wanted) => {
      const { items } = (await (await fetch(`${url}/api/${shelf}?limit=500`)).json()) as {
        items: { id: string; name?: string; document?: { name: string } }[]
      }
      const found = items.find((item) => (item.name ?? item.document?.name) === wanted)
      if (!found) throw new Error(`There is no "${wanted}" among the ${shelf}.`)
      return found.id
    },
    discard: async () => {
      await server.stop()
      standIns.stop()
      rmSync(printsOf(databaseUrl), { recursive: true, force: true })
      await admin.query(`drop database ${name} with (force)`)
      await admin.end()
    },
  }
}

/**
 * `demo` has the weather-station workshop in it and is shared by whatever tests come one after the other,
 * `rehearsed` the stand-ins beside it; `untouched` is the workshop for one test alone, whose answers what
 * others read would move, and `empty` is new for every test.
 */
export const test = base.extend<{ empty: App; untouched: App; quiet: void }, { demo: App; rehearsed: App }>({
  // Playwright reads from the pattern which fixtures are wanted: none.
  // oxlint-disable-next-line no-empty-pattern
  empty: async ({}, use) => {
    const app = await startApp(false)
    await use(app)
    await app.discard()
  },
  // oxlint-disable-next-line no-empty-pattern
  untouched: async ({}, use) => {
    const app = await startApp(true)
    await use(app)
    await app.discard()
  },
  demo: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const app = await startApp(true)
      await use(app)
      await app.discard()
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  rehearsed: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const app = await startApp(true, true)
      await use(app)
      await app.discard()
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  /** No view may throw or try what its policy forbids, whatever a test does. */
  quiet: [
    async ({ page }, use) => {
      const errors: string[] = []
      page.on('pageerror', (error) => errors.push(error.message))
      await page.addInitScript(() =>
        addEventListener('securitypolicyviolation', ({ violatedDirective, blockedURI }) => {
          throw new Error(`${violatedDirective} forbids ${blockedURI}`)
        }),
      )
      await use()
      expect(errors).toEqual([])
    },
    { auto: true },
  ],
})
export { expect }

/** Axe finds nothing, whatever is shown now. */
export async function expectAccessible(page: Page): Promise<void> {
  expect(await violations(page)).toEqual([])
}

/** What axe finds, a line each; by all its rules, or by some. */
export async function violations(page: Page, rules?: readonly string[]): Promise<string[]> {
  // In one page: gathering from frames, of which there are none, would open a second one for every call.
  // What passes is not asked for: to name every element of it takes longer than to look at it.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] })
  const found = (await (rules ? axe.withRules([...rules]) : axe).analyze()).violations
  return found.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`)
}

/** Waits until the plan's numbers are those of the values shown. */
export async function settled(page: Page): Promise<void> {
  await expect(page.getByRole('button', { name: 'Take to printer' })).toBeEnabled({ timeout: 180_000 })
}

/** Opens a choice and takes an option of it. */
export async function choose(page: Page, label: string | RegExp, option: string | RegExp): Promise<void> {
  // While a dialog is open nothing else can be chosen in, though what lies behind it is still in the page.
  const dialog = page.getByRole('dialog')
  const where = (await dialog.count()) > 0 ? dialog : page
  await where.getByRole('button', { name: label }).click()
  await page.getByRole('option', { name: option }).click()
}

/**
 * Waits until changes have been saved and none is on its way: a change is sent within half a second after it.
 */
export function savesOf(page: Page): () => Promise<void> {
  let last = Date.now()
  let under = 0
  const counts = (by: number) => (request: Request) => {
    if (request.method() !== 'PUT') return
    under += by
    last = Date.now()
  }
  page.on('request', counts(1))
  page.on('requestfinished', counts(-1))
  page.on('requestfailed', counts(-1))
  return async () => {
    const asked = Date.now()
    await expect.poll(() => under === 0 && Date.now() - Math.max(last, asked) > 2000).toBe(true)
  }
}

/**
 * A plan of a small part, which is worked out in a moment; gives its identity.
 * @param of the plan that it decides as, and knows as much as; a new one by default
 */
export async function aSmallPlan(
  url: string,
  name: string,
  mesh: Mesh = table,
  of?: string,
): Promise<string> {
  const [part, plan] = [randomUUID(), randomUUID()]
  const put = async (path: string, body: BodyInit, type: string) => {
    const answer = await fetch(`${url}/api/${path}`, {
      method: 'PUT',
      headers: { 'Content-Type': type },
      body,
    })
    if (!answer.ok) throw new Error(await answer.text())
  }
  const file = `parts/${part}/file?name=${encodeURIComponent(name)}&fileName=table.stl`
  await put(file, new Uint8Array(writeStl(mesh)), 'application/octet-stream')
  const document = of
    ? { ...(await (await fetch(`${url}/api/plans/${of}`)).json()).document, name }
    : newDocument({ name })
  await put(`plans/${plan}`, JSON.stringify({ partId: part, document, figures: null }), 'application/json')
  return plan
}
