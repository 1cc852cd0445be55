import PgBoss from 'pg-boss'

/** One batch of a search, as a job of the queue. */
export type BatchJob = { readonly searchId: string; readonly round: number; readonly position: number }

export const BATCHES = 'pose-batches'

/** What a database client runs SQL with; the queue uses it to send inside a transaction. */
export type SqlRunner = { executeSql(text: string, values: unknown[]): Promise<{ rows: unknown[] }> }

export type BatchQueue = {
  /** Puts batches in line, in the transaction of the runner. */
  send(batches: readonly BatchJob[], within: SqlRunner): Promise<void>
  /** Puts a job whose worker died back in line. */
  giveBack(jobId: string): Promise<void>
  /** Takes batches one at a time until stopped. */
  work(handle: (batch: BatchJob, jobId: string) => Promise<void>): Promise<void>
  close(): Promise<void>
}

/** A batch takes seconds; one that takes longer than this has lost its worker, and another one gets it. */
const EXPIRES_S = 600
const RETRIES = 4

/** The queue in the same database as everything else; started when it is first used. */
export function openQueue(
  databaseUrl: string,
  onError: (error: unknown) => void,
  { expireInSeconds = EXPIRES_S, onSend }: { expireInSeconds?: number; /** Called when there is work. */ onSend?: () => void } = {},
): BatchQueue {
  let started: Promise<PgBoss> | null = null
  const boss = () =>
    (started ??= (async () => {
      const made = new PgBoss({ connectionString: databaseUrl, max: 3, schedule: false, maintenanceIntervalSeconds: Math.min(30, Math.max(1, Math.floor(expireInSeconds / 2))) })
      made.on('error', onError)
      await made.start()
      await made.createQueue(BATCHES, { name: BATCHES, policy: 'standard', retryLimit: RETRIES, retryDelay: 0, expireInSeconds })
      return made
    })())
  return {
    async send(batches, within) {
      const queue = await boss()
      for (const batch of batches) await queue.send(BATCHES, batch, { db: within as PgBoss.Db })
      onSend?.()
    },
    async giveBack(jobId) {
      await (await boss()).fail(BATCHES, jobId, { reason: 'The worker ended.' })
    },
    async work(handle) {
      await (await boss()).work<BatchJob>(BATCHES, { batchSize: 1, pollingIntervalSeconds: 0.5 }, async ([job]) => handle(job.data, job.id))
    },
    async close() {
      if (started) await (await started).stop({ graceful: true, close: true, timeout: 5000 })
    },
  }
}
