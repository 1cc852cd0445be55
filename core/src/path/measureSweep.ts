import { measurePaths, type Motion } from './moveTime'
import type { ToolPaths } from './toolPaths'

/** Length and time of one sweep over the bed. */
export type SweepMeasure = { readonly lengthMm: number; readonly timeS: number }

/** Measures sweeps and remembers them while the motion stays the same: most of a plan's paths survive a change of one value. */
export function createSweepMeasurer(): (paths: ToolPaths, motion: Motion) => SweepMeasure {
  const known = new WeakMap<ToolPaths, { motion: string; measure: SweepMeasure }>()
  const names = new WeakMap<Motion, string>()
  return (paths, motion) => {
    let name = names.get(motion)
    if (name === undefined) names.set(motion, (name = JSON.stringify([motion.speedsMmS, motion.travelMmS, motion.accelMmS2, motion.cornerMmS, motion.retractS])))
    const before = known.get(paths)
    if (before?.motion === name) return before.measure
    const { lengthMm, timeS } = measurePaths(paths, motion)
    const measure = { lengthMm: lengthMm.reduce((a, b) => a + b, 0), timeS }
    known.set(paths, { motion: name, measure })
    return measure
  }
}
