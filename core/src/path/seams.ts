import { isEmptyRegion, regionContains, type Region } from '../polygon'
import { PATH_KINDS, type ToolPaths } from './toolPaths'

const WALL = PATH_KINDS.indexOf('wall')

/**
 * Walls that begin and end where nobody looks: closed ones that would begin within what has to look well
 * begin at a corner outside of it, the one nearest to where they began. Those that lie wholly within it stay.
 * @param shown what has to look well at the height of the paths
 */
export function seamsAway(paths: ToolPaths, shown: Region): ToolPaths {
  if (isEmptyRegion(shown)) return paths
  const { starts, kinds } = paths
  let xyMm: Float64Array | null = null
  for (let p = 0; p < kinds.length; p++) {
    const [from, to] = [2 * starts[p], 2 * starts[p + 1]]
    const at = paths.xyMm
    const closed = to - from >= 8 && at[from] === at[to - 2] && at[from + 1] === at[to - 1]
    if (kinds[p] !== WALL || !closed || !regionContains(shown, at[from], at[from + 1])) continue
    let [best, nearest] = [-1, Infinity]
    for (let i = from + 2; i < to - 2; i += 2) {
      const away = Math.hypot(at[i] - at[from], at[i + 1] - at[from + 1])
      if (away < nearest && !regionContains(shown, at[i], at[i + 1])) [best, nearest] = [i, away]
    }
    if (best < 0) continue
    xyMm ??= at.slice()
    // All points but the last, which is the first again.
    xyMm.set(at.subarray(best, to - 2), from)
    xyMm.set(at.subarray(from, best), from + to - 2 - best)
    xyMm[to - 2] = xyMm[from]
    xyMm[to - 1] = xyMm[from + 1]
  }
  return xyMm ? { ...paths, xyMm } : paths
}
