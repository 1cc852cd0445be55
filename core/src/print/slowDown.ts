import type { Motion } from './motion'
import { measurePaths } from './moveTime'
import type { Sweep } from './print'

/** Nothing is printed slower than this; what is still too quick then is waited for. */
const SLOWEST_MM_S = 5
const HALVINGS = 24

export type SlowDown = {
  /** What speeds of lines are multiplied by. */
  readonly factor: number
  readonly waitS: number
}

/** A motion with slower lines; ways between them stay as quick. */
export const slower = (motion: Motion, factor: number): Motion =>
  factor === 1
    ? motion
    : {
        ...motion,
        speedsMmS: motion.speedsMmS.map((speed) => Math.max(Math.min(speed, SLOWEST_MM_S), speed * factor)),
      }

/**
 * How much slower lines have to be laid so that a height takes its time.
 * @param otherS time of the height that does not depend on it
 */
export function slowDown(sweeps: readonly Sweep[], motion: Motion, otherS: number, leastS: number): SlowDown {
  const timeAt = (factor: number) =>
    otherS + sweeps.reduce((sum, { paths }) => sum + measurePaths(paths, slower(motion, factor)).timeS, 0)
  if (timeAt(1) >= leastS) return { factor: 1, waitS: 0 }
  let [slow, quick] = [1e-3, 1]
  if (timeAt(slow) < leastS) return { factor: slow, waitS: leastS - timeAt(slow) }
  for (let n = 0; n < HALVINGS; n++) {
    const middle = (slow + quick) / 2
    if (timeAt(middle) < leastS) quick = middle
    else slow = middle
  }
  return { factor: quick, waitS: Math.max(0, leastS - timeAt(quick)) }
}
