import { sharesNozzle, thicknessOf, type Filament } from '../bench'
import { livesTogether } from '../pairing'
import { PATCH_KINDS, type PatchKind } from '../overhang'
import { BRANCHES, type Branches } from '../stand'
import { differUnder, touchFlatAlone } from './changeExceptions'
import { changePlan, type BenchFacts, type PlanChange } from './changePlan'
import { DECISION_RANGES, type Decisions, type NumberDecision } from './decisions'
import type { PlanDocument } from './document'

/** What a variation is about: two of one subject do not go together. */
export const SUBJECTS = [
  'nothing',
  'stand',
  'touching',
  'gap',
  'layer',
  'number',
  'density',
  'placement',
  'purge',
] as const
export type Subject = (typeof SUBJECTS)[number]

/** A plan changed in one thing. */
export type Variation = {
  readonly subject: Subject
  readonly words: string
  readonly document: PlanDocument
  /** The change itself when it asks no readings, so that it can be made to another variation as well. */
  readonly plain: Partial<Decisions> | null
}

export type VariationBench = BenchFacts & {
  /** Filaments that could be loaded. */
  readonly filaments: readonly Filament[]
}

const UNDER: Record<PatchKind, string> = {
  flat: 'flat undersides',
  sloped: 'sloped undersides',
  rounded: 'rounded undersides',
  tip: 'tips',
}

const BRANCHING: Record<Branches, string> = {
  slim: 'branching stands',
  sturdy: 'branching stands with thick branches',
}

/** Filaments that are tried for touching. */
const MOST_FILAMENTS = 3

/**
 * A plan as it is, and changed in one thing at a time: whatever may make it lighter, quicker or come off
 * better.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function variationsOf(document: PlanDocument, bench: VariationBench): Variation[] {
  const { decisions: d, printer, evidence } = document
  const found: Variation[] = [{ subject: 'nothing', words: 'as it is', document, plain: {} }]
  const add = (subject: Subject, words: string, change: PlanChange, isPlain = true) =>
    found.push({
      subject,
      words,
      document: changePlan(document, change, bench),
      plain: isPlain ? (change.decisions ?? null) : null,
    })
  const number = (
    subject: Subject,
    name: NumberDecision,
    wanted: number,
    words: (value: number) => string,
    isPlain = true,
  ) => {
    const [low, high, step] = DECISION_RANGES[name]
    const value = Number((Math.round(Math.min(high, Math.max(low, wanted)) / step) * step).toFixed(4))
    if (Math.abs(value - d[name]) > step / 2)
      add(subject, words(value), { decisions: { [name]: value } }, isPlain)
  }
  if (!d.supports) return found

  if (d.standKind === 'branching') add('stand', 'straight stands', { decisions: { standKind: 'straight' } })
  for (const branches of BRANCHES)
    if (d.standKind === 'straight' || d.branches !== branches)
      add('stand', BRANCHING[branches], { decisions: { standKind: 'branching', branches } })
  // Where each kind pays differs with the underside: straight stands under what is wide and flat, branches
  // under what is high and small.
  for (const kind of PATCH_KINDS.filter((one) => d.standKind === 'straight' || one === 'flat')) {
    const standKind = d.standKind === 'straight' ? 'branching' : 'straight'
    add(
      'stand',
      `${standKind} stands under ${UNDER[kind]} alone`,
      differUnder(document, kind, { standKind }),
      false,
    )
  }
  if (!d.thickStands && d.standKind === 'straight')
    add('stand', 'stand layers twice as thick', { decisions: { thickStands: true } })
  add('placement', d.placement === 'bed' ? 'stands on the part as well' : 'stands from the bed alone', {
    decisions: { placement: d.placement === 'bed' ? 'anywhere' : 'bed' },
  })
  const swaps = new Set([d.partFilament, d.standFilament, d.interfaceFilament]).size > 1
  if (swaps && sharesNozzle(printer) && d.purgeInto === 'nothing')
    add('purge', 'stands take leftovers first', { decisions: { purgeInto: 'stands' } })
  const [thin, thick] = thicknessOf(printer)
  for (const by of [0.8, 1.25])
    number(
      'layer',
      'layerHeightMm',
      Math.min(thick, Math.max(thin, d.layerHeightMm * by)),
      (mm) => `${mm.toFixed(2)} mm layers`,
      false,
    )
  const gap = evidence.upperGapMm
  for (const end of [gap?.low, gap?.high])
    if (typeof end === 'number')
      number('gap', 'upperGapMm', (end + d.upperGapMm) / 2, (mm) => `${mm.toFixed(2)} mm of gap`)
  number('number', 'interfaceLayers', d.interfaceLayers - 1, (n) => `${n} interface layers`)
  number('number', 'interfaceLayers', d.interfaceLayers + 1, (n) => `${n} interface layers`)
  if (d.interfaceLayers > 1)
    add(
      'number',
      `1 interface layer under ${UNDER.sloped} alone`,
      differUnder(document, 'sloped', { interfaceLayers: 1 }),
      false,
    )
  for (const by of [0.7, 1.5])
    number(
      'density',
      'standDensity',
      d.standDensity * by,
      (share) => `stands of ${Math.round(100 * share)} %`,
    )

  const part = document.filaments.find(({ id }) => id === d.partFilament)!
  const others = bench.filaments
    .filter(({ id }) => id !== d.partFilament)
    .filter((other) => livesTogether(part, other, printer, bench.book).every(({ grade }) => grade !== 'bad'))
    .slice(0, MOST_FILAMENTS)
  for (const other of others) {
    if (other.id !== d.interfaceFilament)
      add(
        'touching',
        `touched by ${other.name}`,
        { decisions: { interfaceFilament: other.id }, filaments: [other] },
        false,
      )
    add(
      'touching',
      `touched by ${other.name} under flat undersides alone`,
      { ...touchFlatAlone(document, other.id), filaments: [other] },
      false,
    )
  }
  if (d.interfaceFilament !== d.partFilament)
    add(
      'touching',
      `touched by ${part.name}`,
      { decisions: { interfaceFilament: part.id }, exceptions: [] },
      false,
    )
  return found
}

/** How a plan does, in what is compared. */
export type Standing = {
  readonly massG: number
  readonly timeS: number
  readonly pTender: number | null
  /** 0 comes out whole, 1 in pieces, 2 locked in. */
  readonly release: number
  readonly errors: number
  /** Whether a nozzle may push some of it over, or bend it. */
  readonly unsteady: boolean
  /** Wanted, and with nothing below it. */
  readonly unheldMm2: number
}

