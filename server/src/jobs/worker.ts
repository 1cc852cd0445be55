import { randomInt } from 'node:crypto'
import { TenderError } from '@tender/core'
import { unpackMesh } from '@tender/core/mesh'
import type { Pool } from 'pg'
import { wholeOf } from '../blobs/store'
import type { MeshStore } from '../parts/meshes'
import type { PartShelf } from '../parts/repo'
import type { AnyKind, Workplace } from './kind'
import { WORK_CHANNEL, WORKER_LOCKS, type JobRepo, type TakenBatch } from './repo'

export type WorkerSetup = {
  readonly pool: Pool
  readonly parts: PartShelf
  readonly meshes: MeshStore
  readonly jobs: JobRepo
  readonly kinds: readonly AnyKind[]
  /** Told when a batch is begun. */
  readonly onBatch?: (batch: TakenBatch) => void
  readonly onError: (error: unknown) => void
}

/**
 * How long a worker without work sleeps when nobody wakes it: then it looks what workers that are gone left
 * lying.
 */
const SLEEP_MS = 2000
/** After a failure that is not the part's, the database may need a moment. */
const PAUSE_MS = 500

/**
 * A worker: does one batch after the other, keeping the mesh it last worked on, until it is told to stop. By
 * a connection of its own it holds a lock as long as it lives, so that others see at once when it is gone.
 * @returns once it has stopped; when that connection breaks, since others may then take over its batch
 */
export async function runWorker(
  { pool, parts, meshes, jobs, kinds, onBatch, onError }: WorkerSetup,
  stopped: AbortSignal,
): Promise<void> {
  const number = randomInt(1, 2 ** 31 - 1)
  const life = await pool.connect()
  let alive = true
  let wake = () => {}
  life.on('error', () => {
    alive = false
    wake()
  })
  life.on('notification', () => wake())
  stopped.addEventListener('abort', () => wake())
  await life.query('select pg_advisory_lock($1, $2)', [WORKER_LOCKS, number])
  await life.query(`listen ${WORK_CHANNEL}`)
  let held: Workplace | null = null

  async function placeOf(partId: string): Promise<Workplace> {
    const { meshSha256 } = await parts.one(partId)
    if (held?.meshKey === meshSha256) return held
    const bytes = await wholeOf(await meshes.packed(meshSha256))
    return (held = { meshKey: meshSha256, mesh: unpackMesh(bytes).mesh })
  }

  async function work(batch: TakenBatch): Promise<void> {
    const kind = kinds.find(({ name }) => name === batch.kind)
    if (!kind) return jobs.fail(batch.jobId, `This version does not know work of the kind "${batch.kind}".`)
    onBatch?.(batch)
    try {
      const results = await kind.run(batch.work, batch.round, batch.input, await placeOf(batch.partId))
      await jobs.finish(kind, batch, results)
    } catch (error) {
      // What the part itself makes impossible stays impossible; anything else is tried again.
      if (error instanceof TenderError) return jobs.fail(batch.jobId, error.message)
      await jobs.giveBack(batch)
      throw error
    }
  }

  const sleep = (ms: number) =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, ms)
      wake = () => {
        clearTimeout(timer)
        resolve()
      }
    })
  while (alive && !stopped.aborted) {
    try {
      const batch = await jobs.take(number)
      if (batch) await work(batch)
      else if ((await jobs.takeBack()) === 0 && alive && !stopped.aborted) await sleep(SLEEP_MS)
    } catch (error) {
      onError(error)
      await sleep(PAUSE_MS)
    }
  }
  life.release(true)
}
