import { spawn, type ChildProcess } from 'node:child_process'
import { WORKER } from '../places'

const PAUSE_MS = 1000
/**
 * Keeps worker processes going once there is work: a bench where nobody searches needs none. A worker that
 * ends without having been asked to is replaced.
 */
export function superviseWorkers(
  databaseUrl: string,
  count: number,
  onError: (error: unknown) => void,
): { ensure(): void; stop(): void } {
  const children = new Set<ChildProcess>()
  let stopping = false
  const start = () => {
    const child = spawn(process.execPath, WORKER, {
      env: { ...process.env, DATABASE_URL: databaseUrl, TENDER_FOLLOWS: 'stdin' },
      stdio: ['pipe', 'ignore', 'inherit'],
    })
    children.add(child)
    child.on('error', onError)
    child.once('exit', () => {
      children.delete(child)
      if (!stopping) setTimeout(() => !stopping && start(), PAUSE_MS).unref()
    })
  }
  let begun = false
  return {
    ensure() {
      if (begun || stopping) return
      begun = true
      for (let i = 0; i < count; i++) start()
    },
    stop() {
      stopping = true
      for (const child of children) child.kill('SIGTERM')
    },
  }
}
