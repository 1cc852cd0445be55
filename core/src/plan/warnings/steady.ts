import { DECISION_RANGES, holdingUnder, type Holding } from '../../decide'
import { regionContains, splitPieces } from '../../polygon'
import {
  insideOf,
  NOZZLE_PUSHES_N,
  tippedByN,
  unsteadiness,
  type StandPiece,
  type Steadiness,
} from '../../release'
import { plasticShare, steadinessIn } from '../release'
import { heldBy, place } from './pieces'
import { holdOtherwise, mm, warning, type PlanRemedy, type PlanWarning, type Warned } from './warning'

/** Corners of footing may stray this far from round. */
const ROUND_MM = 0.01

type Weak = { readonly piece: StandPiece; readonly steady: Steadiness }
/** A change of the letter, and one of the sentence that rules a stand. */
type Mend = {
  readonly words: string
  readonly decisions?: { readonly footingLines: number }
  readonly holding?: Partial<Pick<Holding, 'standWalls' | 'standDensity' | 'marginMm'>>
}

/** Stands that a nozzle tips off the bed or bends, and the least that would hold them. */
export function steadyWarnings(warned: Warned): PlanWarning[] {
  const { document, groups, geometry, contacts } = warned
  const steadiness = steadinessIn(document, groups, geometry)
  const weak: Weak[] = []
  for (const [piece, steady] of steadiness) if (unsteadiness(steady)) weak.push({ piece, steady })
  if (weak.length === 0) return []
  const { piece, steady } = weak.reduce((a, b) => (b.steady.holdsN < a.steady.holdsN ? b : a))
  const sentence = ruling(heldBy(piece, contacts))
  const alike = weak.filter((one) => ruling(heldBy(one.piece, contacts)) === sentence)
  const { sure, mends } = mendsOf(alike, [...steadiness.values()], sentence, warned)
  const [first] = mends
  const them = alike.length === weak.length && weak.length > 1 ? 'them' : 'it'
  const mend = sure
    ? ` ${first.words.charAt(0).toUpperCase()}${first.words.slice(1)} would hold ${them}.`
    : ' Neither footing nor denser lines would hold it; a wider margin may, another pose or leaving it free spares it.'
  return [
    warning(
      'UNSTEADY',
      `${weak.length === 1 ? 'A stand' : `${weak.length} stands, the weakest`} around ${place(piece)} is ${Math.round(steady.heightMm)} mm tall: by what beds and plastic usually hold, a guess, ${unsteadiness(steady)}.${mend}`,
      { atMm: [...piece.atMm], remedies: mends.map((one) => remedyOf(one, document, sentence)) },
    ),
  ]
}

/** The exception that rules all of some undersides; null when that is the letter, or several of them do. */
function ruling(contacts: ReturnType<typeof heldBy>): number | null {
  const [first] = contacts
  return first && first.holding > 0 && contacts.every(({ holding }) => holding === first.holding)
    ? first.holding - 1
    : null
}

/**
 * A wider foot, and what makes stands stiffer, each as little as holds them; a wider margin where that does
 * not.
 * @param all stands on the bed
 * @param sentence the exception that rules the weak ones; null for the letter
 */
function mendsOf(
  weak: readonly Weak[],
  all: readonly Steadiness[],
  sentence: number | null,
  warned: Warned,
): { readonly sure: boolean; readonly mends: readonly Mend[] } {
  const { decisions } = warned.document
  const own = holdingOfSentence(warned.document, sentence)
  const tipping = weak.filter(({ steady }) => steady.tipsN < NOZZLE_PUSHES_N)
  const bending = weak.filter(({ steady }) => steady.bendsN < NOZZLE_PUSHES_N)
  const lines = tipping.length === 0 ? decisions.footingLines : footingFor(tipping, all, warned)
  const stiffer = stifferBy(bending, own, decisions)
  if (lines === null || (bending.length > 0 && stiffer.length === 0)) {
    const marginMm = Number((own.marginMm + WIDER_MM).toFixed(2))
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

/** By so much more a margin is tried where nothing else helps. */
const WIDER_MM = 1

/** Fewest lines of footing with which none of some stands tips; null where no number does. */
function footingFor(
  weak: readonly Weak[],
  all: readonly Steadiness[],
  { document, geometry, engine }: Warned,
): number | null {
  const { decisions, exceptions } = document
  const { lineWidthMm, footingLines } = decisions
  const sideGapMm = Math.max(...[decisions, ...exceptions].map((one) => one.sideGapMm ?? 0))
  const part = engine.grow(geometry.layers[0].region, sideGapMm, 'round', ROUND_MM)
  const standing = engine.union(...all.flatMap(({ outlines }) => outlines))
  const hold = (lines: number) => {
    const grown = engine.grow(standing, lines * lineWidthMm, 'round', ROUND_MM)
    const feet = splitPieces(engine.minus(grown, part))
    return weak.every(({ steady: { outlines, heightMm } }) => {
      const inside = outlines.map(insideOf)
      const own = feet.filter((foot) => inside.some(([x, y]) => regionContains(foot, x, y)))
      return tippedByN(own, heightMm) >= NOZZLE_PUSHES_N
    })
  }
  let [least, most]: [number, number] = [footingLines, DECISION_RANGES.footingLines[1]]
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
  weak: readonly Weak[],
  { standWalls, standDensity }: Holding,
  lines: Warned['document']['decisions'],
): Mend[] {
  const shareOf = ({ section }: Steadiness, walls: number, density: number) =>
    plasticShare(section, { standWalls: walls, standDensity: density }, lines)
  const hold = (walls: number, density: number) =>
    weak.every(
      ({ steady }) =>
        shareOf(steady, walls, density) * steady.bendsN >=
        shareOf(steady, standWalls, standDensity) * NOZZLE_PUSHES_N,
    )
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

const holdingOfSentence = (
  { decisions, exceptions }: Warned['document'],
  sentence: number | null,
): Holding => (sentence === null ? decisions : holdingUnder(decisions, exceptions[sentence]))

function remedyOf(
  { words, decisions, holding }: Mend,
  document: Warned['document'],
  sentence: number | null,
): PlanRemedy {
  // Footing is of the letter alone.
  const where = holding && sentence !== null ? ' there' : ''
  return holdOtherwise(document, holding ? sentence : null, `${words}${where}`, holding ?? {}, decisions)
}
