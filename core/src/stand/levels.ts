import { layerBoundaryMm, type Layer } from '../slice'
import type { StackMode } from '../stack'

/** Heights of the part's layers; level k is the slab of its layer k, from zOf(k) to zOf(k + 1). */
export type Levels = {
  readonly count: number
  readonly heightMm: number
  zOf(level: number): number
}

export function levelsOf(layers: readonly Layer[]): Levels {
  const firstMm = layers[0].topMm
  const heightMm = layers.length > 1 ? layers[1].topMm - layers[1].bottomMm : firstMm
  return { count: layers.length, heightMm, zOf: (level) => layerBoundaryMm(level, firstMm, heightMm) }
}

/** A gap in whole levels that stay free, and what is left of it. */
export type GapLevels = { readonly free: number; readonly restMm: number; readonly achievedMm: number }

/** A rest of a gap below this is none: thinner than a printer can tell. */
const NO_REST_MM = 1e-5

/**
 * How a gap divides into levels. Sharing the part's layers it is the nearest whole number of them; with
 * layers of its own a support ends exactly at the gap, so that the rest has to be made up by their thickness.
 */
export function gapLevels(gapMm: number, heightMm: number, mode: StackMode): GapLevels {
  if (mode === 'shared') {
    const free = Math.round(gapMm / heightMm + 1e-9)
    return { free, restMm: 0, achievedMm: free * heightMm }
  }
  const free = Math.floor(gapMm / heightMm + NO_REST_MM)
  const restMm = gapMm - free * heightMm
  return { free, restMm: restMm < NO_REST_MM ? 0 : restMm, achievedMm: gapMm }
}

/**
 * Layers of equal thickness for a span, within what a nozzle can lay.
 * @returns how many; 0 when no number of them does
 */
export function layersFor(spanMm: number, [thinnest, thickest]: readonly [number, number]): number {
  const count = Math.max(1, Math.ceil(spanMm / thickest - 1e-6))
  return spanMm / count >= thinnest - 1e-6 ? count : 0
}
