import { FAMILIES } from '@tender/core/bench'
import { z } from 'zod'
import { Colour, FilamentFields, PlanDocumentFields, PoseFields, PrinterFields } from './plan'

const name = z.string().trim().min(1).max(80)
const id = z.uuid()

/** Every stored thing carries its identity and a revision; a save names the revision it started from. */
export const Stored = z.object({ id, revision: z.number().int(), updatedAt: z.string() })
export type Stored = z.infer<typeof Stored>

/** What goes with a change: the revision that the maker was looking at. */
export const Revision = z.coerce.number().int().min(1)

export const Printer = z.object({ ...Stored.shape, ...PrinterFields.shape })
export type Printer = z.infer<typeof Printer>

export const SpoolFields = z.strictObject({ label: z.string().trim().max(80), gramsLeft: z.number().min(0).max(50_000) })
export type SpoolFields = z.infer<typeof SpoolFields>

/** A filament with its spools; what is left of it is what the spools hold together. */
export const FilamentInput = z.strictObject({
  name,
  family: z.enum(FAMILIES),
  colour: Colour,
  densityGcm3: FilamentFields.shape.densityGcm3,
  diameterMm: FilamentFields.shape.diameterMm,
  pricePerKg: FilamentFields.shape.pricePerKg,
  nozzleC: FilamentFields.shape.nozzleC,
  bedC: FilamentFields.shape.bedC,
  spools: z.array(SpoolFields).max(50),
})
export type FilamentInput = z.infer<typeof FilamentInput>
export const StoredFilament = z.object({ ...Stored.shape, ...FilamentInput.shape })
export type StoredFilament = z.infer<typeof StoredFilament>

const grade = z.number().int().min(1).max(5) as z.ZodType<1 | 2 | 3 | 4 | 5>

const CouponFields = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('fan'),
    anglesDeg: z.array(z.number().min(0).max(89.9)).min(1).max(40),
    directions: z.array(z.string().trim().min(1).max(20)).min(1).max(8),
  }),
  z.strictObject({
    kind: z.literal('gap'),
    gapsMm: z.array(z.number().min(0).max(2)).min(1).max(40),
    spacingsMm: z.array(z.number().min(0).max(20)).min(1).max(8),
  }),
])

/** A trial as the maker describes it. Filaments and printer are those of the bench. */
export const TrialInput = z.strictObject({
  name,
  coupon: CouponFields,
  printerId: id,
  partFilamentId: id,
  /** What touched the part; for a fan the part's own filament. */
  supportFilamentId: id,
  nozzleMm: z.number().min(0.1).max(2),
  layerHeightMm: z.number().min(0.01).max(2),
  lineWidthMm: z.number().min(0.05).max(4),
  speedMmS: z.number().min(1).max(1000),
  fanPercent: z.number().min(0).max(100),
  damp: z.boolean(),
  /** Footprint of one tile, for pull forces. */
  tileAreaMm2: z.number().min(1).max(100_000).nullable(),
  printedOn: z.iso.date(),
})
export type TrialInput = z.infer<typeof TrialInput>

export const ReadingInput = z.strictObject({
  grade: grade.nullable(),
  release: grade.nullable(),
  finish: grade.nullable(),
  forceN: z.number().min(0).max(5000).nullable(),
  leftOut: z.boolean(),
})
export type ReadingInput = z.infer<typeof ReadingInput>

export const StepReading = z.object({ step: z.string().max(60), ...ReadingInput.shape })
export type StepReading = z.infer<typeof StepReading>

export const Trial = z.object({ ...Stored.shape, ...TrialInput.shape, printerName: z.string(), partFilamentName: z.string(), supportFilamentName: z.string(), readings: z.array(StepReading) })
export type Trial = z.infer<typeof Trial>

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
export const PartInput = z.strictObject({ name, pose: PoseFields })
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
})
export type Part = z.infer<typeof Part>

/** A plan's numbers in short, for lists and for comparing variants. */
export const PlanFigures = z.strictObject({
  massG: z.number(),
  wasteG: z.number(),
  cost: z.number(),
  timeS: z.number(),
  swapTimeS: z.number(),
  swaps: z.number(),
  pTender: z.number().nullable(),
  errors: z.number(),
})
export type PlanFigures = z.infer<typeof PlanFigures>

export const PlanInput = z.strictObject({ partId: id, document: PlanDocumentFields, figures: PlanFigures.nullable() })
export type PlanInput = z.infer<typeof PlanInput>
export const Plan = z.object({ ...Stored.shape, ...PlanInput.shape, partName: z.string() })
export type Plan = z.infer<typeof Plan>

/** Lists come in pages. */
export const PageQuery = z.object({ search: z.string().max(100).default(''), limit: z.coerce.number().int().min(1).max(500).default(200), offset: z.coerce.number().int().min(0).default(0) })
export type PageQuery = z.infer<typeof PageQuery>
export const pageOf = <T extends z.ZodType>(item: T) => z.object({ items: z.array(item), total: z.number().int() })
export type Page<T> = { readonly items: readonly T[]; readonly total: number }

export const PROBLEM_CODES = ['NOT_FOUND', 'INVALID', 'STALE', 'NAME_TAKEN', 'FILE_REFUSED', 'TOO_LARGE', 'INTERNAL', 'OFFLINE'] as const

/** Every refusal of the server: a code for programs, a sentence for people, the field it is about; with STALE, the row as it now stands. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  code: z.enum(PROBLEM_CODES),
  field: z.string().optional(),
  current: z.unknown().optional(),
})
export type Problem = z.infer<typeof Problem>

/** Largest file taken in. */
export const MOST_UPLOAD_BYTES = 200 * 1024 * 1024
