import { randomUUID } from 'node:crypto'
import { figuresOf, knownTrials, planFilament, type PlanInput } from '@tender/contract'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { demoParts, openMesh, writeStl } from '@tender/core/mesh'
import { createPlanner, DEFAULT_DECISIONS, startFromEvidence, type PlanDocument } from '@tender/core/plan'
import type { KnownTrial } from '@tender/core/trial'
import { sql } from 'drizzle-orm'
import { filament } from '../filaments/schema'
import { filamentShelf } from '../filaments/repo'
import { partShelf } from '../parts/repo'
import { part } from '../parts/schema'
import { fileInMemory } from '../parts/uploadedFile'
import { planShelf } from '../plans/repo'
import { printerShelf } from '../printers/repo'
import { printer } from '../printers/schema'
import type { Database } from '../storage/database'
import { trialShelf } from '../trials/repo'
import { DEMO_FILAMENTS, DEMO_PRINTERS } from './demoBench'
import { DEMO_TRIALS } from './demoTrials'

/** Fills an empty database with the weather-station workshop: all of it or nothing. A database that ever held anything is left alone. */
export async function seedDemo(db: Database): Promise<void> {
  const { rows } = await db.execute<{ used: boolean }>(sql`select exists (select 1 from ${printer}) or exists (select 1 from ${filament}) or exists (select 1 from ${part}) as used`)
  if (rows[0].used) return
  await db.transaction(async (tx) => {
    const ids = new Map<string, string>()
    const idOf = (name: string) => ids.get(name) ?? ids.set(name, randomUUID()).get(name)!
    const all = { search: '', limit: 100, offset: 0 }
    for (const fields of DEMO_PRINTERS) await printerShelf(tx).save(idOf(fields.name), null, fields)
    for (const fields of DEMO_FILAMENTS) await filamentShelf(tx).save(idOf(fields.name), null, fields)
    const trials = trialShelf(tx)
    for (const { input, part: partName, support, printer: printerName, readings } of DEMO_TRIALS) {
      const id = idOf(`trial ${input.name}`)
      await trials.save(id, null, { ...input, printerId: idOf(printerName), partFilamentId: idOf(partName), supportFilamentId: idOf(support) })
      for (const [step, reading] of readings) await trials.read(id, step, reading)
    }
    const parts = partShelf(tx)
    for (const { key, name, mesh } of demoParts(await solidEngine())) await parts.bringIn(idOf(key), name, `${key}.stl`, fileInMemory(Buffer.from(writeStl(mesh))))

    const known = knownTrials((await trials.list(all)).items)
    const filaments = (await filamentShelf(tx).list(all)).items.map((one) => planFilament(one, DEMO_PRINTERS[0]))
    for (const { name, key, interfaceFilament } of DEMO_PLANS) {
      const { meshSha256, pose } = await parts.one(idOf(key))
      const bytes: Buffer[] = []
      for await (const chunk of (await parts.meshBytes(meshSha256)).chunks) bytes.push(chunk)
      const document = documentOf(name, pose, interfaceFilament, known, filaments)
      const { summary } = await createPlanner(await polygonEngine()).plan(key, openMesh(Buffer.concat(bytes)).mesh, document)
      await planShelf(tx).save(randomUUID(), null, { partId: idOf(key), document: document as PlanInput['document'], figures: figuresOf(summary) })
    }
  })
}

const DEMO_PLANS = [
  { name: 'Chalk only', key: 'louvre-shield', interfaceFilament: 'Chalk PLA' },
  { name: 'Moss touch layers', key: 'louvre-shield', interfaceFilament: 'Moss PETG' },
] as const

function documentOf(name: string, pose: PlanDocument['pose'], interfaceFilament: string, trials: readonly KnownTrial[], bench: PlanDocument['filaments']): PlanDocument {
  const { loaded: _, ...printerFields } = DEMO_PRINTERS[0]
  const partFilament = 'Chalk PLA'
  const decisions = { ...DEFAULT_DECISIONS, partFilament, standFilament: partFilament, interfaceFilament, placement: 'anywhere' as const }
  const filaments = bench.filter((one) => one.name === partFilament || one.name === interfaceFilament)
  return startFromEvidence({ format: 'tender-plan', version: 1, name, pose, decisions, printer: printerFields, filaments, evidence: {}, zones: [], bodies: [] }, trials)
}
