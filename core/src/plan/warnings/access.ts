import { factsOf, filamentOf } from '../../bench'
import { bookOf } from '../../decide'
import { standPieces, type StandPiece } from '../../release'
import { error, mm, warning, type PlanWarning, type Warned } from './warning'

/** Narrower than this nothing gets in. */
const NO_TOOL_MM = 1.5
/** Through less than this a stand of some size only comes out in pieces. */
const NARROW_MM = 10
const SOME_SIZE_MM3 = 1500
/** So many times as tall as it is thick, a stand gives way to the nozzle. */
const SLENDER = 14
/** Pieces smaller than this are specks of the grid. */
const SPECK_MM3 = 8

/** Supports that cannot be got at, and stands too slender to stand. */
export function accessWarnings({ document, geometry }: Warned): PlanWarning[] {
  const passes = geometry.passes.filter(({ role }) => role === 'stand' || role === 'interface')
  const pieces = standPieces(geometry.layers, passes).filter(({ grossMm3 }) => grossMm3 >= SPECK_MM3)
  return [...lockedIn(document, pieces), ...unsteady(pieces)]
}

function lockedIn(document: Warned['document'], pieces: readonly StandPiece[]): PlanWarning[] {
  const closed = pieces.filter(({ openingMm }) => openingMm < NO_TOOL_MM)
  const narrow = pieces.filter(
    ({ openingMm, grossMm3 }) => openingMm >= NO_TOOL_MM && openingMm < NARROW_MM && grossMm3 > SOME_SIZE_MM3,
  )
  const { standFilament, interfaceFilament } = document.decisions
  const dissolves = [standFilament, interfaceFilament].every(
    (id) => factsOf(filamentOf(document.filaments, id).family, bookOf(document)).dissolvesIn !== null,
  )
  const found: PlanWarning[] = []
  if (closed.length > 0) {
    const most = largest(closed)
    found.push(
      error(
        'LOCKED_IN',
        `${counted(closed)} of support ${closed.length === 1 ? 'is' : 'are'} locked in, ${volume(most)} around ${place(most)}: ${most.openingMm > 0 && dissolves ? 'liquid gets in through a crack only' : 'nothing gets in there'}. Leave it free, cut the part, or open it.`,
        { atMm: [...most.atMm] },
      ),
    )
  }
  if (narrow.length > 0 && !dissolves) {
    const most = largest(narrow)
    found.push(
      warning(
        'LOCKED_IN',
        `${volume(most)} of support around ${place(most)} must come out through an opening about ${Math.round(most.openingMm)} mm wide, in pieces. A filament that dissolves, another pose or a wider opening would spare that.`,
        { atMm: [...most.atMm] },
      ),
    )
  }
  return found
}

function unsteady(pieces: readonly StandPiece[]): PlanWarning[] {
  const slender = pieces.filter(({ onBed, heightMm, thickMm }) => onBed && heightMm > SLENDER * thickMm)
  if (slender.length === 0) return []
  const worst = slender.reduce((a, b) => (b.heightMm / b.thickMm > a.heightMm / a.thickMm ? b : a))
  return [
    warning(
      'UNSTEADY',
      `${slender.length === 1 ? 'A stand' : `${slender.length} stands, the most slender`} around ${place(worst)} is ${Math.round(worst.heightMm)} mm tall and about ${worst.thickMm.toFixed(1)} mm thick: the nozzle may push it over. A wider margin makes it thicker, more lines of footing hold it on the bed.`,
      { atMm: [...worst.atMm] },
    ),
  ]
}

const largest = (pieces: readonly StandPiece[]) => pieces.reduce((a, b) => (b.grossMm3 > a.grossMm3 ? b : a))
const counted = (pieces: readonly StandPiece[]) =>
  pieces.length === 1 ? 'One piece' : `${pieces.length} pieces`
const volume = ({ grossMm3 }: StandPiece) => `${Number((grossMm3 / 1000).toPrecision(2))} cm³`
const place = ({ atMm }: StandPiece) =>
  `${mm(Math.round(atMm[0]))}, ${mm(Math.round(atMm[1]))} at ${mm(Math.round(atMm[2]))} height`
