import { z } from 'zod'
import { PoseFields } from './part'
import { PlanDocumentFields, PlanFigures } from './plan'

/**
 * A search for better poses: judged by the decisions of a plan, whose pose's scale counts and whose turn does
 * not.
 */
export const SearchInput = z.strictObject({ document: PlanDocumentFields })
export type SearchInput = z.infer<typeof SearchInput>

const JudgementFields = z.object({
  turn: PoseFields.shape.turn,
  airMm3: z.number(),
  contactMm2: z.number(),
  showMm2: z.number(),
  supportMm3: z.number(),
  heightMm: z.number(),
  contactLayers: z.number(),
  thinMm: z.number(),
  standing: z.object({
    footprintMm2: z.number(),
    leverMm: z.number(),
    tipDeg: z.number(),
    verdict: z.enum(['stands', 'wobbly', 'falls']),
  }),
})

/** A pose that was planned for real. */
export const FoundPose = z.object({
  judgement: JudgementFields,
  figures: PlanFigures,
  islands: z.number(),
  standG: z.number(),
})
export type FoundPose = z.infer<typeof FoundPose>

export const PoseSearch = z.object({
  id: z.uuid(),
  partId: z.uuid(),
  state: z.enum(['working', 'done', 'stopped', 'failed']),
  input: SearchInput,
  message: z.string().nullable(),
  /** 0 to 1. */
  progress: z.number(),
  /** Poses judged so far. */
  judged: z.number(),
  poses: z.array(FoundPose),
})
export type PoseSearch = z.infer<typeof PoseSearch>
