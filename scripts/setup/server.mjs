// Tender Bridge's own server as a child process that goes when we go.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'
import { SetupError } from './say.mjs'

/** @returns the port it listens on, the process, and a promise of its end */
export function startServer({ databaseUrl, port, demo, logLevel = 'warn' }) {
  const env = { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port), TENDER_DEMO: demo ? 'yes' : 'no', TENDER_FOLLOWS: 'stdin', LOG_LEVEL: logLevel, NODE_ENV: 'production' }
  const child = spawn(process.execPath, ['--import', 'tsx', join(ROOT, 'server/src/main.ts')], { cwd: ROOT, env, stdio: ['pipe', 'pipe', 'inherit'] })
  const ended = new Promise((resolve) => child.once('exit', resolve))
  return new Promise((resolve, reject) => {
    let text = ''
    child.stdout.on('data', (chunk) => {
      text += chunk
      const line = /listening (\d+)/.exec(text)
      if (line) resolve({ port: Number(line[1]), child, ended })
    })
    void ended.then((code) => reject(new SetupError(`The server ended before it was ready (exit ${code}).`)))
  })
}
