import { randomUUID } from 'node:crypto'
import {
  figuresOf,
  knownTrials,
  PageQuery,
  planFilament,
  planPrinter,
  type PlanInput,
} from '@tender/contract'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { demoParts, unpackMesh, writeStl } from '@tender/core/mesh'
import { createPlanner, printedOf } from '@tender/core/plan'
import { newDocument, startFromEvidence } from '@tender/core/decide'
import { sql } from 'drizzle-orm'
import { filament } from '../filaments/schema'
import { filamentShelf } from '../filaments/repo'
import { wholeOf } from '../blobs/store'
import { meshStore } from '../parts/meshes'
import { partShelf } from '../parts/repo'
import { part } from '../parts/schema'
import { fileInMemory } from '../parts/uploadedFile'
import { planShelf } from '../plans/repo'
import { printerShelf } from '../printers/repo'
import { printer } from '../printers/schema'
import type { Database } from '../storage/database'
import { trialShelf } from '../trials/repo'
import { DEMO_FILAMENTS, DEMO_PRINTERS } from './demoBench'
import { DEMO_TAKE_OFFS, saveTakeOff } from './demoTakeOffs'
import { DEMO_TRIALS } from './demoTrials'

/** Two starts on one empty database: the second waits here, and finds it filled. */
const SEED_LOCK = 74_103_652

/**
 * Fills an empty database with the weather-station workshop: all of it or nothing. A database that ever held
 * anything is left alone.
 */
export async function seedDemo(db: Database): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local lock_timeout = 0`)
    await tx.execute(sql`set local statement_timeout = 0`)
    await tx.execute(sql`set local idle_in_transaction_session_timeout = 0`)
    await tx.execute(sql`select pg_advisory_xact_lock(${SEED_LOCK})`)
    const { rows } = await tx.execute<{ used: boolean }>(
      sql`select exists (select 1 from ${printer}) or exists (select 1 from ${filament}) or exists (select 1 from ${part}) as used`,
    )
    if (rows[0].used) return
    const ids = new Map<string, string>()
    const idOf = (name: string) => ids.get(name) ?? ids.set(name, randomUUID()).get(name)!
    const all = PageQuery.parse({ limit: 100 })
    for (const fields of DEMO_PRINTERS) await printerShelf(tx).save(idOf(fields.name), null, fields)
    for (const fields of DEMO_FILAMENTS) await filamentShelf(tx).save(idOf(fields.name), null, fields)
    const trials = trialShelf(tx)
    for (const { input, part: partName, support, printer: printerName, readings } of DEMO_TRIALS) {
      const id = idOf(`trial ${input.name}`)
      await trials.save(id, null, {
        ...input,
        printerId: idOf(printerName),
        partFilamentId: idOf(partName),
        supportFilamentId: idOf(support),
      })
      for (const [step, reading] of readings) await trials.writeReading(id, step, null, reading)
    }
    const parts = partShelf(tx)
    for (const { key, name, mesh } of demoParts(await solidEngine()))
      await parts.bringIn(idOf(key), name, `${key}.stl`, fileInMemory(Buffer.from(writeStl(mesh))))

    const known = knownTrials((await trials.list(all)).items)
    const workshop = await printerShelf(tx).one(idOf(DEMO_PRINTERS[0].name))
    const filaments = (await filamentShelf(tx).list(all)).items.map((one) => planFilament(one, workshop))
    // Plans of one part have its layers in common.
    const engine = await polygonEngine()
    const planner = createPlanner(engine)
    for (const { name, key, interfaceFilament } of DEMO_PLANS) {
      const { meshSha256, pose } = await parts.one(idOf(key))
      const { mesh } = unpackMesh(await wholeOf(await meshStore(tx).packed(meshSha256)))
      // The part's own filament first.
      const used = [...new Set(['Chalk PLA', interfaceFilament])].map((wanted) =>
        filaments.find((one) => one.name === wanted)!,
      )
      const document = startFromEvidence(
        newDocument({
          name,
          pose,
          printer: planPrinter(workshop),
          filaments: used,
          decisions: { placement: 'anywhere' },
        }),
        known,
      )
      const result = await planner.plan(key, mesh, document)
      const [partId, planId] = [idOf(key), idOf(`plan ${name}`)]
      await planShelf(tx).save(planId, null, {
        partId,
        document: document as PlanInput['document'],
        figures: figuresOf(result.summary),
      })
      const print = { partId, planId, document, printed: printedOf(document, result, engine) }
      for (const takeOff of DEMO_TAKE_OFFS.filter(({ plan }) => plan === name))
        await saveTakeOff(tx, takeOff, print)
    }
  })
}

const DEMO_PLANS = [
  { name: 'Chalk only', key: 'louvre-shield', interfaceFilament: 'Chalk PLA' },
  { name: 'Moss touch layers', key: 'louvre-shield', interfaceFilament: 'Moss PETG' },
] as const
