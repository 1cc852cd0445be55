import type { Region, RememberingEngine } from '../polygon'
import { isHair } from './hair'

/** Less than this beyond what a layer may step out by comes from rounding. */
export const HAIR_MM = 0.005

/**
 * What of a region steps out too far beyond what lies below it and where it may begin; null for nothing.
 * @param mayBegin asked only where something does step out
 */
export function beyond(
  region: Region,
  below: readonly Region[],
  stepMm: number,
  mayBegin: () => readonly Region[],
  engine: RememberingEngine,
): Region | null {
  // Outlines may have spikes without any width, which carry nothing.
  const carried = below.map((one) =>
    engine.grow(engine.grow(one, -HAIR_MM, 'miter'), stepMm + 2 * HAIR_MM, 'round', HAIR_MM),
  )
  const over = engine.minusAll([region], carried)
  if (isHair(over, HAIR_MM, engine)) return null
  const hanging = engine.minusAll([over], mayBegin())
  return isHair(hanging, HAIR_MM, engine) ? null : hanging
}
