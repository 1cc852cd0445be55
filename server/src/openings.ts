// A process beside the server: works out plans that nobody has worked out as they stand, so that they open at
// once, and ends. It gives way to whatever else the machine has to do.
import { readFile } from 'node:fs/promises'
import { constants, setPriority } from 'node:os'
import { pino } from 'pino'
import { keepOpenings } from './kept/openings'
import { PLANNER_VERSION_FILE } from './places'
import { withoutValues } from './problem'
import { openDatabase } from './storage/database'

setPriority(constants.priority.PRIORITY_LOW)
// Whoever started it may be gone before it is done.
process.stdin.on('end', () => process.exit(0)).resume()

try {
  const version = await readFile(PLANNER_VERSION_FILE, 'utf8')
  const { db } = await openDatabase(process.env.DATABASE_URL ?? '')
  await keepOpenings(db, version)
  process.exit(0)
} catch (error) {
  // Plans open all the same, only later.
  const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination({ dest: 2, sync: true }))
  log.error({ failure: withoutValues(error) }, 'Plans could not be worked out ahead')
  process.exit(1)
}
