import type { Access, PatchKind } from '../overhang'
import type { Grade, TrialConditions } from '../trial'

/** How much of the interface stayed on the part when its stand came off. */
export const STAYED = ['nothing', 'some', 'all'] as const
export type Stayed = (typeof STAYED)[number]

/** Specks of the other filament in the face. */
export const SPECKS = ['none', 'a few', 'many'] as const
export type Specks = (typeof SPECKS)[number]

/** What happened to the part. */
export const DAMAGES = ['none', 'scratched', 'dented', 'torn', 'broken'] as const
export type Damage = (typeof DAMAGES)[number]

/** What it was taken off with. */
export const TOOLS = ['fingers', 'pliers', 'hook', 'knife', 'scraper', 'water', 'solvent'] as const
export type Tool = (typeof TOOLS)[number]

/** An underside of a print, as it was held: nothing of it changes any more. */
export type PrintedContact = {
  readonly key: string
  /** A point of it, on the part as it lies. */
  readonly atMm: readonly [number, number, number]
  /** Which sentence of the letter ruled it: 0 the letter itself, then its exceptions. */
  readonly holding: number
  readonly kind: PatchKind
  readonly access: Access
  readonly areaMm2: number
  /** The gap asked for, and the one that was really left. */
  readonly gapMm: number
  readonly achievedGapMm: number
  readonly interfaceSpacingMm: number
  readonly interfaceLayers: number
  /** Filaments by their identity: what touched the part, and what carried that. */
  readonly touching: string
  readonly bulk: string
  /** By the clings of the families: whether the interface leaves with its stand. */
  readonly guessed: 'surely' | 'perhaps' | 'hardly'
  /** Width of a weak neck or arm of the part that its pull goes through; null when there is none. */
  readonly neckMm: number | null
  /** Seen from above: rings of x, y, x, y, in mm. */
  readonly outline: readonly (readonly number[])[]
}

/** Plastic of one filament in a print, as planned. */
export type PlannedGrams = { readonly filament: string; readonly partG: number; readonly wasteG: number }

/** What was printed, as the plan had it. */
export type Printed = {
  readonly contacts: readonly PrintedContact[]
  /** Contacts too small to be read one by one. */
  readonly moreContacts: number
  /** The part from above. */
  readonly silhouette: readonly (readonly number[])[]
  readonly grams: readonly PlannedGrams[]
  /** Minutes that taking off was guessed to take. */
  readonly minutes: number
  readonly timeS: number
  readonly heightMm: number
}

/** What was seen on one contact; null where nobody has said. */
export type ContactReading = {
  readonly contact: string
  readonly release: Grade | null
  readonly finish: Grade | null
  readonly stayed: Stayed | null
  readonly specks: Specks | null
  readonly damage: Damage | null
  readonly leftOut: boolean
}

/** What was noted of the whole. */
export type WholeReading = {
  readonly tool: Tool | null
  readonly minutes: number | null
  /** Weighed: the part, and what was thrown away. */
  readonly partG: number | null
  readonly wasteG: number | null
}

/** What a take-off teaches, each by itself: gaps, bonds, minutes, grams. */
export const LESSONS = ['gap', 'bond', 'minutes', 'grams'] as const
export type LessonKind = (typeof LESSONS)[number]

/** A print and what was seen when its supports came off. */
export type TakeOff = {
  readonly id: string
  readonly name: string
  readonly printedOn: string
  readonly conditions: Omit<TrialConditions, 'supportFilament' | 'supportLot'>
  /** Names of the filaments of the plan, and lots of their spools. */
  readonly filaments: readonly { readonly id: string; readonly name: string; readonly lot: string }[]
  readonly printed: Printed
  readonly contacts: readonly ContactReading[]
  readonly whole: WholeReading
  /** Lessons that the maker left out. */
  readonly leftOut: readonly LessonKind[]
}
