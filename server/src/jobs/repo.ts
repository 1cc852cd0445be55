import { randomUUID } from 'node:crypto'
import { and, asc, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import { part } from '../parts/schema'
import type { Database } from '../storage/database'
import { mustStand, notFound } from '../storage/shelf'
import type { AnyKind, DoneBatch, JobKind } from './kind'
import { job, jobBatch } from './schema'

/** Locks that workers hold while they live are numbered within this class. */
export const WORKER_LOCKS = 741_036

const MOST_ATTEMPTS = 5

/** Workers that wait are told on this channel that there is work. */
export const WORK_CHANNEL = 'tender_work'

/** One batch of a job. */
export type BatchRef = { readonly jobId: string; readonly round: number; readonly position: number }

/** A batch that a worker holds. */
export type TakenBatch = BatchRef & {
  readonly kind: string
  readonly partId: string
  readonly input: unknown
  readonly work: unknown
}

/** A job as it stands, its batches in order. */
export type JobState<Input, Work, Result> = {
  readonly id: string
  readonly partId: string
  readonly state: 'working' | 'done' | 'stopped' | 'failed'
  readonly input: Input
  readonly message: string | null
  /** 0 to 1. */
  readonly progress: number
  readonly batches: readonly DoneBatch<Work, Result>[]
}

export type JobRepo = {
  start<I, W, R>(kind: JobKind<I, W, R>, partId: string, input: I): Promise<JobState<I, W, R>>
  one<I, W, R>(kind: JobKind<I, W, R>, id: string): Promise<JobState<I, W, R>>
  /** The newest job of a kind for a part; null when there never was one. */
  newestOf<I, W, R>(kind: JobKind<I, W, R>, partId: string): Promise<JobState<I, W, R> | null>
  stop<I, W, R>(kind: JobKind<I, W, R>, id: string): Promise<void>
  /** Takes the next batch for a worker; null when there is none. */
  take(worker: number): Promise<TakenBatch | null>
  /** Writes a batch down once, and moves the job on when it was the last of its round. */
  finish(kind: AnyKind, batch: BatchRef, results: unknown): Promise<void>
  /** Puts a batch back in line. */
  giveBack(batch: BatchRef): Promise<void>
  fail(jobId: string, message: string): Promise<void>
  /** Puts batches whose worker is gone back in line. @returns how many */
  takeBack(): Promise<number>
  /** Whether a job waits to be gone on with. */
  anyWorking(): Promise<boolean>
}

export function jobRepo(db: Database): JobRepo {
  const wake = (tx: Database) => tx.execute(sql`select pg_notify(${WORK_CHANNEL}, '')`)

  async function enqueue(
    tx: Database,
    jobId: string,
    round: number,
    works: readonly unknown[],
  ): Promise<void> {
    await tx.insert(jobBatch).values(works.map((work, position) => ({ jobId, round, position, work })))
    await wake(tx)
  }

  const fail = async (jobId: string, message: string): Promise<void> => {
    await db
      .update(job)
      .set({ state: 'failed', message })
      .where(and(eq(job.id, jobId), eq(job.state, 'working')))
  }

  async function one<I, W, R>(kind: JobKind<I, W, R>, id: string): Promise<JobState<I, W, R>> {
    const [found] = await db
      .select()
      .from(job)
      .where(and(eq(job.id, id), eq(job.kind, kind.name)))
    if (!found) throw notFound()
    const batches = (await batchesOf(db, id)) as DoneBatch<W, R>[]
    const inRound = batches.filter((batch) => batch.round === found.round)
    const finished = inRound.filter((batch) => batch.results !== null).length
    return {
      id,
      partId: found.partId,
      state: found.state,
      input: found.input as I,
      message: found.message,
      progress:
        found.state === 'done' ? 1 : kind.progress(found.round, finished / Math.max(1, inRound.length)),
      batches,
    }
  }

  return {
    one,
    async newestOf(kind, partId) {
      const [found] = await db
        .select({ id: job.id })
        .from(job)
        .where(and(eq(job.partId, partId), eq(job.kind, kind.name)))
        .orderBy(desc(job.createdAt))
        .limit(1)
      return found ? one(kind, found.id) : null
    },
    async start(kind, partId, input) {
      const id = randomUUID()
      await db.transaction(async (tx) => {
        // One after the other, so that of several started at once the last one runs and the others stop.
        const [row] = await tx
          .select({ deletedAt: part.deletedAt })
          .from(part)
          .where(eq(part.id, partId))
          .for('update')
        mustStand(row, row?.deletedAt)
        await tx
          .update(job)
          .set({ state: 'stopped' })
          .where(and(eq(job.partId, partId), eq(job.kind, kind.name), eq(job.state, 'working')))
        await tx.insert(job).values({ id, kind: kind.name, partId, state: 'working', input })
        await enqueue(tx, id, 0, kind.first(input))
      })
      return one(kind, id)
    },
    async stop(kind, id) {
      const stopped = await db
        .update(job)
        .set({ state: 'stopped' })
        .where(and(eq(job.id, id), eq(job.kind, kind.name), eq(job.state, 'working')))
        .returning({ id: job.id })
      if (stopped.length === 0) await one(kind, id)
    },
    fail,
    async giveBack(batch) {
      await db
        .update(jobBatch)
        .set({ worker: null })
        .where(and(isBatch(batch), isNull(jobBatch.results)))
    },
    async take(worker) {
      const [taken] = await db.transaction(async (tx) => {
        const [next] = await tx
          .select({ jobId: jobBatch.jobId, round: jobBatch.round, position: jobBatch.position })
          .from(jobBatch)
          .innerJoin(job, eq(job.id, jobBatch.jobId))
          .where(and(eq(job.state, 'working'), isNull(jobBatch.results), isNull(jobBatch.worker)))
          .orderBy(asc(job.createdAt), asc(jobBatch.round), asc(jobBatch.position))
          .limit(1)
          .for('update', { of: jobBatch, skipLocked: true })
        if (!next) return []
        return tx
          .update(jobBatch)
          .set({ worker, attempts: sql`${jobBatch.attempts} + 1` })
          .from(job)
          .where(and(eq(job.id, jobBatch.jobId), isBatch(next)))
          .returning({
            jobId: jobBatch.jobId,
            round: jobBatch.round,
            position: jobBatch.position,
            kind: job.kind,
            partId: job.partId,
            input: job.input,
            work: jobBatch.work,
            attempts: jobBatch.attempts,
          })
      })
      if (taken === undefined || taken.attempts <= MOST_ATTEMPTS) return taken ?? null
      await fail(
        taken.jobId,
        'This could not be worked out: the worker failed at it again and again. The log has the details.',
      )
      return null
    },
    async finish(kind, ref, results) {
      const { jobId, round } = ref
      await db.transaction(async (tx) => {
        // One at a time: of two workers that end together, one must see the other's results.
        const [found] = await tx.select().from(job).where(eq(job.id, jobId)).for('update')
        await tx
          .update(jobBatch)
          .set({ results, worker: null })
          .where(and(isBatch(ref), isNull(jobBatch.results)))
        if (!found || found.state !== 'working' || found.round !== round) return
        const batches = await batchesOf(tx, jobId)
        if (batches.some((batch) => batch.results === null)) return
        const next = kind.next(batches, round, found.input)
        if (!next) await tx.update(job).set({ state: 'done' }).where(eq(job.id, jobId))
        else {
          await tx.update(job).set({ round: next.round }).where(eq(job.id, jobId))
          await enqueue(tx, jobId, next.round, next.batches)
        }
      })
    },
    async takeBack() {
      const held = await db
        .selectDistinct({ worker: jobBatch.worker })
        .from(jobBatch)
        .innerJoin(job, eq(job.id, jobBatch.jobId))
        .where(and(isNotNull(jobBatch.worker), isNull(jobBatch.results), eq(job.state, 'working')))
      let back = 0
      for (const { worker } of held)
        back += await db.transaction(async (tx) => {
          // A worker holds its lock by its connection: whoever can have it knows that the worker is gone.
          const { rows } = await tx.execute<{ gone: boolean }>(
            sql`select pg_try_advisory_xact_lock(${WORKER_LOCKS}, ${worker}) as gone`,
          )
          if (!rows[0].gone) return 0
          const lost = await tx
            .update(jobBatch)
            .set({ worker: null })
            .where(and(eq(jobBatch.worker, worker!), isNull(jobBatch.results)))
            .returning({ jobId: jobBatch.jobId })
          await wake(tx)
          return lost.length
        })
      return back
    },
    async anyWorking() {
      return (await db.select({ id: job.id }).from(job).where(eq(job.state, 'working')).limit(1)).length > 0
    },
  }
}

const isBatch = ({ jobId, round, position }: BatchRef) =>
  and(eq(jobBatch.jobId, jobId), eq(jobBatch.round, round), eq(jobBatch.position, position))

const batchesOf = (db: Database, jobId: string): Promise<DoneBatch<unknown, unknown>[]> =>
  db
    .select({ round: jobBatch.round, work: jobBatch.work, results: jobBatch.results })
    .from(jobBatch)
    .where(eq(jobBatch.jobId, jobId))
    .orderBy(asc(jobBatch.round), asc(jobBatch.position))
