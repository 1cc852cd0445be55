import { meet } from './lie'
import { splitPieces } from './pieces'
import { isEmptyRegion, type Region } from './region'

/** The pieces of some regions that may come within a distance of another region. */
export const piecesNear = (regions: readonly Region[], to: Region, withinMm: number): Region[] =>
  regions.flatMap((one) =>
    isEmptyRegion(one) ? [] : splitPieces(one).filter((piece) => meet(piece, to, withinMm)),
  )
