import { type Region } from '../polygon'
import { sameValues } from '../sameValues'
import type { ToolPaths } from './toolPaths'

/** Distance of the scan lines on which cover is measured. */
const SCAN_MM = 0.1

/**
 * How much of a region lies under plastic: what the lines really cover, each as wide as it is laid, with
 * round ends. Along each scan line everything is exact; between them the area is taken as a sum of strips.
 * @param reachesMm for each set of lines, how far beyond their edges counts as covered: half the free width
 * between lines that are laid apart on purpose
 * @param within what those lines fill: they reach no farther
 * @returns mm2
 */
function coveredAreaMm2(
  region: Region,
  lines: readonly ToolPaths[],
  lineWidthMm: number,
  reachesMm: readonly number[],
  within: readonly Region[],
): number {
  const { xyMm } = region
  let [low, high, left, right] = [Infinity, -Infinity, Infinity, -Infinity]
  for (let p = 0; p < xyMm.length; p += 2) {
    if (xyMm[p + 1] < low) low = xyMm[p + 1]
    if (xyMm[p + 1] > high) high = xyMm[p + 1]
    if (xyMm[p] < left) left = xyMm[p]
    if (xyMm[p] > right) right = xyMm[p]
  }
  if (!(high > low)) return 0
  const count = Math.max(3, Math.ceil((high - low) / SCAN_MM))
  const stepMm = (high - low) / count
  const yOf = (n: number) => low + (n + 0.5) * stepMm
  const wanted = onScans([region])
  const filled = reachesMm.some((mm) => mm > 0) ? onScans(within) : null
  /** Where each scan line meets the region first and last; nothing else of it matters. */
  const firstX = Float64Array.from(wanted, (all) => all[0] ?? Infinity)
  const lastX = Float64Array.from(wanted, (all) => all.at(-1) ?? -Infinity)
  /** Per scan line the last of where lines begin and end on it. */
  const laid = new Int32Array(count).fill(NONE)
  intervals = 0
  for (const [n, { xyMm: xy, starts: ends, flow }] of lines.entries())
    for (let p = 0; p + 1 < ends.length; p++) {
      const radius = (lineWidthMm * flow[p]) / 2 + reachesMm[n]
      for (let i = ends[p]; i + 1 < ends[p + 1]; i++)
        layCapsule(xy[2 * i], xy[2 * i + 1], xy[2 * i + 2], xy[2 * i + 3], radius)
    }
  let area = 0
  for (let n = 0; n < count; n++) {
    if (wanted[n].length === 0 || laid[n] === NONE) continue
    const counted = filled ? shared(wanted[n], filled[n]) : wanted[n]
    const under = shared(counted, merged(laid[n]))
    for (let i = 0; i < under.length; i += 2) area += (under[i + 1] - under[i]) * stepMm
  }
  return area

  /** Where each scan line enters and leaves regions that do not overlap. */
  function onScans(regions: readonly Region[]): number[][] {
    const found = Array.from({ length: count }, (): number[] => [])
    for (const { xyMm: xy, starts } of regions)
      for (let r = 0; r + 1 < starts.length; r++)
        for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++)
          crossScans(found, xy[2 * q], xy[2 * q + 1], xy[2 * p], xy[2 * p + 1])
    for (const all of found) inOrder(all, all.length)
    return found
  }

  function crossScans(into: readonly number[][], ax: number, ay: number, bx: number, by: number): void {
    if (ay === by) return
    const [from, to] = ay < by ? [ay, by] : [by, ay]
    for (let n = Math.max(0, Math.ceil((from - low) / stepMm - 0.5)); n < count; n++) {
      const y = yOf(n)
      // Half-open, so that a corner on a scan line counts once.
      if (y < from) continue
      if (y >= to) break
      into[n].push(ax + ((bx - ax) * (y - ay)) / (by - ay))
    }
  }

  /**
   * Notes where a scan line meets a line with round ends. Source: the part of y = const within a distance of
   * a segment is one interval.
   */
  function layCapsule(ax: number, ay: number, bx: number, by: number, radius: number): void {
    if (Math.max(ay, by) + radius < low || Math.min(ay, by) - radius > high) return
    if (Math.max(ax, bx) + radius < left || Math.min(ax, bx) - radius > right) return
    const first = Math.max(0, Math.ceil((Math.min(ay, by) - radius - low) / stepMm - 0.5))
    const last = Math.min(count - 1, Math.floor((Math.max(ay, by) + radius - low) / stepMm - 0.5))
    const [ux, uy] = [bx - ax, by - ay]
    const length = Math.sqrt(ux * ux + uy * uy) || 1
    const [outX, outY] = [(-uy / length) * radius, (ux / length) * radius]
    for (let n = first; n <= last; n++) {
      const y = yOf(n)
      let from = Infinity
      let to = -Infinity
      const a2 = radius * radius - (y - ay) * (y - ay)
      if (a2 >= 0) {
        const half = Math.sqrt(a2)
        from = ax - half
        to = ax + half
      }
      const b2 = radius * radius - (y - by) * (y - by)
      if (b2 >= 0) {
        const half = Math.sqrt(b2)
        if (bx - half < from) from = bx - half
        if (bx + half > to) to = bx + half
      }
      // The two long sides, moved out by the radius.
      for (let side = -1; side <= 1 && uy !== 0; side += 2) {
        const t = (y - ay - side * outY) / uy
        if (t < 0 || t > 1) continue
        const x = ax + side * outX + ux * t
        if (x < from) from = x
        if (x > to) to = x
      }
      if (to > from && to > firstX[n] && from < lastX[n]) laid[n] = interval(from, to, laid[n])
    }
  }
}

