import { DECISION_RANGES, holdingUnder, type Holding, type PlanDocument } from '../../decide'
import { regionContains, splitPieces, type PolygonEngine, type Region } from '../../polygon'
import { insideOf, tippedByN, type Pushed, type Steadiness } from '../../release'
import { NOZZLE_PUSHES_N } from '../../stand'
import { mm } from '../inWords'
import { plasticShare } from '../plasticShare'
import type { PlanGeometry } from '../planResult'
import { holdOtherwise, type PlanRemedy } from './remedy'

/** Outlines of footing may stray this far. */
const STRAYS_MM = 0.01

/** Feet of the stands of a plan with so many lines of footing, cut by the part beside them. */
export type FeetWith = (lines: number) => readonly Region[]
/** A change of the letter, and one of the sentence that rules a stand. */
type Mend = {
  readonly words: string
  readonly decisions?: { readonly footingLines: number }
  readonly holding?: Partial<
    Pick<Holding, 'standKind' | 'branches' | 'standWalls' | 'standDensity' | 'marginMm'>
  >
}

/**
 * A wider foot, and what makes stands stiffer, each as little as holds some of them; a wider margin where
 * that does not.
 * @param weak stands that a nozzle pushes over or bends, and legs of them
 * @param sentence the exception that rules them; null for the letter
 * @returns remedies, and whether they are sure to hold
 */
export function steadier(
  weak: readonly Pushed[],
  sentence: number | null,
  document: PlanDocument,
  feetWith: FeetWith,
): { readonly sure: boolean; readonly remedies: readonly PlanRemedy[] } {
  const { sure, mends } = mendsOf(weak, sentence, document, feetWith)
  return { sure, remedies: mends.map((mend) => remedyOf(mend, document, sentence)) }
}

function mendsOf(
  weak: readonly Pushed[],
  sentence: number | null,
  { decisions, exceptions }: PlanDocument,
  feetWith: FeetWith,
): { readonly sure: boolean; readonly mends: readonly Mend[] } {
  const own = sentence === null ? decisions : holdingUnder(decisions, exceptions[sentence])
  const tipping = weak.filter(({ tipsN }) => tipsN < NOZZLE_PUSHES_N)
  const bending = weak.filter(({ bendsN }) => bendsN < NOZZLE_PUSHES_N)
  const lines =
    tipping.length === 0 ? decisions.footingLines : footingFor(tipping, decisions.footingLines, feetWith)
  const stiffer = stifferBy(bending, own, decisions)
  if (lines === null || (bending.length > 0 && stiffer.length === 0)) {
    if (own.standKind === 'branching') {
      const straight: Mend = { words: 'straight stands', holding: { standKind: 'straight' } }
      const sturdy: Mend = { words: 'branches thick enough to stand alone', holding: { branches: 'sturdy' } }
      // Branches that rest on the part are not made thicker.
      const areThickened = own.branches === 'slim' && weak.some(({ outlines }) => outlines.length > 0)
      return { sure: false, mends: areThickened ? [sturdy, straight] : [straight] }
    }
    const marginMm = Number(
      (own.marginMm + Math.max(...weak.map((one) => thickerMm(one, own, decisions)))).toFixed(2),
    )
    const wider = { words: `a margin of ${mm(marginMm)}`, holding: { marginMm } }
    return { sure: false, mends: marginMm <= DECISION_RANGES.marginMm[1] ? [wider] : [] }
  }
  const foot = { words: `${lines} lines of footing`, decisions: { footingLines: lines } }
  if (tipping.length === 0) return { sure: true, mends: stiffer }
  if (bending.length === 0) return { sure: true, mends: [foot] }
  return {
    sure: true,
    mends: stiffer.map(({ words, holding }) => ({ ...foot, words: `${foot.words} and ${words}`, holding })),
  }
}

/**
 * How much thicker a stand would have to be to hold a push, in steps of a margin, its section taken as a
 * rectangle. Where a wall is beside it a margin makes it thicker on the other side alone.
 * Source: a rectangle of thickness t bends less by t^3, and tips less by t^2.
 */
