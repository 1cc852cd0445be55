import { HANGS_MM, liesFirmly, STEP, type Over } from './overLines'
import type { WalkedLine } from './walkedLine'

/**
 * From where to where, along a line, it hangs farther than it may: between two places that carry it, or at an
 * end.
 */
export function hangingRuns(
  line: WalkedLine,
  isOver: Over,
  w: number,
  spanMm: number,
): [begin: number, stop: number][] {
  const { mm, isClosed } = line
  if (mm <= (isClosed ? spanMm : Math.min(spanMm, HANGS_MM))) return []
  const hangs = (at: number) => {
    line.goTo(at)
    return !liesFirmly(isOver, line.x, line.y, line.aheadX, line.aheadY, w)
  }
  // Most lines are carried all along: looked at first where what spans too far must hang twice in a row.
  const rough = Math.ceil((2 * mm) / spanMm)
  const stepMm = mm / rough
  let firstMm = 0
  if (isClosed) {
    // A ring is looked at from where it lies on something.
    const fine = STEP * w
    while (firstMm < mm && hangs(firstMm)) firstMm += fine
    if (firstMm >= mm) return [[0, mm]]
  }
  const at = (n: number) => firstMm + n * stepMm
  const found: [number, number][] = []
  for (let n = 0, from = -1; n <= rough + 1; n++) {
    const isHanging = n <= rough && hangs(at(n))
    if (isHanging && from < 0) from = n
    if (isHanging || from < 0) continue
    const isEnd =
      !isClosed &&
      ((from === 0 && hangs(Math.min(mm, HANGS_MM))) || (n > rough && hangs(Math.max(0, mm - HANGS_MM))))
    if (n - from > 1 || isEnd) found.push(...runsWithin(at(Math.max(0, from - 1)), at(Math.min(rough, n))))
    from = -1
  }
  return found

  /** The runs of a stretch of the line that are too long. */
  function runsWithin(low: number, high: number): [number, number][] {
    const count = Math.max(1, Math.ceil((high - low) / (STEP * w)))
    const place = (n: number) => low + ((high - low) * n) / count
    const runs: [number, number][] = []
    for (let n = 0, from = -1; n <= count + 1; n++) {
      const isHanging = n <= count && hangs(place(n))
      if (isHanging && from < 0) from = n
      if (isHanging || from < 0) continue
      const [begin, stop] = [place(from), place(n - 1)]
      const isEnd = !isClosed && (begin < 1e-6 || stop > mm - 1e-6)
      if (stop - begin > (isEnd ? HANGS_MM : spanMm)) runs.push([begin, stop])
      from = -1
    }
    return runs
  }
}
