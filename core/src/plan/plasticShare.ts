import { farthestApartMm, type Decisions, type Holding } from '../decide'
import type { Section } from '../release'

/** How much of a section of a stand is plastic, as its walls and lines are laid. */
export function plasticShare(
  { areaMm2, perimeterMm }: Pick<Section, 'areaMm2' | 'perimeterMm'>,
  { standDensity, standWalls }: Pick<Holding, 'standDensity' | 'standWalls'>,
  lines: Pick<Decisions, 'lineWidthMm' | 'supportSpanMm'>,
): number {
  const { lineWidthMm } = lines
  const density = Math.max(standDensity, lineWidthMm / farthestApartMm(lines))
  return Math.min(1, density + (standWalls * lineWidthMm * perimeterMm) / Math.max(areaMm2, 1e-9))
}
