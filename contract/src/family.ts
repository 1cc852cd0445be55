import { CLINGS, FAMILIES } from '@tender/core/bench'
import { z } from 'zod'
import { FilamentFields } from './filament'

const window = (low: number, high: number) =>
  z.tuple([z.number().min(low).max(high), z.number().min(low).max(high)]).refine(([from, to]) => from <= to, {
    message: 'The lower end must not lie above the upper one.',
    path: [0],
  })

/** A family's numbers and where they come from. */
export const FamilyInput = z.strictObject({
  densityGcm3: FilamentFields.shape.densityGcm3,
  nozzleC: window(100, 500),
  bedC: window(0, 200),
  softensC: z.number().min(0).max(400).nullable(),
  dissolvesIn: z.enum(['water', 'limonene']).nullable(),
  drawsWater: z.boolean(),
  source: z.string().trim().max(300),
})
export type FamilyInput = z.infer<typeof FamilyInput>
export const FamilyName = z.enum(FAMILIES)
/** `own` when the maker changed it; its revision then guards against two tabs. */
export const FamilyEntry = z.object({
  ...FamilyInput.shape,
  name: FamilyName,
  own: z.boolean(),
  revision: z.number().int(),
})
export type FamilyEntry = z.infer<typeof FamilyEntry>

/** How strongly two families cling, as the maker found it. */
export const ClingInput = z.strictObject({ cling: z.literal(CLINGS), source: z.string().trim().max(300) })
export type ClingInput = z.infer<typeof ClingInput>
export const ClingEntry = z.object({
  ...ClingInput.shape,
  a: FamilyName,
  b: FamilyName,
  own: z.boolean(),
  known: z.boolean(),
  revision: z.number().int(),
})
export type ClingEntry = z.infer<typeof ClingEntry>

/** All families and the clings between them: the maker's own where there are any, else ours. */
export const FamilyTable = z.object({ families: z.array(FamilyEntry), clings: z.array(ClingEntry) })
export type FamilyTable = z.infer<typeof FamilyTable>
