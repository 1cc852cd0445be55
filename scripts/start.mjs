// npm start: sets up whatever is missing, serves, prints one address. --empty starts without demo data.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuild } from './setup/build.mjs'
import { startCluster } from './setup/cluster.mjs'
import { ensurePackages } from './setup/packages.mjs'
import { dataFolder } from './setup/paths.mjs'
import { freePort } from './setup/ports.mjs'
import { runMain, say, SetupError } from './setup/say.mjs'
import { startServer } from './setup/server.mjs'

const USUAL_PORT = 4780

await runMain(async () => {
  const unknown = process.argv.slice(2).filter((word) => word !== '--empty')
  if (unknown.length > 0) throw new SetupError(`npm start knows --empty only, not ${unknown.join(' ')}.`)
  const folder = dataFolder()
  mkdirSync(folder, { recursive: true })
  const runFile = join(folder, 'running.json')
  const other = await alreadyRunning(runFile)
  if (other) return say(`Tender Bridge is already running: ${other}`)

  ensurePackages()
  ensureBuild()
  const cluster = process.env.DATABASE_URL ? { url: process.env.DATABASE_URL, stop: () => undefined } : await startCluster(folder)
  let stopping = false
  const stop = (code) => {
    if (stopping) return
    stopping = true
    rmSync(runFile, { force: true })
    cluster.stop()
    process.exit(code)
  }
  let running
  // A signal during set-up must not leave the database behind either.
  const onSignal = () => {
    if (!running) return stop(0)
    running.child.kill('SIGTERM')
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, onSignal)
  try {
    const port = process.env.PORT ? Number(process.env.PORT) : await freePort(USUAL_PORT)
    running = await startServer({ databaseUrl: cluster.url, port, demo: !process.argv.includes('--empty') })
  } catch (error) {
    cluster.stop()
    throw error
  }
  const url = `http://127.0.0.1:${running.port}`
  writeFileSync(runFile, JSON.stringify({ pid: process.pid, url }))
  say(`Tender Bridge: ${url}`)
  const code = await running.ended
  stop(code === 0 || code === null ? 0 : 1)
})

/** Address of a running Tender Bridge on the same data; a file left by one that was killed does not count. */
async function alreadyRunning(runFile) {
  if (!existsSync(runFile)) return null
  try {
    const { pid, url } = JSON.parse(readFileSync(runFile, 'utf8'))
    process.kill(pid, 0)
    const answer = await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(2000) })
    return answer.ok ? url : null
  } catch {
    return null
  }
}
