import { PATCH_KINDS } from '@tender/core/overhang'
import { DAMAGES, LESSONS, SPECKS, STAYED, TOOLS } from '@tender/core/takeOff'
import { z } from 'zod'
import { Identity } from './filament'
import { PlanDocumentFields } from './plan'
import { Id, Name, Stored } from './stored'
import { Grade } from './trial'

const millimetres = z.number().min(-1e5).max(1e5)
const rings = z.array(z.array(millimetres).max(20_000)).max(2000)
const grams = z.number().min(0).max(100_000)

const PrintedContactFields = z.strictObject({
  key: z.string().min(1).max(20),
  atMm: z.tuple([millimetres, millimetres, millimetres]),
  holding: z.number().int().min(0).max(60).default(0),
  kind: z.enum(PATCH_KINDS),
  access: z.enum(['open', 'narrow', 'closed']),
  areaMm2: z.number().min(0),
  gapMm: z.number().min(0).max(10),
  achievedGapMm: z.number().min(-1).max(10),
  interfaceSpacingMm: z.number().min(0).max(10),
  interfaceLayers: z.number().int().min(0).max(20),
  touching: Identity,
  bulk: Identity,
  guessed: z.enum(['surely', 'perhaps', 'hardly']),
  neckMm: z.number().min(0).nullable(),
  outline: rings,
})

/** What was printed, as its plan had it. */
export const PrintedFields = z.strictObject({
  contacts: z.array(PrintedContactFields).max(60),
  moreContacts: z.number().int().min(0),
  silhouette: rings,
  grams: z.array(z.strictObject({ filament: Identity, partG: grams, wasteG: grams })).max(50),
  minutes: z.number().min(0).max(100_000),
  timeS: z.number().min(0),
  heightMm: z.number().min(0).max(1e5),
})

/** A print and how it is called. Plan and print never change; what was seen of it stands in its record. */
export const TakeOffInput = z.strictObject({
  name: Name,
  printedOn: z.iso.date(),
  partId: Id,
  /** The plan it was made from, which may have gone on since; null when it is gone. */
  planId: Id.nullable(),
  /** The bed it shared with other variants, and the raised dots it had there; null for a print of its own. */
  bed: z
    .strictObject({ id: Id, dots: z.number().int().min(1).max(6) })
    .nullable()
    .default(null),
  damp: z.boolean().default(false),
  /** Printed or read by stand-ins, not by a maker. */
  simulated: z.boolean().default(false),
  /** Lessons that the maker does not believe. */
  lessonsLeftOut: z.array(z.enum(LESSONS)).max(LESSONS.length).default([]),
  document: PlanDocumentFields,
  printed: PrintedFields,
})
export type TakeOffInput = z.infer<typeof TakeOffInput>

/** Of what a note is: a contact by its key, or the whole. */
export const WHOLE = 'whole'

const noteShape = {
  release: Grade.nullable(),
  finish: Grade.nullable(),
  stayed: z.enum(STAYED).nullable(),
  specks: z.enum(SPECKS).nullable(),
  damage: z.enum(DAMAGES).nullable(),
  damageWhere: z.string().trim().max(200),
  leftOut: z.boolean(),
  note: z.string().trim().max(1000),
  tool: z.enum(TOOLS).nullable(),
  minutes: z.number().min(0).max(10_000).nullable(),
  partG: grams.nullable(),
  wasteG: grams.nullable(),
}
/** What was noted of a contact or of the whole; null where nobody has said. */
export const TakeOffNote = z.strictObject(noteShape)
export type TakeOffNote = z.infer<typeof TakeOffNote>

export const NOTHING_NOTED: TakeOffNote = {
  release: null,
  finish: null,
  stayed: null,
  specks: null,
  damage: null,
  damageWhere: '',
  leftOut: false,
  note: '',
  tool: null,
  minutes: null,
  partG: null,
  wasteG: null,
}

/** Revision 0 stands for what nobody has noted. */
export const StoredNote = z.object({
  at: z.string().max(20),
  revision: z.number().int().min(0).default(0),
  ...noteShape,
})
export type StoredNote = z.infer<typeof StoredNote>

/** What somebody changed of a note, and of which revision of it; as with readings of trials. */
export const NoteChange = z.strictObject({
  base: z.number().int().min(0),
  by: z.string().min(1).max(80),
  changes: TakeOffNote.partial().refine((changes) => Object.keys(changes).length > 0, {
    message: 'A change names at least one thing.',
  }),
})
export type NoteChange = z.infer<typeof NoteChange>

export const TakeOffPhoto = z.object({
  id: Id,
  at: z.string().max(20),
  widthPx: z.number().int(),
  heightPx: z.number().int(),
})
export type TakeOffPhoto = z.infer<typeof TakeOffPhoto>

export const StoredTakeOff = z.object({
  ...Stored.shape,
  ...TakeOffInput.shape,
  partName: z.string(),
  notes: z.array(StoredNote),
  photos: z.array(TakeOffPhoto),
})
export type StoredTakeOff = z.infer<typeof StoredTakeOff>

/** A take-off as it leaves the app: for the command line, or another bench. */
export const TakeOffFile = z.strictObject({
  format: z.literal('tender-take-off'),
  version: z.literal(1),
  ...TakeOffInput.omit({ partId: true, planId: true, bed: true }).shape,
  notes: z.array(StoredNote).max(100),
})
export type TakeOffFile = z.infer<typeof TakeOffFile>

/** What leaves the app of a stored take-off; pictures stay behind. */
export const takeOffFile = ({
  name,
  printedOn,
  damp,
  simulated,
  lessonsLeftOut,
  document,
  printed,
  notes,
}: StoredTakeOff): TakeOffFile => ({
  format: 'tender-take-off',
  version: 1,
  name,
  printedOn,
  damp,
  simulated,
  lessonsLeftOut,
  document,
  printed,
  notes,
})
