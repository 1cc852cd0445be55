// A worker process: does batches of jobs until it is told to stop. Any number may run, on any machine that
// reaches the database.
import { pino } from 'pino'
import { z } from 'zod'
import { giveUp } from './giveUp'
import { KINDS } from './jobs/kinds'
import { jobRepo } from './jobs/repo'
import { runWorker } from './jobs/worker'
import { meshStore } from './parts/meshes'
import { partShelf } from './parts/repo'
import { withoutValues } from './problem'
import { openDatabase } from './storage/database'
import { startSentence } from './storage/startSentence'

const Environment = z.object({
  DATABASE_URL: z.string({ error: 'it says where the server’s database is' }).min(1),
  TENDER_FOLLOWS: z.enum(['stdin', 'nothing']).default('nothing'),
  LOG_LEVEL: z.string().default('warn'),
})

const read = Environment.safeParse(process.env)
if (!read.success)
  giveUp(`${String(read.error.issues[0].path[0])} is not right: ${read.error.issues[0].message}.`)
const env = read.data
const log = pino({ level: env.LOG_LEVEL }, pino.destination(2))
const { db, pool, close } = await openDatabase(env.DATABASE_URL).catch((error: unknown) => {
  const sentence = startSentence(error)
  if (sentence === null) throw error
  return giveUp(sentence)
})

const stopped = new AbortController()
process.on('SIGINT', () => stopped.abort())
process.on('SIGTERM', () => stopped.abort())
// A batch under way is not waited for: another worker takes it up as soon as this one's connection is gone.
const STOP_MS = 500
stopped.signal.addEventListener('abort', () => setTimeout(() => process.exit(0), STOP_MS))
if (env.TENDER_FOLLOWS === 'stdin') process.stdin.on('end', () => process.exit(0)).resume()

await runWorker(
  {
    pool,
    parts: partShelf(db),
    meshes: meshStore(db),
    jobs: jobRepo(db),
    kinds: KINDS,
    // Whoever started it may want to know what it is at.
    onBatch: ({ jobId, round, position }) => process.stdout.write(`at ${jobId} ${round} ${position}\n`),
    onError: (error) => log.error({ failure: withoutValues(error) }, 'A batch failed'),
  },
  stopped.signal,
)
await close()
process.exit(stopped.signal.aborted ? 0 : 1)
