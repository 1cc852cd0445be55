import type { PatchKind } from '../overhang'
import type { Holding } from './decisions'
import type { PlanDocument } from './document'
import type { Evidence, PlanEvidence } from './evidence'

/** Which undersides an exception is about: those of a kind, those in a zone, or the one above a place. */
export type Where =
  | { readonly kind: PatchKind }
  | { readonly zone: string }
  /** A point of an underside, on the part as it lies, in mm from the bed's zero. */
  | { readonly contact: readonly [number, number, number] }

/** A sentence of the letter's own: for some undersides some decisions of holding are made differently. */
export type Exception = Partial<Holding> & {
  readonly where: Where
  /** Where its own values come from, when its pairing is another one. */
  readonly evidence?: Pick<PlanEvidence, 'upperGapMm'>
}

/** A support set by hand: it ends below the part at a place. */
export type Post = {
  /** Where it touches, on the part as it lies. */
  readonly atMm: readonly [number, number, number]
  readonly widthMm: number
}

/** Undersides by kind, as sentences name them. */
export const KIND_WORDS: Record<PatchKind, string> = {
  flat: 'flat undersides',
  sloped: 'sloped undersides',
  rounded: 'rounded undersides',
  tip: 'tips',
}

/** The undersides that an exception is about, as sentences name them. */
export function undersidesOf(where: Where, { zones }: Pick<PlanDocument, 'zones'>): string {
  if ('kind' in where) return KIND_WORDS[where.kind]
  if ('zone' in where) return `the zone “${zones.find(({ id }) => id === where.zone)?.name ?? where.zone}”`
  return `the underside at ${where.contact[2].toFixed(2)} mm`
}

/** The decisions of holding as an exception leaves them. */
export function holdingUnder(base: Holding, exception: Exception): Holding {
  const { where: _, evidence: __, ...changes } = exception
  const own = Object.fromEntries(Object.entries(changes).filter(([, value]) => value !== undefined))
  return { ...base, ...own }
}

/**
 * Where the upper gap of a holding comes from: the readings of its own pairing.
 * @param holding 0 for the letter, then the exceptions in their order; posts are held as the letter says
 */
export function gapEvidenceUnder(
  { decisions, evidence, exceptions }: Pick<PlanDocument, 'decisions' | 'evidence' | 'exceptions'>,
  holding: number,
): Evidence | undefined {
  const own = exceptions[holding - 1]
  if (own?.evidence?.upperGapMm) return own.evidence.upperGapMm
  const isOther =
    own?.interfaceFilament !== undefined && own.interfaceFilament !== decisions.interfaceFilament
  return isOther ? undefined : evidence.upperGapMm
}

type Stands = { readonly decisions: Pick<Holding, 'standKind'>; readonly exceptions: readonly Exception[] }

/** Whether anything of a plan stands on branches. */
export const branchesSomewhere = ({ decisions, exceptions }: Stands): boolean =>
  decisions.standKind === 'branching' || exceptions.some(({ standKind }) => standKind === 'branching')

/** Whether anything of a plan leans: branches, or posts that look for a way down. */
export const leansSomewhere = (plan: Stands & { readonly posts: readonly Post[] }): boolean =>
  branchesSomewhere(plan) || plan.posts.length > 0
