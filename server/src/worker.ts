// A worker process: takes batches of pose searches from the queue until it is told to stop. Any number may run, on any machine that reaches the database.
import { pino } from 'pino'
import { z } from 'zod'
import { partShelf } from './parts/repo'
import { openQueue } from './searches/queue'
import { searchRepo } from './searches/repo'
import { batchWorker } from './searches/workBatch'
import { openDatabase } from './storage/database'

const env = z.object({ DATABASE_URL: z.string().min(1), TENDER_FOLLOWS: z.enum(['stdin', 'nothing']).default('nothing'), LOG_LEVEL: z.string().default('warn') }).parse(process.env)
const log = pino({ level: env.LOG_LEVEL }, pino.destination(2))
const { db, pool, close } = await openDatabase(env.DATABASE_URL)
const queue = openQueue(env.DATABASE_URL, (error) => log.error(error))
const work = batchWorker(partShelf(db), searchRepo(pool, db, queue))
await queue.work(async (batch, jobId) => {
  process.stdout.write(`at ${jobId}\n`)
  await work(batch)
  process.stdout.write(`done ${jobId}\n`)
})

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  await queue.close().catch(() => undefined)
  await close()
  process.exit(0)
}
process.on('SIGINT', () => void stop())
process.on('SIGTERM', () => void stop())
if (env.TENDER_FOLLOWS === 'stdin') process.stdin.on('end', () => process.exit(0)).resume()
