import { spawn, type ChildProcess } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import type { BatchQueue } from './queue'

const PAUSE_MS = 1000

/**
 * Keeps worker processes going once there is work: a bench where nobody searches needs none. A worker says which job it is at; when it ends without having been asked to, that job is put back in line
 * at once and another worker takes its place.
 */
export function superviseWorkers(databaseUrl: string, queue: BatchQueue, count: number, onError: (error: unknown) => void): { ensure(): void; stop(): void } {
  const children = new Set<ChildProcess>()
  let stopping = false
  const start = () => {
    const child = spawn(process.execPath, ['--import', 'tsx', fileURLToPath(new URL('../worker.ts', import.meta.url))], {
      env: { ...process.env, DATABASE_URL: databaseUrl, TENDER_FOLLOWS: 'stdin' },
      stdio: ['pipe', 'pipe', 'inherit'],
    })
    children.add(child)
    let at: string | null = null
    let text = ''
    child.stdout!.on('data', (chunk) => {
      text += String(chunk)
      const lines = text.split('\n')
      text = lines.pop()!
      for (const line of lines) {
        const [word, id] = line.split(' ')
        if (word === 'at') at = id
        if (word === 'done') at = null
      }
    })
    child.on('error', onError)
    child.once('exit', () => {
      children.delete(child)
      if (stopping) return
      if (at) void queue.giveBack(at).catch(onError)
      setTimeout(() => !stopping && start(), PAUSE_MS).unref()
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
