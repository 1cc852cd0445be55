import {
  clingGuess,
  clingKey,
  PLAIN_PRINTER,
  plainFilament,
  purgesItself,
  sharesNozzle,
  type Cling,
  type FamilyBook,
  type Filament,
  type Printer,
} from '../bench'
import { UPRIGHT, type Pose } from '../mesh'
import type { Zone } from '../overhang'
import { defaultDecisions, leanBelow, type Decisions } from './decisions'
import type { PlanEvidence } from './evidence'
import type { Exception, Post } from './exceptions'
import type { Learnt } from './learnt'

/** What a body of a file is for. */
export const BODY_ROLES = ['part', 'stand', 'hold', 'keepOff'] as const
export type BodyRole = (typeof BODY_ROLES)[number]

/**
 * A plan as saved, exported and read by the command line. Filaments and printer bring their facts along,
 * under their identity.
 */
export type PlanDocument = {
  readonly format: 'tender-plan'
  readonly version: 2
  readonly name: string
  readonly pose: Pose
  readonly decisions: Decisions
  /** Later ones go before earlier ones. */
  readonly exceptions: readonly Exception[]
  readonly posts: readonly Post[]
  readonly printer: Printer
  readonly filaments: readonly Filament[]
  /**
   * How strongly families cling, by `clingKey`, as they stood when the plan was made: those of its filaments.
   */
  readonly cling: Readonly<Record<string, Cling>>
  readonly evidence: PlanEvidence
  /** The maker's marks on the part: where to hold, where never. */
  readonly zones: readonly Zone[]
  /** What each body of the file is; bodies beyond the list are part. */
  readonly bodies: readonly BodyRole[]
  /**
   * What take-offs taught so far; lent to the plan while it is looked at, kept with what leaves the app or is
   * printed.
   */
  readonly learnt?: Learnt
}

/**
 * Purge per swap that a printer starts from: a shared nozzle must be flushed, a nozzle of its own only
 * primed.
 */
export const startingPurgeMm3 = (printer: Printer): number => (sharesNozzle(printer) ? 200 : 15)

/**
 * Where a printer starts to purge: where its one nozzle must be flushed and its swap block does not do it,
 * lines beside the part have to.
 */
export const startingPurgeWhere = (printer: Printer): Decisions['purgeWhere'] =>
  sharesNozzle(printer) && !purgesItself(printer) ? 'tower' : 'printer'

export type NewDocument = Partial<
  Pick<PlanDocument, 'name' | 'pose' | 'zones' | 'bodies' | 'exceptions' | 'posts' | 'evidence'>
> & {
  readonly printer?: Printer
  /** The part's filament first. */
  readonly filaments?: readonly Filament[]
  readonly decisions?: Partial<Decisions>
  readonly book?: FamilyBook
}

const PART = plainFilament('Part PLA', 'PLA', '#a5a8b4')

/**
 * A document with every value in place: what is not given is as a plain plan has it. Filaments that no role
 * names take their place by order: part and stands the first, the interface the second.
 */
export function newDocument(given: NewDocument = {}): PlanDocument {
  const { printer = PLAIN_PRINTER, filaments = [PART], book } = given
  const first = given.decisions?.partFilament ?? filaments[0].id
  const decisions: Decisions = {
    ...defaultDecisions(first),
    interfaceFilament: filaments[1]?.id ?? first,
    purgeMm3: startingPurgeMm3(printer),
    purgeAwayMm3: given.decisions?.purgeMm3 ?? startingPurgeMm3(printer),
    supportFanPercent: given.decisions?.fanPercent ?? 100,
    ...(given.decisions?.freeAngleDeg !== undefined && { leanDeg: leanBelow(given.decisions.freeAngleDeg) }),
    purgeWhere: startingPurgeWhere(printer),
    ...given.decisions,
  }
  return {
    format: 'tender-plan',
    version: 2,
    name: given.name ?? 'Plan',
    pose: given.pose ?? UPRIGHT,
    decisions,
    exceptions: given.exceptions ?? [],
    posts: given.posts ?? [],
    printer,
    filaments,
    cling: clingsOf(filaments, book),
    evidence: given.evidence ?? {},
    zones: given.zones ?? [],
    bodies: given.bodies ?? [],
  }
}

/** Clings between all families of some filaments: the maker's own, else ours. */
export function clingsOf(filaments: readonly Filament[], book?: FamilyBook): Record<string, Cling> {
  const found: Record<string, Cling> = {}
  const families = [...new Set(filaments.map(({ family }) => family))]
  for (const a of families) for (const b of families) found[clingKey(a, b)] = clingGuess(a, b, book).cling
  return found
}

/** The clings that a document was made with, in the form that guesses are asked from. */
export const bookOf = (document: Pick<PlanDocument, 'cling'>): FamilyBook => ({
  facts: {},
  cling: document.cling,
})

/** The plan that is there before anybody decided anything. */
export const DEFAULT_PLAN: PlanDocument = newDocument()
export const DEFAULT_DECISIONS: Decisions = DEFAULT_PLAN.decisions
