// npm run screenshots: takes every picture of docs/screenshots from the demo data, in a throw-away database.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuild } from './setup/build.mjs'
import { CHROMIUM } from './setup/chromium.mjs'
import { throwAwayCluster } from './setup/cluster.mjs'
import { ensureChromium } from './setup/debian.mjs'
import { ensurePackages } from './setup/packages.mjs'
import { ROOT } from './setup/paths.mjs'
import { runMain, say } from './setup/say.mjs'
import { startServer } from './setup/server.mjs'
import { standInPorts, standInsText, startStandIns } from './setup/standIns.mjs'

const OUT = join(ROOT, 'docs/screenshots')

const planned = (page) =>
  page.locator('button:enabled', { hasText: 'Take to printer' }).waitFor({ timeout: 60_000 })
const drawn = (page) => page.locator('article img').nth(4).waitFor({ timeout: 60_000 })

/** Nothing on the page is being worked out any more. */
const idle = async (page) => {
  // Until a view has come, there is only a bare frame.
  await page.getByRole('heading', { level: 1 }).first().waitFor({ timeout: 60_000 })
  await page.waitForTimeout(800)
  while ((await page.locator('[aria-busy=true]').count()) > 0) await page.waitForTimeout(200)
}
const judged = (page) => page.getByText(/need holding/).waitFor({ timeout: 60_000 })
const searched = async (page) => {
  await page.getByRole('button', { name: 'Search', exact: true }).click()
  await page.getByText('The poses found stand below').waitFor({ timeout: 180_000 })
  await page.getByRole('region', { name: 'Poses found' }).locator('img').nth(3).waitFor({ timeout: 60_000 })
  await page
    .getByRole('region', { name: 'Poses found' })
    .evaluate((strip) => strip.scrollIntoView({ block: 'end' }))
}
const branching = async (page) => {
  await page.getByRole('button', { name: 'Kind of stands: straight' }).click()
  await page.getByRole('button', { name: /^branching/ }).click()
  await page.keyboard.press('Escape')
  await page.waitForTimeout(800)
  await planned(page)
  await page.waitForTimeout(3000)
}
const compared = async (page) => {
  await page.locator('td svg').nth(1).waitFor({ timeout: 60_000 })
  await page.waitForTimeout(2500)
}
const laidOut = (page) =>
  page.locator('button:enabled', { hasText: 'G-code of all' }).waitFor({ timeout: 120_000 })
const betterFound = async (page) => {
  await page.getByRole('button', { name: 'Search', exact: true }).click()
  await page.getByRole('button', { name: 'Search again' }).waitFor({ timeout: 240_000 })
}
const complained = async (page) => {
  await page.getByText('Gap of Chalk PLA on itself', { exact: true }).waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: 'will not come off' }).click()
}
const towered = async (page) => {
  await page.getByRole('button', { name: /^Printer: / }).click()
  await page.getByRole('button', { name: /^Workshop changer/ }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Where the rest is purged/ }).click()
  await page.getByRole('button', { name: /^into a tower/ }).click()
  await page.keyboard.press('Escape')
  await page.waitForTimeout(800)
  await planned(page)
  await page.waitForTimeout(2000)
}
const watched = async (page) => {
  await page.getByRole('button', { name: 'Take to printer' }).click()
  await page.getByRole('menuitem', { name: 'Print it from here' }).click()
  await page.getByRole('button', { name: /^Print / }).click()
  await page.getByRole('heading', { level: 1, name: 'On the printer' }).waitFor({ timeout: 60_000 })
  await page.getByText(/Printing height [2-9]\d of/).waitFor({ timeout: 120_000 })
}
/** The fits of a bench take some seconds. */
const paired = (page) => page.getByRole('grid').waitFor({ timeout: 60_000 })
const made = (page) => page.locator('img[alt^="The coupon as it lies"]').waitFor({ timeout: 60_000 })

/**
 * A shot is a name, an address (with {ids} filled in) what to wait for, and what to do before the shutter.
 */
