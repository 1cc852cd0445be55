import { AXES, SWAPS } from '@tender/core/trial'
import { z } from 'zod'
import { PrinterFields } from './printer'
import { Id, Name, Stored } from './stored'

const day = z.iso.date()
export const Grade = z.number().int().min(1).max(5) as z.ZodType<1 | 2 | 3 | 4 | 5>

const steps = (low: number, high: number) => z.array(z.number().min(low).max(high)).min(1).max(40)

export const CouponFields = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('fan'),
    anglesDeg: steps(0, 89.9),
    directions: z.array(z.string().trim().min(1).max(20)).min(1).max(8),
  }),
  z.strictObject({ kind: z.literal('span'), spansMm: steps(0.5, 500) }),
  z.strictObject({
    kind: z.literal('gap'),
    gapsMm: steps(0, 2),
    spacingsMm: z.array(z.number().min(0).max(20)).min(1).max(8),
    interfaceLayers: z.number().int().min(1).max(12).default(3),
  }),
  z.strictObject({
    kind: z.literal('purge'),
    volumesMm3: steps(1, 5000),
    swaps: z.array(z.enum(SWAPS)).min(1).max(2),
  }),
  z.strictObject({
    kind: z.literal('offset'),
    shiftsMm: steps(-2, 2),
    axes: z.array(z.enum(AXES)).min(1).max(3),
  }),
])

/** A trial as the maker describes it. Filaments and printer are those of the bench. */
export const TrialInput = z.strictObject({
  name: Name,
  coupon: CouponFields,
  printerId: Id,
  partFilamentId: Id,
  /** What touched the part, or was swapped to; for fans and bridges the part's own filament. */
  supportFilamentId: Id,
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
  /** Read by stand-ins, not by a maker. */
  simulated: z.boolean().default(false),
})
export type TrialInput = z.infer<typeof TrialInput>

const readingShape = {
  grade: Grade.nullable(),
  release: Grade.nullable(),
  finish: Grade.nullable(),
  forceN: z.number().min(0).max(5000).nullable(),
  leftOut: z.boolean(),
  note: z.string().trim().max(200),
}
export const ReadingInput = z.strictObject({ ...readingShape, note: readingShape.note.default('') })
export type ReadingInput = z.infer<typeof ReadingInput>

/** Revision 0 stands for a step that nobody has read. */
export const StepReading = z.object({
  step: z.string().max(60),
  revision: z.number().int().min(0).default(0),
  ...ReadingInput.shape,
})
export type StepReading = z.infer<typeof StepReading>

/**
 * What somebody changed of a reading, and of which revision of it. A change of something that another changed
 * since is refused; changes of other things go together.
 */
export const ReadingChange = z.strictObject({
  /** The revision that the maker saw; 0 when nothing was read. */
  base: z.number().int().min(0),
  /** Who changes: a tab, a device. Changes of one and the same follow each other without being refused. */
  by: z.string().min(1).max(80),
  changes: z
    .strictObject(readingShape)
    .partial()
    .refine((changes) => Object.keys(changes).length > 0, { message: 'A change names at least one thing.' }),
})
export type ReadingChange = z.infer<typeof ReadingChange>

/** A picture of a step; its bytes stand at /api/photos/:id. */
export const StepPhoto = z.object({
  id: Id,
  step: z.string().max(60),
  widthPx: z.number().int(),
  heightPx: z.number().int(),
})
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

/** Largest picture taken in, and the longer side it is kept at. */
export const MOST_PHOTO_BYTES = 12 * 1024 * 1024
export const PHOTO_SIDE_PX = 1280
export const MOST_PHOTOS_PER_STEP = 6
