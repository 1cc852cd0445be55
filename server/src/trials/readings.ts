import type { ReadingChange, ReadingInput, StepReading } from '@tender/contract'
import { stepsOf, type Grade } from '@tender/core/trial'
import { and, eq, sql, type SQL } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import { mustStand, stale } from '../storage/shelf'
import { stepReading, trial } from './schema'

type Row = typeof stepReading.$inferSelect
type Field = keyof ReadingInput

export const readingFields = {
  step: stepReading.step,
  revision: stepReading.revision,
  grade: stepReading.grade,
  release: stepReading.release,
  finish: stepReading.finish,
  forceN: stepReading.forceN,
  leftOut: stepReading.leftOut,
  note: stepReading.note,
}

/** What an unread step has, as the database writes it. */
const NOTHING: Readonly<Record<Field, SQL>> = {
  grade: sql`null`,
  release: sql`null`,
  finish: sql`null`,
  forceN: sql`null`,
  leftOut: sql`false`,
  note: sql`''`,
}

function toReading({ step, revision, grade, release, finish, forceN, leftOut, note }: Row): StepReading {
  return {
    step,
    revision,
    grade: grade as Grade | null,
    release: release as Grade | null,
    finish: finish as Grade | null,
    forceN,
    leftOut,
    note,
  }
}

/**
 * Makes sure that the coupon of a trial has that step.
 * @param held 'update' holds the trial until the transaction ends, and lets nobody else in that asks the same
 * @throws HttpProblem NOT_FOUND, GONE, INVALID (field step)
 */
export async function mustHaveStep(
  db: Database,
  trialId: string,
  step: string,
  held?: 'update',
): Promise<void> {
  const query = db
    .select({ coupon: trial.coupon, deletedAt: trial.deletedAt })
    .from(trial)
    .where(eq(trial.id, trialId))
  const [row] = await (held ? query.for(held) : query)
  const { coupon } = mustStand(row, row?.deletedAt)
  if (stepsOf(coupon).some(({ key }) => key === step)) return
  throw new HttpProblem('INVALID', `The coupon of this trial has no step "${step}" any more.`, {
    field: 'step',
  })
}

/**
 * Writes down what somebody changed of a reading. What another changed since the maker looked is not overwritten; changes of other
 * fields go together, and the same change sent twice is one.
 * @throws HttpProblem NOT_FOUND, GONE, INVALID (field step), STALE (with the reading as it stands)
 */
export async function changeReading(
  db: Database,
  trialId: string,
  step: string,
  { base, by, changes }: ReadingChange,
): Promise<StepReading> {
  const fields = Object.keys(changes) as Field[]
  const differs = (field: Field) => sql`${columnOf(field)} is distinct from ${changes[field]}`
  // Readings from before fields were marked count as changed once, when they were read.
  const changedAt = (field: Field) =>
    sql`coalesce((${stepReading.marks} -> ${field} ->> 'revision')::int, case when ${columnOf(field)} is not distinct from ${NOTHING[field]} then 0 else 1 end)`
  const clashes = fields.map(
    (field) =>
      sql`(${differs(field)} and ${changedAt(field)} > ${base} and ${stepReading.marks} -> ${field} ->> 'by' is distinct from ${by})`,
  )
  const news = sql`(${sql.join(fields.map(differs), sql` or `)})`
  return upsert(db, trialId, step, fields, changes, by, news, sql`not (${sql.join(clashes, sql` or `)})`)
}

/**
 * Writes a whole reading over the one of that revision.
 * @param revision null when nothing was read so far
 * @throws HttpProblem NOT_FOUND, GONE, INVALID (field step), STALE (with the reading as it stands)
 */
export async function writeReading(
  db: Database,
  trialId: string,
  step: string,
  revision: number | null,
  reading: ReadingInput,
): Promise<StepReading> {
  const fields = Object.keys(reading) as Field[]
  const news = sql`(${sql.join(
    fields.map((field) => sql`${columnOf(field)} is distinct from ${reading[field]}`),
    sql` or `,
  )})`
  return upsert(
    db,
    trialId,
    step,
    fields,
    reading,
    '',
    news,
    sql`(${stepReading.revision} = ${revision ?? 0} or not ${news})`,
  )
}

const columnOf = (field: Field): PgColumn => stepReading[field]

/**
 * One statement, so that of several writers each sees the one before: makes the reading, or changes the one that is there when it may.
 * @param news whether anything differs from what stands there
 * @param mayChange whether this change may be made to what stands there
 */
async function upsert(
  db: Database,
  trialId: string,
  step: string,
  fields: readonly Field[],
  values: Partial<ReadingInput>,
  by: string,
  news: SQL,
  mayChange: SQL,
): Promise<StepReading> {
  await mustHaveStep(db, trialId, step)
  const marksAt = (revision: SQL | number) =>
    sql.join(
      fields.map(
        (field) =>
          sql`jsonb_build_object(${field}::text, jsonb_build_object('revision', ${revision}::int, 'by', ${by}::text))`,
      ),
      sql` || `,
    )
  const next = sql`${stepReading.revision} + 1`
  const [written] = await db
    .insert(stepReading)
    .values({ trialId, step, ...values, revision: 1, marks: marksAt(1) as never })
    .onConflictDoUpdate({
      target: [stepReading.trialId, stepReading.step],
      set: {
        ...values,
        revision: sql`case when ${news} then ${next} else ${stepReading.revision} end` as never,
        marks:
          sql`case when ${news} then ${stepReading.marks} || ${marksAt(next)} else ${stepReading.marks} end` as never,
        readAt: sql`now()` as never,
      },
      setWhere: mayChange,
    })
    .returning()
  if (written) return toReading(written)
  const [current] = await db
    .select()
    .from(stepReading)
    .where(and(eq(stepReading.trialId, trialId), eq(stepReading.step, step)))
  const { message, extra } = stale(toReading(current))
  throw new HttpProblem('STALE', `${message} The step was read differently.`, extra)
}
