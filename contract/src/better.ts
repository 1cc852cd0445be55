import { SUBJECTS } from '@tender/core/decide'
import { z } from 'zod'
import { DecisionFields, PlanDocumentFields, PlanFigures } from './plan'
import { someOf } from './planFile'

const Words = z.string().min(1).max(400)

/** A search for better plans: variations of one, as it stands and changed in one thing each. */
export const BetterInput = z.strictObject({
  planId: z.uuid(),
  variations: z
    .array(
      z.strictObject({
        subject: z.enum(SUBJECTS),
        words: Words,
        document: PlanDocumentFields,
        plain: someOf(DecisionFields).nullable(),
      }),
    )
    .min(1)
    .max(40),
})
export type BetterInput = z.infer<typeof BetterInput>

/** A plan that was worked out for real. */
export const BetterFound = z.object({
  words: z.string(),
  figures: PlanFigures,
  release: z.enum(['comes out whole', 'comes out in pieces', 'locked in']),
  /** Whether a nozzle may push some of it over, or bend it. */
  unsteady: z.boolean().default(false),
  /** What should be held and is not. */
  unheldMm2: z.number(),
  document: PlanDocumentFields,
})
export type BetterFound = z.infer<typeof BetterFound>

export const BetterSearch = z.object({
  id: z.uuid(),
  partId: z.uuid(),
  state: z.enum(['working', 'done', 'stopped', 'failed']),
  planId: z.uuid(),
  message: z.string().nullable(),
  progress: z.number(),
  /** Plans worked out so far, and those that could not be. */
  tried: z.number(),
  refused: z.number(),
  /** The plan as it is, worked out. */
  asItIs: BetterFound.nullable(),
  /** Those that nothing beats, the plan as it is among them when nothing beats it. */
  found: z.array(BetterFound),
})
export type BetterSearch = z.infer<typeof BetterSearch>
