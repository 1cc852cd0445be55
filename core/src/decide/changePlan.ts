import type { FamilyBook, Filament, Printer } from '../bench'
import type { KnownTrial } from '../trial'
import type { Decisions } from './decisions'
import { clingsOf, startingPurgeWhere, type PlanDocument } from './document'
import type { Exception, Post } from './exceptions'
import { followEvidence } from './followEvidence'

/** What readings and clings a change goes by. Without trials a document keeps the evidence it has. */
export type BenchFacts = { readonly trials?: readonly KnownTrial[]; readonly book?: FamilyBook }

/** One change of a plan: by a key, a card, a what-if, an exception or the command line. */
export type PlanChange = {
  readonly decisions?: Partial<Decisions>
  /** Filaments that the decisions name and the document may not bring yet. */
  readonly filaments?: readonly Filament[]
  readonly printer?: Printer
  readonly exceptions?: readonly Exception[]
  readonly posts?: readonly Post[]
  readonly name?: string
}

/** Decisions that evidence depends on: when they change, the readings are asked anew. */
const ASKS_ANEW: readonly (keyof Decisions)[] = [
  'layerHeightMm',
  'lineWidthMm',
  'fanPercent',
  'partFilament',
  'standFilament',
  'interfaceFilament',
  'thickStands',
]

/**
 * A document changed. Everything that hangs on the change comes along: the evidence of another filament or
 * layer, values that stood where the evidence put them, filaments and clings that are used. What the maker
 * moved stays.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function changePlan(
  document: PlanDocument,
  change: PlanChange,
  { trials, book }: BenchFacts = {},
): PlanDocument {
  const { decisions, filaments = [], ...rest } = change
  const next = withFilaments(
    {
      ...document,
      ...rest,
      decisions: { ...document.decisions, ...onPrinter(document, change), ...decisions },
    },
    filaments,
    book,
  )
  const asksAnew =
    change.printer !== undefined ||
    change.exceptions !== undefined ||
    ASKS_ANEW.some((name) => decisions && name in decisions && decisions[name] !== document.decisions[name])
  return trials && asksAnew ? followEvidence(next, trials, book) : next
}

/** What another printer asks for where the plan stood as its own started. */
function onPrinter({ decisions, printer }: PlanDocument, change: PlanChange): Partial<Decisions> {
  return change.printer && decisions.purgeWhere === startingPurgeWhere(printer)
    ? { purgeWhere: startingPurgeWhere(change.printer) }
    : {}
}

/**
 * The document with just the filaments that it uses, those given instead of the ones of the same identity,
 * and their clings.
 */
function withFilaments(document: PlanDocument, given: readonly Filament[], book?: FamilyBook): PlanDocument {
  const { decisions, exceptions } = document
  const used = new Set([decisions.partFilament, decisions.standFilament, decisions.interfaceFilament])
  for (const { standFilament, interfaceFilament } of exceptions) {
    if (standFilament !== undefined) used.add(standFilament)
    if (interfaceFilament !== undefined) used.add(interfaceFilament)
  }
  const fresh = new Set(given.map(({ id }) => id))
  const filaments = [...document.filaments.filter(({ id }) => !fresh.has(id)), ...given].filter(({ id }) =>
    used.has(id),
  )
  const isSame =
    filaments.length === document.filaments.length &&
    filaments.every((one, i) => one === document.filaments[i])
  if (isSame && book === undefined) return document
  return {
    ...document,
    filaments,
    cling: { ...clingsOf(filaments), ...(book ? clingsOf(filaments, book) : kept(document, filaments)) },
  }
}

/** Clings that the document has of these filaments already. */
function kept(document: PlanDocument, filaments: readonly Filament[]) {
  const wanted = clingsOf(filaments)
  return Object.fromEntries(Object.entries(document.cling).filter(([key]) => key in wanted))
}
