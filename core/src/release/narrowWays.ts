import type { Place } from './between'
import { extentOf, type Extent } from './extent'
import { freeRuns, type FreeRuns, type Plug } from './freeRuns'
import type { Filled } from './standCells'

/** A way from some places to outside, and where it is narrowest. */
export type NarrowWay = {
  /** Corners of a line. */
  readonly wayMm: readonly Place[]
  /** A tool so wide gets through; one so wide does not. */
  readonly fitsMm: number
  readonly tooWideMm: number
  /** Its narrowest part, from the inner side. */
  readonly neckMm: readonly Place[]
  /** Where the wider tool fits beside that, on both sides; null where it does not on the way. */
  readonly innerMm: Place | null
  readonly outerMm: Place | null
}

/** Widths that are tried: a way is found by the width below its own, whichever rows it lies between. */
const WIDTHS_MM = [0.6, 0.9, 1.2, 1.6, 2.1, 2.8, 3.7, 5, 6.6, 8.8, 11.7, 15.6]

/** A plug is so much of a width around that does not fit. */
const PLUGS = 0.75

/**
 * Ways past a part that are narrow for its size: whatever is as coarse as them misses them.
 * @returns the widest way from some places, x, y, z by turns, to outside, for round tools that touch one of
 *   them, past the necks of ways that were found before; supports are counted as free; null where nothing
 *   gets in
 */
export function narrowWaysOf(
  layers: readonly Filled[],
): (places: Float64Array, before?: readonly NarrowWay[]) => NarrowWay | null {
  const extent = extentOf(layers)
  const unplugged = remembered((n) => freeRuns(layers, extent, WIDTHS_MM[n]))
  return (places, before = []) => {
    const plugs = before.map(plugOf)
    const freeFor = plugs.length === 0 ? unplugged : remembered((n) => unplugged(n).plugged(plugs))
    const [least, most] = [before.length > 0 ? 0 : -1, before.length > 0 ? before[0].fitsMm : Infinity]
    let fits = least
    let tooWide = WIDTHS_MM.findLastIndex((width) => width <= most) + 1
    while (tooWide - fits > 1) {
      const between = (fits + tooWide) >> 1
      if (reached(freeFor(between), places).length > 0) fits = between
      else tooWide = between
    }
    if (fits === least) return null
    const way = wayOut(freeFor(fits), reached(freeFor(fits), places), extent)
    // The next one may fit as well, but for the rows that it lies between.
    const wider = freeFor(Math.min(fits + 2, WIDTHS_MM.length - 1))
    return { fitsMm: WIDTHS_MM[fits], tooWideMm: wider.widthMm, ...pastNeck(way, wider) }
  }
}

function remembered(freeFor: (n: number) => FreeRuns): (n: number) => FreeRuns {
  const known = new Map<number, FreeRuns>()
  return (n) => {
    const free = known.get(n) ?? freeFor(n)
    known.set(n, free)
    return free
  }
}

/** What fills the narrowest part of a way. */
const plugOf = (way: NarrowWay): Plug => ({ atMm: middleOfNeck(way), radiusMm: PLUGS * way.tooWideMm })

export const middleOfNeck = ({ neckMm }: Pick<NarrowWay, 'neckMm'>): Place => neckMm[neckMm.length >> 1]

/** Runs that lead outside, in which a tool touches one of some places. */
const reached = (free: FreeRuns, places: Float64Array): number[] =>
  free.touching(places).filter((run) => free.isOutside(run))

/** From some runs the way over the fewest rows to one that has no end. */
function wayOut(
  free: FreeRuns,
  starts: readonly number[],
  { fromMm: [minX], toMm: [maxX] }: Extent,
): Place[] {
  const { rowMm } = free
  const isEndless = (run: number) => !free.endsMm(run).every(Number.isFinite)
  const cameFrom = new Int32Array(free.count).fill(-1)
  const queue = [...starts]
  for (const run of queue) cameFrom[run] = run
  let last = queue.find(isEndless)
  for (let q = 0; q < queue.length && last === undefined; q++)
    free.beside(queue[q], (run) => {
      if (cameFrom[run] >= 0) return
      cameFrom[run] = queue[q]
      queue.push(run)
      if (isEndless(run)) last ??= run
    })
  if (last === undefined) return []
  const runs = [last]
  while (cameFrom[runs[0]] !== runs[0]) runs.unshift(cameFrom[runs[0]])
  const ends = runs.map((run) => {
    const [from, to] = free.endsMm(run)
    return [Math.max(from, minX - rowMm), Math.min(to, maxX + rowMm)] as const
  })
  let x = (ends[0][0] + ends[0][1]) / 2
  const way = [free.placeIn(runs[0], x)]
  for (let n = 1; n < runs.length; n++) {
    // Along a run to where the next one begins, and over to that.
    const [[a, b], [c, d]] = [ends[n - 1], ends[n]]
    x = Math.min(b, d, Math.max(a, c, x))
    way.push(free.placeIn(runs[n - 1], x), free.placeIn(runs[n], x))
  }
  const [from, to] = free.endsMm(last)
  if (Number.isFinite(to)) way.push(free.placeIn(last, minX - rowMm))
  else if (Number.isFinite(from)) way.push(free.placeIn(last, maxX + rowMm))
  return way
}

/**
 * A way as far as to where a wider tool from outside touches it, and of that the last stretch, to where such
 * a tool fits inside.
 */
function pastNeck(way: readonly Place[], wider: FreeRuns): Omit<NarrowWay, 'fitsMm' | 'tooWideMm'> {
  const fine = inSteps(way, wider.rowMm)
  const touching = fine.map((place) => wider.touching(Float64Array.from(place)))
  const isOutside = (run: number) => wider.isOutside(run)
  const last = Math.max(
    0,
    touching.findLastIndex((runs) => !runs.some(isOutside)),
  )
  const first = Math.max(
    0,
    touching.findLastIndex((runs, n) => n <= last && runs.some((run) => !isOutside(run))),
  )
  const neckMm = fine.slice(first, last + 2)
  const inside = touching[first].find((run) => !isOutside(run))
  const outside = touching[first + neckMm.length - 1].find(isOutside)
  const outerMm = outside === undefined ? null : wider.placeIn(outside, neckMm.at(-1)![0])
  return {
    wayMm: outerMm ? [...fine.slice(0, last + 2), outerMm] : way,
    neckMm,
    innerMm: inside === undefined ? null : wider.placeIn(inside, neckMm[0][0]),
    outerMm,
  }
}

/** A way with places no farther from each other than so much. */
function inSteps(way: readonly Place[], stepMm: number): Place[] {
  return way.flatMap((to, n) => {
    const from = way[Math.max(0, n - 1)]
    const steps = Math.max(1, Math.ceil(Math.hypot(...to.map((value, axis) => value - from[axis])) / stepMm))
    return Array.from({ length: steps }, (_, step) => {
      const between = (axis: number) => from[axis] + ((step + 1) / steps) * (to[axis] - from[axis])
      return [between(0), between(1), between(2)] as const
    })
  })
}
