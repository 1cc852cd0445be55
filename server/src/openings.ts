// A process beside the server: works out plans that nobody has worked out as they stand, so that they open at
// once, and ends. It gives way to whatever else the machine has to do.
import { readFile } from 'node:fs/promises'
import { constants, setPriority } from 'node:os'
import { setTimeout } from 'node:timers/promises'
import { pino } from 'pino'
import { keepOpenings } from './kept/openings'
import { PLANNER_VERSION_FILE } from './places'
import { withoutValues } from './problem'
import { openDatabase } from './storage/database'

setPriority(constants.priority.PRIORITY_LOW)
// Whoever started it may be gone before it is done.
process.stdin.on('end', () => process.exit(0)).resume()

/** Seconds that the interface may be away: another start of the same program is building it. */
const PATIENCE_S = 60

async function versionOfInterface(): Promise<string> {
  for (let s = 0; ; s++)
    try {
      return await readFile(PLANNER_VERSION_FILE, 'utf8')
    } catch (error) {
      if (s === PATIENCE_S) throw error
      await setTimeout(1000)
    }
}

try {
  const version = await versionOfInterface()
  const { db } = await openDatabase(process.env.DATABASE_URL ?? '')
  await keepOpenings(db, version)
  process.exit(0)
} catch (error) {
  // Plans open all the same, only later.
  const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination({ dest: 2, sync: true }))
  log.error({ failure: withoutValues(error) }, 'Plans could not be worked out ahead')
  process.exit(1)
}