const SHOTS = [
  { name: 'start', at: '/' },
  { name: 'bench', at: '/bench', size: [1280, 1250] },
  { name: 'pairings', at: '/pairings?part={Chalk PLA}&touching={Moss PETG}', ready: paired },
  { name: 'pairing', at: '/pairings/{Chalk PLA}/{Moss PETG}' },
  { name: 'trial-gap', at: '/trials/{Chalk on Chalk}?step=0:0.2' },
  { name: 'new-trial', at: '/trials/new/gap', ready: made },
  { name: 'parts', at: '/parts', ready: drawn },
  {
    name: 'part',
    at: '/parts/{Louvre shield plate}?tab=needs',
    ready: judged,
    act: (page) => page.getByRole('button', { name: 'from below' }).click(),
  },
  { name: 'part-poses', at: '/parts/{Vane pivot}', size: [1280, 1000], act: searched },
  { name: 'one-bed', at: '/parts/{Louvre shield plate}/bed', ready: laidOut },
  { name: 'plan', at: '/plans/{Moss touch layers}', ready: planned },
  {
    name: 'plan-card',
    at: '/plans/{Moss touch layers}',
    ready: planned,
    act: (page) => page.getByRole('button', { name: /^Upper gap/ }).click(),
  },
  { name: 'watch', at: '/plans/{Moss touch layers}', ready: planned, act: watched },
  { name: 'plan-space', at: '/plans/{Chalk only}?view=space', ready: planned, dark: true, act: branching },
  { name: 'side-by-side', at: '/parts/{Louvre shield plate}/plans', ready: compared },
  { name: 'better', at: '/plans/{Moss touch layers}/better', act: betterFound },
  {
    name: 'take-off',
    at: '/take-offs/{Louvre shield, first print}?contact=c3',
    size: [1280, 1000],
    act: complained,
  },
  {
    name: 'take-off-phone',
    at: '/take-offs/{Louvre shield with Moss}?contact=c4',
    size: [390, 844],
    dark: true,
  },
  // Last: it changes the plan that others show.
  {
    name: 'plan-layer',
    at: '/plans/{Moss touch layers}?view=layer&z=15.1&lines=1',
    ready: planned,
    act: towered,
  },
]

await runMain(async () => {
  ensurePackages()
  await ensureChromium()
  await ensureBuild()
  const wanted = process.argv.slice(2)
  const { chromium } = await import('@playwright/test')
  const cluster = await throwAwayCluster()
  const ports = await standInPorts()
  const standIns = startStandIns(ports)
  await standIns.ready
  const { port, child, ended } = await startServer({
    databaseUrl: cluster.url,
    port: 0,
    demo: true,
    standIns: standInsText(ports),
  })
  const base = `http://127.0.0.1:${port}`
  const browser = await chromium.launch(CHROMIUM)
  try {
    const ids = new Map()
    for (const shelf of ['filaments', 'trials', 'parts', 'plans', 'take-offs'])
      for (const item of (await (await fetch(`${base}/api/${shelf}?limit=500`)).json()).items)
        ids.set(item.name ?? item.document.name, item.id)
    mkdirSync(OUT, { recursive: true })
    for (const { name, at, size = [1280, 800], dark, wait = 700, ready, act } of SHOTS) {
      if (wanted.length > 0 && !wanted.includes(name)) continue
      const page = await browser.newPage({
        viewport: { width: size[0], height: size[1] },
        colorScheme: dark ? 'dark' : 'light',
        reducedMotion: 'reduce',
      })
      page.on('pageerror', (error) => say(`${name}: ${error.message}`))
      page.on('console', (message) => message.type() === 'error' && say(`${name}: ${message.text()}`))
      await page.goto(base + at.replace(/\{(.*?)\}/g, (_, key) => ids.get(key)))
      await ready?.(page)
      await idle(page)
      await page.waitForTimeout(wait)
      await act?.(page)
      // Cards work out what another way would cost before they are worth a picture.
      if (act) await page.waitForTimeout(2500)
      await page.screenshot({ path: join(OUT, `${name}.png`) })
      say(`${name}.png`)
      await page.close()
    }
  } finally {
    await browser.close()
    child.kill('SIGTERM')
    standIns.stop()
    await ended
    cluster.discard()
  }
})
