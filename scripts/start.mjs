// npm start: sets up whatever is missing, serves, prints one address. --empty starts without demo data,
// --share serves the local
// network behind a code as well.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuild } from './setup/build.mjs'
import { startCluster } from './setup/cluster.mjs'
import { takeFolder } from './setup/owner.mjs'
import { ensurePackages } from './setup/packages.mjs'
import { dataFolder } from './setup/paths.mjs'
import { askedPort, freePort } from './setup/ports.mjs'
import { runMain, say, SetupError } from './setup/say.mjs'
import { standInPorts, standInsText, startStandIns } from './setup/standIns.mjs'
import { startServer } from './setup/server.mjs'

const USUAL_PORT = 4780
/** How often it is looked whether the database still lives. */
const LOOK_MS = 1500
const STAND_INS_AFTER_MS = 6000
/** Another start may be setting things up: it is given this long to say where it serves. */
const PATIENCE_MS = 180_000

await runMain(async () => {
  const unknown = process.argv.slice(2).filter((word) => !['--empty', '--share'].includes(word))
  if (unknown.length > 0)
    throw new SetupError(`npm start knows --empty and --share only, not ${unknown.join(' ')}.`)
  const share = process.argv.includes('--share')
  const folder = dataFolder()
  try {
    mkdirSync(folder, { recursive: true })
  } catch (error) {
    throw new SetupError(
      `The folder ${folder} cannot be made (${error.code}). Set TENDER_DATA_DIR to another one.`,
    )
  }
  const runFile = join(folder, 'running.json')
  const giveBack = takeFolder(folder)
  if (!giveBack) return say(await otherStart(runFile, folder))

  let cluster = { url: process.env.DATABASE_URL, stop: () => undefined, revive: async () => false }
  let ports = {}
  let standIns = { stop: () => undefined }
  let running = null
  let stopping = false
  const stop = (code) => {
    if (stopping) return
    stopping = true
    rmSync(runFile, { force: true })
    standIns.stop()
    cluster.stop()
    giveBack()
    process.exit(code)
  }
  // A signal during set-up must not leave the database behind either.
  const onSignal = () => (running ? running.child.kill('SIGTERM') : stop(0))
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, onSignal)
  try {
    // What can be wrong at once is said at once, before anything is installed.
    const port = process.env.PORT ? await askedPort(process.env.PORT) : await freePort(USUAL_PORT)
    ensurePackages()
    await ensureBuild()
    if (!process.env.DATABASE_URL) cluster = await startCluster(folder)
    const demo = !process.argv.includes('--empty')
    if (demo) ports = await standInPorts()
    running = await startServer({
      databaseUrl: cluster.url,
      port,
      demo,
      standIns: standInsText(ports),
      printsFolder: join(folder, 'prints'),
      copiesFolder: join(folder, 'copies'),
      openings: true,
      share,
    })
  } catch (error) {
    cluster.stop()
    giveBack()
    throw error
  }
  const url = `http://127.0.0.1:${running.port}`
  writeFileSync(runFile, JSON.stringify({ pid: process.pid, url }))
  say(`Tender Bridge: ${url}`)
  if (share) say(await sharedAs(url))
  // Nobody needs them at once: the first view comes first.
  setTimeout(() => {
    if (stopping) return
    standIns = startStandIns(ports)
    standIns.ready.catch((error) => say(error.message))
  }, STAND_INS_AFTER_MS).unref()
  let looking = false
  setInterval(async () => {
    if (looking || stopping) return
    looking = true
    if (await cluster.revive()) say('The database had stopped; it runs again.')
    looking = false
  }, LOOK_MS).unref()
  const code = await running.ended
  stop(code === 0 || code === null ? 0 : 1)
})

/** What another start on the same folder does, once that can be said. */
async function otherStart(runFile, folder) {
  const until = Date.now() + PATIENCE_MS
  while (Date.now() < until) {
    const url = urlIn(runFile)
    if (url) {
      const state = await healthOf(url)
      if (state === 'well') return `Tender Bridge is already running: ${url}`
      if (state === 'ill')
        return `Tender Bridge is already running at ${url}, but its database does not answer just now. It is started again by itself; if that lasts, stop the running one and start anew.`
    }
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
  throw new SetupError(
    `Another start is at work in ${folder} and has not come up. Stop it first, or set TENDER_DATA_DIR to another folder.`,
  )
}

/** Where others in the local network come in, and by which code. */
async function sharedAs(url) {
  const { addresses, code } = await (await fetch(`${url}/api/sharing`)).json()
  return addresses.length > 0
    ? `Shared with the local network at ${addresses.join(' and ')}, by the code ${code}; the bench shows it anew when that runs out.`
    : 'This machine has no address in a local network just now; the bench shows one as soon as it has.'
}

function urlIn(runFile) {
  try {
    return existsSync(runFile) ? JSON.parse(readFileSync(runFile, 'utf8')).url : null
  } catch {
    return null
  }
}

async function healthOf(url) {
  try {
    return (await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(4000) })).ok ? 'well' : 'ill'
  } catch {
    return 'silent'
  }
}