const better = (a: Standing, b: Standing): readonly number[] => [
  b.massG - a.massG,
  (b.timeS - a.timeS) / 60,
  ((a.pTender ?? 0) - (b.pTender ?? 0)) * 100,
  b.release - a.release,
  b.errors - a.errors,
  Number(b.unsteady) - Number(a.unsteady),
  (b.unheldMm2 - a.unheldMm2) / 5,
]
/**
 * Smaller differences are none: a fifth of a gram, of a minute and of a hundredth of a chance, a square
 * millimetre left free.
 */
const SAME = 0.2

/** Those that no other one equals in everything and beats in something; of two alike the earlier stays. */
export function nothingBeats<T extends { readonly standing: Standing }>(all: readonly T[]): T[] {
  return all.filter((one, i) =>
    all.every((other, j) => {
      if (i === j) return true
      const by = better(other.standing, one.standing)
      const beats = by.every((d) => d > -SAME) && (by.some((d) => d > SAME) || j < i)
      return !beats
    }),
  )
}

/**
 * Whether a plan holds about as much as another and has no more to mend: one that leaves more free is no
 * better plan, however light.
 */
export const holdsAsMuch = (one: Standing, base: Standing): boolean =>
  one.errors <= base.errors && one.unheldMm2 <= 1.1 * base.unheldMm2 + 20

/**
 * Pairs of what nothing beats, of different subjects; the second of each pair asks no readings.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function pairsOf(
  singles: readonly { readonly variation: Variation; readonly standing: Standing }[],
  most: number,
): Variation[] {
  const base = singles.find(({ variation }) => variation.subject === 'nothing')
  const good = nothingBeats(singles.filter(({ standing }) => !base || holdsAsMuch(standing, base.standing)))
    .map(({ variation }) => variation)
    .filter(({ subject }) => subject !== 'nothing')
  const pairs: Variation[] = []
  for (const [i, first] of good.entries())
    for (const [j, second] of good.entries()) {
      // Of two that ask nothing one order is enough.
      if (first.subject === second.subject || second.plain === null || (first.plain !== null && j < i))
        continue
      pairs.push({
        subject: first.subject,
        words: `${first.words}, ${second.words}`,
        document: changePlan(first.document, { decisions: second.plain }),
        plain: null,
      })
    }
  return pairs.slice(0, most)
}
