import type { ReadingChange, ReadingInput, StepReading } from '@tender/contract'
import { stepsOf, type Grade } from '@tender/core/trial'
import { eq } from 'drizzle-orm'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import { keyedRows } from '../storage/keyedRows'
import { mustStand } from '../storage/shelf'
import { stepReading, trial } from './schema'

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

/** What an unread step has. */
const NOTHING: ReadingInput = {
  grade: null,
  release: null,
  finish: null,
  forceN: null,
  leftOut: false,
  note: '',
}

const rows = keyedRows(
  stepReading,
  'trialId',
  'step',
  NOTHING,
  ({ step, revision, grade, release, finish, forceN, leftOut, note }): StepReading => ({
    step,
    revision,
    grade: grade as Grade | null,
    release: release as Grade | null,
    finish: finish as Grade | null,
    forceN,
    leftOut,
    note,
  }),
  'The step was read differently.',
)

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
 * Writes down what somebody changed of a reading, see `keyedRows`.
 * @throws HttpProblem NOT_FOUND, GONE, INVALID (field step), STALE (with the reading as it stands)
 */
export async function changeReading(
  db: Database,
  trialId: string,
  step: string,
  change: ReadingChange,
): Promise<StepReading> {
  await mustHaveStep(db, trialId, step)
  return rows.change(db, trialId, step, change)
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
  await mustHaveStep(db, trialId, step)
  return rows.write(db, trialId, step, revision, reading)
}
