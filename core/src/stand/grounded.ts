import {
  EMPTY_REGION,
  isEmptyRegion,
  piecesNear,
  regionAreaMm2,
  type Region,
  type RememberingEngine,
} from '../polygon'
import type { Checkpoint } from '../slice'
import { isHair } from './hair'
import { landingOn, type Waiting } from './landing'
import type { Outlines } from './outlines'

/** A rim twice this wide comes from thinned outlines, not from anything that hangs. */
const HAIR_MM = 0.01

export type Ground = {
  readonly lineWidthMm: number
  readonly heightMm: number
  /** How far a level may step out beyond the one below. */
  readonly stepMm: number
  /** Whether stands may begin on the part, and how many levels stay free there, for a level. */
  readonly onPart: boolean
  freeBelow(level: number): number
}

/** What of columns stands on something, and where of it begins on the part. */
export type Grounded = {
  readonly columns: readonly Region[]
  readonly starts: ReadonlyMap<number, Region>
  /** What of levels begins on the part, too narrow for a line, and waits until more of it can hold one. */
  readonly waiting: Waiting
}

/**
 * Leaves out of columns whatever would begin in mid-air: from the bed upwards each level may step out a
 * little beyond the one below, or begin on the part where that is allowed. What is too narrow for a line goes
 * as well; wider levels below it stay whole.
 */
export async function grounded(
  columns: readonly Region[],
  outlines: Outlines,
  engine: RememberingEngine,
  ground: Ground,
  checkpoint?: Checkpoint,
): Promise<Grounded> {
  const standing: Region[] = []
  const starts = new Map<number, Region>()
  const landing = landingOn(ground, engine)
  for (let k = 0; k < columns.length; k++) {
    if (checkpoint && k % 8 === 0) await checkpoint(k, columns.length)
    const own = k === 0 ? columns[0] : groundedAt(k)
    standing[k] = landing.laid(k, own, starts.get(k), k === 0 ? [] : [standing[k - 1]])
    if (isEmptyRegion(standing[k])) starts.delete(k)
  }
  return { columns: standing, starts, waiting: landing.waiting }

  /** What of a level the one below carries, or the part. */
  function groundedAt(k: number): Region {
    const wanted = columns[k]
    if (isEmptyRegion(wanted)) return wanted
    const below = standing[k - 1]
    if (wanted === below) return wanted
    const hanging = isEmptyRegion(below) ? wanted : engine.minus(wanted, below)
    if (isHair(hanging, HAIR_MM, engine)) return wanted
    const carried = piecesNear([below], hanging, ground.stepMm).map((piece) =>
      engine.grow(piece, ground.stepMm, 'round', HAIR_MM),
    )
    const onPart = ground.onPart ? outlines.at(k - ground.freeBelow(k) - 1) : EMPTY_REGION
    if (!isEmptyRegion(onPart)) {
      const start = engine.common(hanging, onPart)
      if (regionAreaMm2(start) > HAIR_MM) starts.set(k, start)
    }
    const over = engine.minusAll([hanging], [...carried, onPart, ...landing.awaited(k)])
    return isEmptyRegion(over) ? wanted : engine.fewer(engine.minus(wanted, over), HAIR_MM)
  }
}
