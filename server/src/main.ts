import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { fileURLToPath } from 'node:url'
import { pino } from 'pino'
import { z } from 'zod'
import { createApp } from './app'
import { seedDemo } from './demo/seedDemo'
import { openQueue } from './searches/queue'
import { anyWorking } from './searches/repo'
import { superviseWorkers } from './searches/supervise'
import { openDatabase } from './storage/database'

const Environment = z.object({
  DATABASE_URL: z.string().min(1),
  PORT: z.coerce.number().int().min(0).max(65535).default(0),
  TENDER_DEMO: z.enum(['yes', 'no']).default('yes'),
  TENDER_FOLLOWS: z.enum(['stdin', 'nothing']).default('nothing'),
  /** Worker processes beside the server; more may run elsewhere. */
  TENDER_WORKERS: z.coerce.number().int().min(0).max(64).default(1),
  LOG_LEVEL: z.string().default('warn'),
})

const env = Environment.parse(process.env)
const log = pino({ level: env.LOG_LEVEL }, pino.destination(2))
const { db, pool, close } = await openDatabase(env.DATABASE_URL)
const queue = openQueue(env.DATABASE_URL, (error) => log.error(error), { onSend: () => workers.ensure() })
if (env.TENDER_DEMO === 'yes') await seedDemo(db)
// Not app.listen: Express calls its callback on failure too.
const server = createServer(createApp({ db, pool, queue, log, webFolder: fileURLToPath(new URL('../../web/dist', import.meta.url)) }))
server.on('error', (error: NodeJS.ErrnoException) => {
  process.stderr.write(error.code === 'EADDRINUSE' ? `Port ${env.PORT} is taken; set PORT to another one.\n` : `${error.message}\n`)
  process.exit(1)
})
server.listen(env.PORT, '127.0.0.1', () => {
  // The one line that the start script waits for.
  process.stdout.write(`listening ${(server.address() as AddressInfo).port}\n`)
})

const workers = superviseWorkers(env.DATABASE_URL, queue, env.TENDER_WORKERS, (error) => log.error(error))
// A search that the last stop left unfinished goes on.
if (await anyWorking(db)) workers.ensure()

/** Time that what is under way has to end; then its connection is cut. */
const LAST_ANSWERS_MS = 1500

let stopping = false
function stop(): void {
  if (stopping) return
  stopping = true
  workers.stop()
  server.close(() => void Promise.all([queue.close().catch(() => undefined), close()]).then(() => process.exit(0)))
  setTimeout(() => server.closeAllConnections(), LAST_ANSWERS_MS).unref()
}
process.on('SIGINT', stop)
process.on('SIGTERM', stop)
// Started by the start script, the server goes when it goes, however that ends.
if (env.TENDER_FOLLOWS === 'stdin') process.stdin.on('end', stop).resume()
