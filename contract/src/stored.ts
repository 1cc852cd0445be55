import { z } from 'zod'

/** What a maker calls a thing. */
export const Name = z.string().trim().min(1).max(80)
export const Id = z.uuid()

/** Every stored thing carries its identity and a revision; a save names the revision it started from. */
export const Stored = z.object({ id: Id, revision: z.number().int(), updatedAt: z.string() })
export type Stored = z.infer<typeof Stored>

/** What goes with a change: the revision that the maker was looking at. */
export const Revision = z.coerce.number().int().min(1)

/** Lists come in pages. */
export const PageQuery = z.object({
  search: z.string().max(100).default(''),
  limit: z.coerce.number().int().min(1).max(500).default(200),
  offset: z.coerce.number().int().min(0).default(0),
  /** Name of an order that the list knows, with - before it downwards; as usual without. */
  order: z
    .string()
    .max(40)
    .regex(/^(-?[a-z]+)?$/)
    .default(''),
  /** Only what belongs to a part. */
  part: Id.optional(),
  /** Only what was printed on one bed. */
  bed: Id.optional(),
  /** Only trials that were read, or that were not. */
  read: z.enum(['yes', 'no']).optional(),
})
export type PageQuery = z.infer<typeof PageQuery>
export const pageOf = <T extends z.ZodType>(item: T) =>
  z.object({ items: z.array(item), total: z.number().int() })
export type Page<T> = { readonly items: readonly T[]; readonly total: number }
