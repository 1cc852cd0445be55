import { BODY_ROLES } from '@tender/core/decide'
import { z } from 'zod'
import { Name, Stored } from './stored'

export const PoseFields = z.strictObject({
  turn: z.tuple([
    z.number().min(-1.0001).max(1.0001),
    z.number().min(-1.0001).max(1.0001),
    z.number().min(-1.0001).max(1.0001),
    z.number().min(-1.0001).max(1.0001),
  ]),
  scale: z.number().min(1e-4).max(1e5),
})

const millimetres = z.number().min(-1e5).max(1e5)
const place = z.tuple([millimetres, millimetres, millimetres])

/** Where to hold, or never to: a mark of the maker's on the part as drawn. */
export const ZoneFields = z.strictObject({
  id: z.string().min(1).max(80),
  name: Name,
  kind: z.enum(['hold', 'keepOff', 'show']),
  limitDeg: z.number().min(0).max(90),
  shape: z.discriminatedUnion('kind', [
    z
      .strictObject({ kind: z.literal('box'), minMm: place, maxMm: place })
      .refine(({ minMm, maxMm }) => minMm.every((low, axis) => low < maxMm[axis]), {
        message: 'A box needs a size above zero on every side.',
        path: ['maxMm'],
      }),
    z.strictObject({
      kind: z.literal('cylinder'),
      footMm: place,
      radiusMm: z.number().min(0.01).max(1e5),
      heightMm: z.number().min(0.01).max(1e5),
    }),
    z.strictObject({
      kind: z.literal('brush'),
      radiusMm: z.number().min(0.01).max(1e5),
      atMm: z.array(millimetres).min(3).max(9000),
    }),
    z.strictObject({ kind: z.literal('body'), body: z.number().int().min(0).max(20_000) }),
  ]),
})
export const ZoneList = z.array(ZoneFields).max(200)
export const BodyRoles = z.array(z.enum(BODY_ROLES)).max(20_000)

export const MeshFactsFields = z.object({
  triangles: z.number(),
  sizeMm: z.tuple([z.number(), z.number(), z.number()]),
  volumeMm3: z.number(),
  areaMm2: z.number(),
  watertight: z.boolean(),
  openEdges: z.number(),
  shells: z.number(),
})

/** What a maker may change of a part; the mesh itself never changes. */
export const PartInput = z.strictObject({
  name: Name,
  pose: PoseFields,
  tags: z.array(z.string().trim().min(1).max(30)).max(12).default([]),
  zones: ZoneList.default([]),
  bodies: BodyRoles.default([]),
  /** The part that this one is a newer version of. */
  olderId: z.uuid().nullable().default(null),
})
export type PartInput = z.infer<typeof PartInput>

export const Part = z.object({
  ...Stored.shape,
  ...PartInput.shape,
  fileName: z.string(),
  meshSha256: z.string(),
  byteLength: z.number(),
  /** Of the mesh as drawn, before pose and scale. */
  facts: MeshFactsFields,
  notes: z.array(z.string()),
  /** Bodies of the file, by name; one for a file that keeps nothing apart. */
  meshBodies: z.array(
    z.object({ name: z.string(), triangles: z.number(), drawnStand: z.literal(true).optional() }),
  ),
})
export type Part = z.infer<typeof Part>

/** Largest file taken in. */
export const MOST_UPLOAD_BYTES = 200 * 1024 * 1024
