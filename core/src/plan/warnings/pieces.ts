import type { StandPiece } from '../../release'
import type { Contact } from '../planResult'
import { mm } from '../inWords'

/** What a piece of support holds. */
export const heldBy = (piece: StandPiece, contacts: readonly Contact[]): Contact[] =>
  contacts.filter(
    ({ atMm, zMm, areaMm2 }) =>
      areaMm2 > 0 && piece.distanceMm([...atMm, zMm], 3 * piece.cellMm) < 3 * piece.cellMm,
  )

/** Where it is, as sentences say it. */
export const place = ({ atMm }: StandPiece): string =>
  `${mm(Math.round(atMm[0]))}, ${mm(Math.round(atMm[1]))} at ${mm(Math.round(atMm[2]))} height`
