import { piecesNear, type Region, type RememberingEngine } from '../polygon'
import { isHair } from './hair'

/** Less than this beyond what a layer may step out by comes from rounding. */
export const HAIR_MM = 0.005

/**
 * What of a region steps out too far beyond what lies below it and where it may begin; null for nothing.
 * @param below without needles: those carry nothing
 * @param mayBegin asked only where something does step out
 */
export function beyond(
  region: Region,
  below: readonly Region[],
  stepMm: number,
  mayBegin: () => readonly Region[],
  engine: RememberingEngine,
): Region | null {
  // Mostly nothing lies beside what is below; only where something does, what is near it is grown.
  const beside = engine.minusAll([region], below)
  if (isHair(beside, HAIR_MM, engine)) return null
  const farMm = stepMm + HAIR_MM
  const carried = piecesNear(below, beside, farMm).map((piece) => engine.grow(piece, farMm, 'round', HAIR_MM))
  const over = engine.minusAll([beside], carried)
  if (isHair(over, HAIR_MM, engine)) return null
  const hanging = engine.minusAll([over], mayBegin())
  return isHair(hanging, HAIR_MM, engine) ? null : hanging
}