/** So many intervals of a scan line are put in order by hand; lists that short are not worth a call. */
const FEW = 24
const NONE = -1
/** Intervals of all scan lines, each with the one before it on its line: written anew for every region. */
let intervals = 0
let froms = new Float64Array(4096)
let tos = new Float64Array(4096)
let befores = new Int32Array(4096)
/** Where the intervals of a scan line are put in order, thousands of times over. */
let begun = new Float64Array(256)
let ended = new Float64Array(256)

/** Notes an interval; returns its number. */
function interval(from: number, to: number, before: number): number {
  if (intervals === froms.length) [froms, tos, befores] = [larger(froms), larger(tos), larger(befores)]
  froms[intervals] = from
  tos[intervals] = to
  befores[intervals] = before
  return intervals++
}

function larger<T extends Float64Array | Int32Array>(list: T): T {
  const twice = new (list.constructor as new (length: number) => T)(2 * list.length)
  twice.set(list)
  return twice
}

/**
 * Intervals of a scan line, joined where they overlap; ascending. Wherever as many have ended as begun, a
 * joined one ends.
 * @param last number of the line's last interval
 */
function merged(last: number): number[] {
  let count = 0
  for (let i = last; i !== NONE; i = befores[i]) {
    if (count === begun.length) [begun, ended] = [larger(begun), larger(ended)]
    begun[count] = froms[i]
    ended[count++] = tos[i]
  }
  inOrder(begun, count)
  inOrder(ended, count)
  const out: number[] = []
  for (let i = 0; i < count; i++) {
    if (i === 0 || begun[i] > ended[i - 1]) out.push(begun[i])
    if (i === count - 1 || begun[i + 1] > ended[i]) out.push(ended[i])
  }
  return out
}

/** Puts the first numbers of a list in ascending order. */
function inOrder(numbers: Float64Array | number[], count: number): void {
  if (count > FEW) {
    if (Array.isArray(numbers)) numbers.sort((a, b) => a - b)
    else numbers.subarray(0, count).sort()
    return
  }
  for (let i = 1; i < count; i++) {
    const one = numbers[i]
    let j = i - 1
    for (; j >= 0 && numbers[j] > one; j--) numbers[j + 1] = numbers[j]
    numbers[j + 1] = one
  }
}

/** What two ascending lists of intervals share. */
function shared(a: readonly number[], b: readonly number[]): number[] {
  const out: number[] = []
  let j = 0
  for (let i = 0; i + 1 < a.length; i += 2) {
    while (j + 1 < b.length && b[j + 1] <= a[i]) j += 2
    for (let k = j; k + 1 < b.length && b[k] < a[i + 1]; k += 2) {
      const [from, to] = [Math.max(a[i], b[k]), Math.min(a[i + 1], b[k + 1])]
      if (to > from) out.push(from, to)
    }
  }
  return out
}

/** Measures cover and remembers it: most lines and undersides survive a change of one value. */
export function createCoverMeasurer(): typeof coveredAreaMm2 {
  type Known = {
    readonly lines: readonly ToolPaths[]
    readonly within: readonly Region[]
    readonly how: string
    readonly area: number
  }
  const known = new WeakMap<Region, Known>()
  return (region, lines, lineWidthMm, reachesMm, within) => {
    const how = `${lineWidthMm} ${reachesMm.join()}`
    const before = known.get(region)
    if (before?.how === how && sameValues(before.lines, lines) && sameValues(before.within, within))
      return before.area
    const area = coveredAreaMm2(region, lines, lineWidthMm, reachesMm, within)
    known.set(region, { lines, within, how, area })
    return area
  }
}
