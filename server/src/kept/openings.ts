import { createHash } from 'node:crypto'
import {
  asOfToday,
  keptQuestions,
  leanTakeOff,
  MOST_KEPT_BYTES,
  PageQuery,
  Plan,
  Printer,
  StoredFilament,
  StoredTakeOff,
  type Page,
} from '@tender/contract'
import { TenderError } from '@tender/core'
import type { PlanDocument } from '@tender/core/decide'
import { unpackMesh } from '@tender/core/mesh'
import { polygonEngine } from '@tender/core/node'
import { createPlanner, keptOutcomeOf } from '@tender/core/plan'
import { learntFrom } from '@tender/core/takeOff'
import { stringify } from 'devalue'
import type { z } from 'zod'
import { wholeOf } from '../blobs/store'
import { filamentShelf } from '../filaments/repo'
import { meshStore } from '../parts/meshes'
import { partShelf } from '../parts/repo'
import { planShelf } from '../plans/repo'
import { HttpProblem } from '../problem'
import { printerShelf } from '../printers/repo'
import type { Database } from '../storage/database'
import { takeOffShelf } from '../takeOffs/repo'
import { keptAnswers } from './repo'

/** So many plans, those touched last. */
const MOST_PLANS = 40
/** A larger part takes memory and time that are not ours to take unasked. */
const MOST_TRIANGLES = 400_000

/**
 * Works out, one after the other, the plans that nobody has worked out as they stand, so that they open at
 * once: after a planner of another version came, or where plans came by no browser.
 * @param version of the interface that will ask
 * @param onPlan is told the name of each that was worked out
 */
export async function keepOpenings(
  db: Database,
  version: string,
  onPlan: (name: string) => void = () => undefined,
): Promise<void> {
  const kept = keptAnswers(db)
  const [parts, meshes] = [partShelf(db), meshStore(db)]
  const printers = await everything(printerShelf(db), Printer)
  const filaments = await everything(filamentShelf(db), StoredFilament)
  const takeOffs = (await everything(takeOffShelf(db), StoredTakeOff)).map(leanTakeOff)
  const keyOf = (question: string) => createHash('sha256').update(`${version} ${question}`).digest('hex')
  const learnt = learntFrom(takeOffs)
  await kept.keep(keyOf(keptQuestions.learnt(takeOffs)), stringify(learnt), 'learnt')
  const engine = await polygonEngine()
  const { items } = await planShelf(db).list(PageQuery.parse({ order: '-touched', limit: MOST_PLANS }))
  for (const plan of items.map((item) => asSent(Plan, item))) {
    const document = asOfToday(plan.document as PlanDocument, printers, filaments, learnt)
    try {
      const { meshSha256, facts } = await parts.one(plan.partId)
      const key = keyOf(keptQuestions.plan(meshSha256, document))
      // Asked for, it is the last about this plan.
      if (facts.triangles > MOST_TRIANGLES || (await kept.answer(key, plan.id))) continue
      const { mesh } = unpackMesh(await wholeOf(await meshes.packed(meshSha256)))
      const result = await createPlanner(engine).plan(meshSha256, mesh, document, breathe)
      const answer = stringify(keptOutcomeOf(result, key))
      if (Buffer.byteLength(answer) <= MOST_KEPT_BYTES) await kept.keep(key, answer, plan.id)
      onPlan(plan.document.name)
    } catch (error) {
      // Whoever opens it is told what is wrong with it, or that its part is gone.
      if (!(error instanceof TenderError || error instanceof HttpProblem)) throw error
    }
  }
}

/** In between it is seen whether anybody is still there. */
const breathe = () => new Promise<void>((resolve) => setImmediate(resolve))

/** As an answer comes out of the browser's hands: what it is hashed by hangs on the order of its fields. */
const asSent = <T>(schema: z.ZodType<T>, item: unknown): T => schema.parse(JSON.parse(JSON.stringify(item)))

async function everything<T>(
  shelf: { list(query: PageQuery): Promise<Page<unknown>> },
  schema: z.ZodType<T>,
): Promise<T[]> {
  const found: T[] = []
  for (;;) {
    const { items, total } = await shelf.list(PageQuery.parse({ limit: 500, offset: found.length }))
    found.push(...items.map((item) => asSent(schema, item)))
    if (items.length === 0 || found.length >= total) return found
  }
}
