import { z } from 'zod'

const count = z.number().int().min(0)

/** What bringing a copy of a workshop in did, or would do, by table. */
export const RestoreReport = z.object({
  madeAt: z.string(),
  tables: z.record(
    z.string(),
    z.object({ added: count, replaced: count, /** Newer here. */ kept: count, same: count }),
  ),
  /** Names that had to change, in sentences. */
  renamed: z.array(z.string()),
})
export type RestoreReport = z.infer<typeof RestoreReport>
