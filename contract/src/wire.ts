import { CLINGS, FAMILIES } from '@tender/core/bench'
import { AXES, SWAPS } from '@tender/core/trial'
import { z } from 'zod'
import { BodyRoles, Colour, FilamentFields, PlanDocumentFields, PoseFields, PrinterFields, ZoneList } from './plan'

const name = z.string().trim().min(1).max(80)
const id = z.uuid()

/** Every stored thing carries its identity and a revision; a save names the revision it started from. */
export const Stored = z.object({ id, revision: z.number().int(), updatedAt: z.string() })
export type Stored = z.infer<typeof Stored>

/** What goes with a change: the revision that the maker was looking at. */
export const Revision = z.coerce.number().int().min(1)

/** A printer of the bench: what plans need, and the spool that sits on each nozzle or slot. */
export const PrinterInput = z.strictObject({ ...PrinterFields.shape, loaded: z.array(id.nullable()).max(16).default([]) })
export type PrinterInput = z.infer<typeof PrinterInput>
export const Printer = z.object({ ...Stored.shape, ...PrinterInput.shape })
export type Printer = z.infer<typeof Printer>

const day = z.iso.date()

/** A spool as it stands on the shelf. Price and colour are its own where it differs from its filament. */
export const SpoolFields = z.strictObject({
  id,
  label: z.string().trim().max(80),
  lot: z.string().trim().max(60).default(''),
  gramsLeft: z.number().min(0).max(50_000),
  emptyG: z.number().min(0).max(5000).nullable().default(null),
  pricePerKg: FilamentFields.shape.pricePerKg.nullable().default(null),
  colour: Colour.nullable().default(null),
  openedOn: day.nullable().default(null),
  driedOn: day.nullable().default(null),
  damp: z.boolean().default(false),
})
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

const steps = (low: number, high: number) => z.array(z.number().min(low).max(high)).min(1).max(40)

export const CouponFields = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('fan'), anglesDeg: steps(0, 89.9), directions: z.array(z.string().trim().min(1).max(20)).min(1).max(8) }),
  z.strictObject({ kind: z.literal('span'), spansMm: steps(0.5, 500) }),
  z.strictObject({ kind: z.literal('gap'), gapsMm: steps(0, 2), spacingsMm: z.array(z.number().min(0).max(20)).min(1).max(8), interfaceLayers: z.number().int().min(1).max(12).default(3) }),
  z.strictObject({ kind: z.literal('purge'), volumesMm3: steps(1, 5000), swaps: z.array(z.enum(SWAPS)).min(1).max(2) }),
  z.strictObject({ kind: z.literal('offset'), shiftsMm: steps(-2, 2), axes: z.array(z.enum(AXES)).min(1).max(3) }),
])

/** A trial as the maker describes it. Filaments and printer are those of the bench. */
export const TrialInput = z.strictObject({
  name,
  coupon: CouponFields,
  printerId: id,
  partFilamentId: id,
  /** What touched the part, or was swapped to; for fans and bridges the part's own filament. */
  supportFilamentId: id,
  nozzleMm: z.number().min(0.1).max(2),
  layerHeightMm: z.number().min(0.01).max(2),
  lineWidthMm: z.number().min(0.05).max(4),
  speedMmS: z.number().min(1).max(1000),
  fanPercent: z.number().min(0).max(100),
  damp: z.boolean(),
  /** Footprint of one tile, for pull forces. */
  tileAreaMm2: z.number().min(1).max(100_000).nullable(),
  printedOn: day,
  /** Lots of the spools it was printed from. */
  partLot: z.string().trim().max(60).default(''),
  supportLot: z.string().trim().max(60).default(''),
  /** Where the printer had its second nozzle stored when a comb was printed. */
  offsetMm: PrinterFields.shape.offsetMm.unwrap().nullable().default(null),
  /** Whatever else may have got in the way. */
  note: z.string().trim().max(500).default(''),
  /** Kept with all its readings, but no evidence for plans. */
  leftOut: z.boolean().default(false),
})
export type TrialInput = z.infer<typeof TrialInput>

export const ReadingInput = z.strictObject({
  grade: grade.nullable(),
  release: grade.nullable(),
  finish: grade.nullable(),
  forceN: z.number().min(0).max(5000).nullable(),
  leftOut: z.boolean(),
  note: z.string().trim().max(200).default(''),
})
export type ReadingInput = z.infer<typeof ReadingInput>

export const StepReading = z.object({ step: z.string().max(60), ...ReadingInput.shape })
export type StepReading = z.infer<typeof StepReading>

/** A picture of a step; its bytes stand at /api/photos/:id. */
export const StepPhoto = z.object({ id, step: z.string().max(60), widthPx: z.number().int(), heightPx: z.number().int() })
export type StepPhoto = z.infer<typeof StepPhoto>

export const Trial = z.object({
  ...Stored.shape,
  ...TrialInput.shape,
  printerName: z.string(),
  partFilamentName: z.string(),
  supportFilamentName: z.string(),
  readings: z.array(StepReading),
  photos: z.array(StepPhoto),
})
export type Trial = z.infer<typeof Trial>

const window = (low: number, high: number) =>
  z.tuple([z.number().min(low).max(high), z.number().min(low).max(high)]).refine(([from, to]) => from <= to, { message: 'The lower end must not lie above the upper one.', path: [0] })

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
export const FamilyEntry = z.object({ ...FamilyInput.shape, name: FamilyName, own: z.boolean(), revision: z.number().int() })
export type FamilyEntry = z.infer<typeof FamilyEntry>

/** How strongly two families cling, as the maker found it. */
export const ClingInput = z.strictObject({ cling: z.literal(CLINGS), source: z.string().trim().max(300) })
export type ClingInput = z.infer<typeof ClingInput>
export const ClingEntry = z.object({ ...ClingInput.shape, a: FamilyName, b: FamilyName, own: z.boolean(), known: z.boolean(), revision: z.number().int() })
export type ClingEntry = z.infer<typeof ClingEntry>

/** All families and the clings between them: the maker's own where there are any, else ours. */
export const FamilyTable = z.object({ families: z.array(FamilyEntry), clings: z.array(ClingEntry) })
export type FamilyTable = z.infer<typeof FamilyTable>

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
  name,
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
  meshBodies: z.array(z.object({ name: z.string(), triangles: z.number() })),
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

/** Largest picture taken in, and the longer side it is kept at. */
export const MOST_PHOTO_BYTES = 12 * 1024 * 1024
export const PHOTO_SIDE_PX = 1280
export const MOST_PHOTOS_PER_STEP = 6

/** Largest file taken in. */
export const MOST_UPLOAD_BYTES = 200 * 1024 * 1024

/** A search for better poses: judged by the decisions of a plan, whose pose's scale counts and whose turn does not. */
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
  standing: z.object({ footprintMm2: z.number(), leverMm: z.number(), tipDeg: z.number(), verdict: z.enum(['stands', 'wobbly', 'falls']) }),
})

/** A pose that was planned for real. */
export const FoundPose = z.object({ judgement: JudgementFields, figures: PlanFigures, islands: z.number(), standG: z.number() })
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
