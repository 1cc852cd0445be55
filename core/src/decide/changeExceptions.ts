import type { PatchKind } from '../overhang'
import type { PlanChange } from './changePlan'
import type { Holding } from './decisions'
import type { PlanDocument } from './document'
import type { Exception, Where } from './exceptions'

/** A change of decisions that is meant for one exception of a plan instead of its letter. */
export const withinException = (
  { exceptions }: PlanDocument,
  index: number,
  { decisions, ...change }: PlanChange,
): PlanChange => ({
  ...change,
  exceptions: exceptions.map((one, e) => (e === index ? { ...one, ...decisions } : one)),
})

/** What an exception decides by itself. */
export function differsIn({ where: _, evidence: __, ...own }: Exception): (keyof Holding)[] {
  return (Object.keys(own) as (keyof Holding)[]).filter((name) => own[name] !== undefined)
}

/**
 * Lets an exception differ in just these decisions: those it already has stay, new ones begin as the letter
 * has them.
 */
export function letDiffer(
  { decisions, exceptions }: PlanDocument,
  index: number,
  names: readonly (keyof Holding)[],
): PlanChange {
  const own = exceptions[index]
  const kept = Object.fromEntries(
    names.map((name) => [name, own[name] ?? (name === 'supports' ? !decisions.supports : decisions[name])]),
  )
  const next: Exception = { where: own.where, ...kept }
  return { exceptions: exceptions.map((one, e) => (e === index ? next : one)) }
}

/** An exception more, which at first differs in its gap alone, though not in its value. */
export const addException = ({ decisions, exceptions }: PlanDocument, where: Where): PlanChange => ({
  exceptions: [...exceptions, { where, upperGapMm: decisions.upperGapMm }],
})

/** Decides something otherwise under undersides of one kind; what is said of that kind already goes on. */
export function differUnder(
  { exceptions }: PlanDocument,
  kind: PatchKind,
  values: Partial<Holding>,
): PlanChange {
  const own = exceptions.findLast(({ where }) => 'kind' in where && where.kind === kind)
  return {
    exceptions: own
      ? exceptions.map((one) => (one === own ? { ...one, ...values } : one))
      : [...exceptions, { where: { kind }, ...values }],
  }
}

/**
 * Touches flat undersides alone with a filament that lets go well, and all others with the part's own:
 * rounded and sloped ones gain little by it, and each of their layers costs two swaps.
 */
export function touchFlatAlone(
  { decisions, exceptions }: PlanDocument,
  interfaceFilament: string,
): PlanChange {
  const others = exceptions.filter(({ where }) => !('kind' in where && where.kind === 'flat'))
  return {
    decisions: { interfaceFilament: decisions.partFilament },
    exceptions: [...others, { where: { kind: 'flat' }, interfaceFilament }],
  }
}
