import type { PlanDocument } from '@tender/core/decide'
import type { PlanSummary } from '@tender/core/plan'
import type { StoredFilament } from './filament'
import type { Printer } from './printer'

/**
 * What of a plan does not agree with what sits on the printer, as sentences; empty when all is loaded or
 * nobody keeps a map.
 */
export function loadProblems(
  document: PlanDocument,
  uses: PlanSummary['estimate']['filaments'],
  printers: readonly Printer[],
  filaments: readonly StoredFilament[],
): string[] {
  const printer = printers.find((one) => one.id === document.printer.id)
  if (!printer || printer.loaded.every((spool) => spool === null)) return []
  const place = printer.feed === 'changer' ? 'slot' : 'nozzle'
  return uses.flatMap(({ id: used, name, g }) => {
    const filament = filaments.find((one) => one.id === used)
    const spool = filament?.spools.find(({ id }) => printer.loaded.includes(id))
    if (!spool) return [`${name} sits on no ${place} of ${printer.name}.`]
    const short =
      g > spool.gramsLeft
        ? [
            `The spool of ${name} on ${printer.name} has ${Math.round(spool.gramsLeft)} g left, ${g.toFixed(1)} g are needed: another has to follow.`,
          ]
        : []
    const damp = spool.damp ? [`The spool of ${name} on ${printer.name} is damp; dry it first.`] : []
    return [...short, ...damp]
  })
}
