import type { ToolPaths } from '../path'
import type { Motion } from './motion'
import { measurePaths } from './moveTime'

/** Length of usual lines with as much plastic, and time, of one sweep over the bed. */
export type PathTotals = { readonly laidMm: number; readonly timeS: number }

/**
 * Measures paths and remembers them while the motion stays the same: most of a plan's paths survive a change
 * of one value.
 */
export function createPathMeasurer(): (paths: ToolPaths, motion: Motion) => PathTotals {
  const known = new WeakMap<ToolPaths, { motion: string; measure: PathTotals }>()
  const names = new WeakMap<Motion, string>()
  return (paths, motion) => {
    let name = names.get(motion)
    if (name === undefined)
      names.set(
        motion,
        (name = JSON.stringify([
          motion.speedsMmS,
          motion.travelMmS,
          motion.accelMmS2,
          motion.cornerMmS,
          motion.retractS,
          motion.wipeMm,
        ])),
      )
    const before = known.get(paths)
    if (before?.motion === name) return before.measure
    const { laidMm, timeS } = measurePaths(paths, motion)
    const measure = { laidMm, timeS }
    known.set(paths, { motion: name, measure })
    return measure
  }
}
