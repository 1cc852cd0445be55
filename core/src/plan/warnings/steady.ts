import { leastHeldN, unsteadiness, wavering, type StandPiece, type Steadiness } from '../../release'
import { steadinessIn } from '../release'
import { feetOf, ruledBy, steadier } from '../remedies'
import { heldBy, place } from './pieces'
import { warning, type PlanWarning, type Warned } from './warning'

/** Stands that a nozzle tips off the bed or bends, and the least that would hold them. */
export function steadyWarnings(warned: Warned): PlanWarning[] {
  const { document, groups, geometry, contacts, engine } = warned
  const steadiness = steadinessIn(document, groups, geometry)
  const weak: { piece: StandPiece; steady: Steadiness }[] = []
  for (const [piece, steady] of steadiness) if (unsteadiness(steady)) weak.push({ piece, steady })
  if (weak.length === 0) return []
  const { piece, steady } = weak.reduce((a, b) => (leastHeldN(b.steady) < leastHeldN(a.steady) ? b : a))
  const sentence = ruledBy(heldBy(piece, contacts))
  const alike = weak.filter((one) => ruledBy(heldBy(one.piece, contacts)) === sentence)
  const { sure, remedies } = steadier(
    alike.flatMap((one) => wavering(one.steady)),
    sentence,
    document,
    feetOf([...steadiness.values()], document, geometry.layers, engine),
  )
  const [first] = remedies
  const them = alike.length === weak.length && weak.length > 1 ? 'them' : 'it'
  const mend = sure
    ? ` ${first.words.charAt(0).toUpperCase()}${first.words.slice(1)} would hold ${them}.`
    : ` Neither footing nor denser lines would hold it; ${first ? `${first.words} may, ` : ''}another pose or leaving it free spares it.`
  return [
    warning(
      'UNSTEADY',
      `${weak.length === 1 ? 'A stand' : `${weak.length} stands, the weakest`} around ${place(piece)} is ${Math.round(steady.heightMm)} mm tall: by what beds and plastic usually hold, a guess, ${unsteadiness(steady)}.${mend}`,
      { atMm: [...piece.atMm], remedies },
    ),
  ]
}
