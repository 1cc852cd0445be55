import { spawnSync, type ChildProcess } from 'node:child_process'
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
// The set-up that npm start uses: a cluster that writes through to the disk, since what a crash loses is what
// is measured.
import { startCluster } from '../../setup/cluster.mjs'
import { freePort } from '../../setup/ports.mjs'
import { startServer } from '../../setup/server.mjs'

export type Workshop = {
  readonly url: string
  readonly databaseUrl: string
  /** Kills the server without a word, and starts it again on the same port. */
  restart(): Promise<void>
  /** Kills the database without a word, and starts it again. */
  killDatabase(): Promise<void>
  discard(): Promise<void>
}

/** Keeps a process on one core, where the system can do that. */
export const onCore = (core: number, pid: number): void =>
  void spawnSync('taskset', ['-pc', String(core), String(pid)])

/**
 * A server with the demo in it, on a database of its own; server and database share a core when one is given.
 */
export async function aWorkshop(core: number | null = null): Promise<Workshop> {
  const folder = mkdtempSync(join(tmpdir(), 'tender-bench-'))
  chmodSync(folder, 0o711)
  const ownCore = core === null ? null : 1 - core
  if (core !== null) onCore(core, process.pid)
  const cluster = await startCluster(folder)
  if (ownCore !== null) onCore(ownCore, process.pid)
  const port = await freePort()
  let child: ChildProcess
  const start = async () => {
    const running = await startServer({ databaseUrl: cluster.url, port, demo: true, logLevel: 'fatal' })
    child = running.child
    if (core !== null) onCore(core, child.pid!)
  }
  const end = (signal: NodeJS.Signals) =>
    new Promise<void>((resolve) => {
      child.once('exit', () => resolve())
      child.kill(signal)
    })
  await start()
  return {
    url: `http://127.0.0.1:${port}`,
    databaseUrl: cluster.url,
    async restart() {
      await end('SIGKILL')
      await start()
    },
    async killDatabase() {
      const data = ['cluster/data', 'data'].map((name) => join(folder, name, 'postmaster.pid'))
      const lock = data.find((path) => spawnSync('test', ['-f', path]).status === 0)!
      process.kill(Number(readFileSync(lock, 'utf8').split('\n')[0]), 'SIGKILL')
      while (!(await cluster.revive())) await new Promise((resolve) => setTimeout(resolve, 100))
    },
    async discard() {
      await end('SIGTERM')
      cluster.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
