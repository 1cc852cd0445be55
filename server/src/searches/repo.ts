import { randomUUID } from 'node:crypto'
import type { PoseSearch, SearchInput } from '@tender/contract'
import { nextPoses, SEARCH_ROUNDS, shortlist, type Judgement } from '@tender/core/pose'
import { and, asc, desc, eq, sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/node-postgres'
import type { Pool } from 'pg'
import { notFound } from '../storage/shelf'
import type { Database } from '../storage/database'
import type { BatchJob, BatchQueue, SqlRunner } from './queue'
import { poseBatch, poseSearch, type BatchResults } from './schema'

/** Poses a worker judges in one go: a second or two of work. */
const BATCH_POSES = 8
/** Round 0 finds the poses; then the judging rounds; at last the best are planned for real, one a batch. */
export const PLAN_ROUND = SEARCH_ROUNDS + 1
const PLANNED = 8

export type SearchRepo = {
  start(partId: string, input: SearchInput): Promise<PoseSearch>
  one(id: string): Promise<PoseSearch>
  /** The newest search of a part; null when it was never searched. */
  newestOf(partId: string): Promise<PoseSearch | null>
  stop(id: string): Promise<void>
  batch(job: BatchJob): Promise<{ readonly input: SearchInput; readonly partId: string; readonly turns: (typeof poseBatch.$inferSelect)['turns'] } | null>
  /** Writes a batch down once, and moves the search on when it was the last of its round. */
  finish(job: BatchJob, results: BatchResults): Promise<void>
  fail(searchId: string, message: string): Promise<void>
}

export function searchRepo(pool: Pool, db: Database, queue: BatchQueue): SearchRepo {
  /** Rows and jobs together or not at all: a search never waits for a batch that nobody was told of. */
  async function together<T>(work: (tx: Database, within: SqlRunner) => Promise<T>): Promise<T> {
    const client = await pool.connect()
    try {
      await client.query('begin')
      const result = await work(drizzle(client) as unknown as Database, { executeSql: (text, values) => client.query(text, values) })
      await client.query('commit')
      return result
    } catch (error) {
      await client.query('rollback')
      throw error
    } finally {
      client.release()
    }
  }

  async function enqueue(tx: Database, within: SqlRunner, searchId: string, round: number, batches: (typeof poseBatch.$inferInsert)['turns'][]): Promise<void> {
    await tx.insert(poseBatch).values(batches.map((turns, position) => ({ searchId, round, position, turns })))
    await queue.send(batches.map((_, position) => ({ searchId, round, position })), within) // prettier-ignore
  }

  async function one(id: string): Promise<PoseSearch> {
    const [found] = await db.select().from(poseSearch).where(eq(poseSearch.id, id))
    if (!found) throw notFound()
    const batches = await db.select().from(poseBatch).where(eq(poseBatch.searchId, id)).orderBy(asc(poseBatch.round), asc(poseBatch.position))
    const finished = batches.filter((batch) => batch.round === found.round && batch.results !== null).length
    const inRound = Math.max(1, batches.filter((batch) => batch.round === found.round).length)
    const planned = batches.flatMap((batch) => batch.results?.planned ?? [])
    return {
      id,
      partId: found.partId,
      state: found.state,
      input: found.input,
      message: found.message,
      progress: found.state === 'done' ? 1 : shareOf(found.round, finished / inRound),
      judged: batches.reduce((sum, batch) => sum + (batch.results?.judged?.length ?? 0), 0),
      poses: planned,
    }
  }

  return {
    one,
    async newestOf(partId) {
      const [found] = await db.select({ id: poseSearch.id }).from(poseSearch).where(eq(poseSearch.partId, partId)).orderBy(desc(poseSearch.createdAt)).limit(1)
      return found ? one(found.id) : null
    },
    async start(partId, input) {
      const id = randomUUID()
      await together(async (tx, within) => {
        // An older search of the same part would only be in the way.
        await tx.update(poseSearch).set({ state: 'stopped' }).where(and(eq(poseSearch.partId, partId), eq(poseSearch.state, 'working'))) // prettier-ignore
        await tx.insert(poseSearch).values({ id, partId, state: 'working', input })
        await enqueue(tx, within, id, 0, [[]])
      })
      return one(id)
    },
    async stop(id) {
      const stopped = await db.update(poseSearch).set({ state: 'stopped' }).where(and(eq(poseSearch.id, id), eq(poseSearch.state, 'working'))).returning({ id: poseSearch.id }) // prettier-ignore
      if (stopped.length === 0) await one(id)
    },
    async fail(searchId, message) {
      await db.update(poseSearch).set({ state: 'failed', message }).where(and(eq(poseSearch.id, searchId), eq(poseSearch.state, 'working'))) // prettier-ignore
    },
    async batch({ searchId, round, position }) {
      const [found] = await db
        .select({ batch: poseBatch, search: poseSearch })
        .from(poseBatch)
        .innerJoin(poseSearch, eq(poseSearch.id, poseBatch.searchId))
        .where(and(eq(poseBatch.searchId, searchId), eq(poseBatch.round, round), eq(poseBatch.position, position)))
      if (!found || found.search.state !== 'working' || found.batch.results !== null) return null
      return { input: found.search.input, partId: found.search.partId, turns: found.batch.turns }
    },
    async finish({ searchId, round, position }, results) {
      await together(async (tx, within) => {
        // One at a time: of two workers that end together, one must see the other's results.
        const [search] = await tx.select().from(poseSearch).where(eq(poseSearch.id, searchId)).for('update')
        await tx
          .update(poseBatch)
          .set({ results })
          .where(and(eq(poseBatch.searchId, searchId), eq(poseBatch.round, round), eq(poseBatch.position, position), sql`${poseBatch.results} is null`))
        if (!search || search.state !== 'working' || search.round !== round) return
        const batches = await tx.select().from(poseBatch).where(eq(poseBatch.searchId, searchId)).orderBy(asc(poseBatch.round), asc(poseBatch.position))
        if (batches.some((batch) => batch.results === null)) return
        const next = nextRound(batches, round, search.input)
        if (!next)
          await tx.update(poseSearch).set({ state: 'done' }).where(eq(poseSearch.id, searchId)) // prettier-ignore
        else {
          await tx.update(poseSearch).set({ round: next.round }).where(eq(poseSearch.id, searchId)) // prettier-ignore
          await enqueue(tx, within, searchId, next.round, next.batches)
        }
      })
    },
  }
}

/** Whether a search waits to be gone on with. */
export async function anyWorking(db: Database): Promise<boolean> {
  return (await db.select({ id: poseSearch.id }).from(poseSearch).where(eq(poseSearch.state, 'working')).limit(1)).length > 0
}

/** The planning at the end takes about as long as all that goes before. */
const shareOf = (round: number, share: number): number => (round >= PLAN_ROUND ? 0.5 + share / 2 : ((round + share) / PLAN_ROUND) * 0.5)

function nextRound(batches: readonly { readonly results: BatchResults | null }[], round: number, input: SearchInput) {
  const judged: Judgement[] = batches.flatMap((batch) => batch.results?.judged ?? [])
  for (let next = round + 1; next < PLAN_ROUND; next++) {
    const turns = next === 1 ? batches.flatMap((batch) => batch.results?.turns ?? []) : nextPoses(judged, next - 1, { sideAnglesDeg: input.document.decisions.sideAnglesDeg })
    if (turns.length > 0) return { round: next, batches: chunked(turns, BATCH_POSES) }
  }
  return round < PLAN_ROUND ? { round: PLAN_ROUND, batches: shortlist(judged, PLANNED).map(({ turn }) => [turn]) } : null
}

const chunked = <T>(list: readonly T[], size: number): T[][] => Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size))
