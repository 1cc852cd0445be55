// Tender Bridge's own server as a child process that goes when we go.
import { spawn } from 'node:child_process'
import { ROOT } from './paths.mjs'
import { program } from './programs.mjs'
import { SetupError } from './say.mjs'

/** Answers are short-lived garbage: with room for more of it, less is moved about. */
const YOUNG_SPACE = '--max-semi-space-size=32'

/** @returns the port it listens on, the process, and a promise of its end */
export async function startServer({
  databaseUrl,
  port,
  demo,
  copiesFolder = '',
  share = false,
  printsFolder = '',
  standIns = '',
  openings = false,
  logLevel = 'warn',
}) {
  const env = {
    ...process.env,
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    TENDER_DEMO: demo ? 'yes' : 'no',
    TENDER_FOLLOWS: 'stdin',
    LOG_LEVEL: logLevel,
    TENDER_SHARE: share ? 'yes' : 'no',
    TENDER_STAND_INS: standIns,
    TENDER_OPENINGS: openings ? 'yes' : 'no',
    ...(printsFolder && { TENDER_PRINTS_DIR: printsFolder }),
    ...(copiesFolder && { TENDER_COPIES_DIR: copiesFolder }),
    NODE_ENV: 'production',
  }
  const main = await program('server')
  const child = spawn(process.execPath, [YOUNG_SPACE, '--enable-source-maps', main], {
    cwd: ROOT,
    env,
    stdio: ['pipe', 'pipe', 'inherit'],
  })
  const ended = new Promise((resolve) => child.once('exit', resolve))
  return new Promise((resolve, reject) => {
    let text = ''
    child.stdout.on('data', (chunk) => {
      text += chunk
      const line = /listening (\d+)/.exec(text)
      if (line) resolve({ port: Number(line[1]), child, ended })
    })
    // With 1 it has said why itself.
    void ended.then((code) =>
      reject(new SetupError(code === 1 ? '' : `The server ended before it was ready (exit ${code}).`)),
    )
  })
}
