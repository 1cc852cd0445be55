// npm run dev: the server and Vite with hot reloading, on the same data as npm start.
import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { startCluster } from './setup/cluster.mjs'
import { takeFolder } from './setup/owner.mjs'
import { ensurePackages } from './setup/packages.mjs'
import { dataFolder, ROOT } from './setup/paths.mjs'
import { freePort } from './setup/ports.mjs'
import { runMain, SetupError } from './setup/say.mjs'
import { startServer } from './setup/server.mjs'

await runMain(async () => {
  ensurePackages()
  mkdirSync(dataFolder(), { recursive: true })
  const giveBack = takeFolder(dataFolder())
  if (!giveBack) throw new SetupError('Tender Bridge runs on these data already; stop it first.')
  const cluster = await startCluster(dataFolder())
  const { port, child, ended } = await startServer({
    databaseUrl: cluster.url,
    port: await freePort(),
    demo: true,
    logLevel: 'info',
  })
  const vite = spawn('npx', ['vite'], {
    cwd: `${ROOT}/web`,
    stdio: 'inherit',
    env: { ...process.env, TENDER_API: `http://127.0.0.1:${port}` },
  })
  const stop = () => {
    vite.kill()
    child.kill('SIGTERM')
  }
  process.on('SIGINT', stop)
  process.on('SIGTERM', stop)
  await ended
  vite.kill()
  cluster.stop()
  giveBack()
  process.exit(0)
})