function thickerMm(
  { section: { areaMm2, inertiaMm4 }, bendsN, tipsN }: Pushed,
  holding: Holding,
  lines: PlanDocument['decisions'],
): number {
  const thickMm = Math.sqrt((12 * inertiaMm4) / areaMm2)
  const longMm = areaMm2 / thickMm
  const shareAt = (t: number) =>
    plasticShare({ areaMm2: longMm * t, perimeterMm: 2 * (longMm + t) }, holding, lines)
  const [, most, step] = DECISION_RANGES.marginMm
  let moreMm = step
  for (; moreMm < most; moreMm += step) {
    const [wide, times] = [thickMm + moreMm, 1 + moreMm / thickMm]
    const bends = bendsN * (shareAt(wide) / shareAt(thickMm)) * times ** 3
    if (Math.min(bends, tipsN * times ** 2) >= NOZZLE_PUSHES_N) break
  }
  return moreMm
}

/** @param standing all stands; what rests on the part has no foot */
export function feetOf(
  standing: readonly Steadiness[],
  { decisions, exceptions }: PlanDocument,
  layers: PlanGeometry['layers'],
  engine: PolygonEngine,
): FeetWith {
  const known = new Map<number, readonly Region[]>()
  const sideGapMm = Math.max(...[decisions, ...exceptions].map((one) => one.sideGapMm ?? 0))
  let areas: { readonly part: Region; readonly stands: Region } | null = null
  return (lines) => {
    let feet = known.get(lines)
    if (!feet) {
      areas ??= {
        part: engine.grow(layers[0].region, sideGapMm, 'round', STRAYS_MM),
        stands: engine.thin(engine.union(...standing.flatMap(({ outlines }) => outlines)), STRAYS_MM),
      }
      const { part, stands } = areas
      const grown = engine.grow(stands, lines * decisions.lineWidthMm, 'round', STRAYS_MM)
      known.set(lines, (feet = splitPieces(engine.minus(grown, part))))
    }
    return feet
  }
}

/** Fewest lines of footing with which none of some stands tips; null where no number does. */
function footingFor(weak: readonly Pushed[], now: number, feetWith: FeetWith): number | null {
  const inside = weak.map(({ outlines }) => outlines.map(insideOf))
  const hold = (lines: number) =>
    weak.every(({ heightMm }, n) => {
      const own = feetWith(lines).filter((foot) => inside[n].some(([x, y]) => regionContains(foot, x, y)))
      return tippedByN(own, heightMm) >= NOZZLE_PUSHES_N
    })
  let [least, most]: [number, number] = [now, DECISION_RANGES.footingLines[1]]
  if (least >= most || !hold(most)) return null
  while (most - least > 1) {
    const lines = Math.floor((least + most) / 2)
    if (hold(lines)) most = lines
    else least = lines
  }
  return most
}

/** More walls, or denser lines, as few as keep some stands from bending. */
function stifferBy(
  weak: readonly Pushed[],
  { standKind, standWalls, standDensity }: Holding,
  lines: PlanDocument['decisions'],
): Mend[] {
  const shareOf = ({ section }: Pushed, walls: number, density: number) =>
    plasticShare(section, { standKind, standWalls: walls, standDensity: density }, lines)
  const hold = (walls: number, density: number) =>
    weak.every(
      (steady) =>
        shareOf(steady, walls, density) * steady.bendsN >=
        shareOf(steady, standWalls, standDensity) * NOZZLE_PUSHES_N,
    )
  // Neither makes a hollow branch stiffer.
  if (standKind === 'branching') return []
  const mends: Mend[] = []
  for (let walls = standWalls + 1; walls <= DECISION_RANGES.standWalls[1] && mends.length === 0; walls++)
    if (hold(walls, standDensity))
      mends.push({
        words: `${walls - standWalls === 1 ? 'one wall' : 'two walls'} more around stands`,
        holding: { standWalls: walls },
      })
  for (let percent = Math.floor(100 * standDensity) + 1; percent <= 100; percent++)
    if (hold(standWalls, percent / 100)) {
      mends.push({ words: `stands filled to ${percent} %`, holding: { standDensity: percent / 100 } })
      break
    }
  return mends
}

function remedyOf(
  { words, decisions, holding }: Mend,
  document: PlanDocument,
  sentence: number | null,
): PlanRemedy {
  // Footing is of the letter alone.
  const where = holding && sentence !== null ? ' there' : ''
  return holdOtherwise(document, holding ? sentence : null, `${words}${where}`, holding ?? {}, decisions)
}
