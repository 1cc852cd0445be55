import { farthestApartMm, type Decisions, type Holding } from '../decide'
import type { Section } from '../release'
import { BRANCH_WALLS } from '../stand'

/** How much of a section of a stand is plastic, as its walls and lines are laid. */
export function plasticShare(
  { areaMm2, perimeterMm }: Pick<Section, 'areaMm2' | 'perimeterMm'>,
  { standDensity, standWalls, standKind }: Pick<Holding, 'standDensity' | 'standWalls' | 'standKind'>,
  lines: Pick<Decisions, 'lineWidthMm' | 'supportSpanMm'>,
): number {
  const { lineWidthMm } = lines
  const ofWalls = (walls: number) => (walls * lineWidthMm * perimeterMm) / Math.max(areaMm2, 1e-9)
  const filled = Math.max(standDensity, lineWidthMm / farthestApartMm(lines)) + ofWalls(standWalls)
  // Branches are hollow, crowns filled: whichever it is that stands there.
  const hollow = standKind === 'branching' ? ofWalls(Math.max(BRANCH_WALLS, standWalls)) : 0
  return Math.min(1, Math.max(filled, hollow))
}
