import { DIRECTIONS, wordsOf, type Direction, type WayOut } from './directions'
import { freeWayMm } from './freeWay'
import { ownWays } from './ownWays'
import { middleOf, sidesOf } from './standCells'
import type { StandGrid } from './standPieces'

/** How a piece comes out: whole, or after being broken into so many. */
export type Leaving =
  | { readonly pieces: number; readonly ways: readonly WayOut[] }
  /** Not even in `MOST_PIECES`. */
  | { readonly pieces: null; readonly ways: readonly [] }

/** Between the best of them further ones are tried, in ever smaller steps. */
const BEST = 4
const FINER = [1 / 6, 1 / 12, 1 / 24, 1 / 48, 1 / 96, 1 / 192]
/** Cells by which directions are compared. */
const COMPARED = 64
/** One in so many cells tells which directions are worth that; one in so many of those is. */
const ROUGHLY = 4
/**
 * Cells nearer to the part than this share of a finer one hit the steps of a slope, which a piece slides
 * over: those beside them stand for them.
 */
const TOO_NEAR = 0.75
/** What has to be broken into more comes out in crumbs. */
const MOST_PIECES = 8
/** How much of the work goes, about, into ways for the whole piece, and of that into a first look around. */
const WHOLE_SHARE = 0.7
const ROUGH_SHARE = 0.5

/**
 * How a piece of support comes out past the part: in one piece, halved, in quarters, broken where its
 * parts leave different ways, or in eighths.
 * Source: every cell is moved along a straight line until it leaves the grid; a few hundred directions, the
 * plain ones first, then around those in which a sample of the cells gets farthest.
 * @param onShare is told how much is done, from 0 to 1, should nothing come out before the end
 */
export function leavingOf(
  grid: StandGrid,
  cells: readonly number[],
  onShare: (share: number) => void = () => undefined,
): Leaving {
  const { walls } = grid
  const clear = cells.filter((c) => walls.roomMm(...middleOf(grid, c)) >= TOO_NEAR * walls.cellMm)
  const rims = rimOf(grid, clear.length > 0 ? clear : cells)
  let known: readonly WayOut[] | null | undefined
  const own = () => (known === undefined ? (known = ownWays(grid, cells, rims, MOST_PIECES)) : known)
  let divided = 0
  for (const parts of divisions(grid, rims)) {
    onShare(divided === 0 ? 0 : WHOLE_SHARE + ((1 - WHOLE_SHARE) * (divided - 1)) / AXES.length)
    divided++
    // Into more than quarters only where that is fewer parts than it goes different ways.
    if (parts.length > 4 && (own()?.length ?? Infinity) <= parts.length) break
    const ways: WayOut[] = []
    for (const part of parts) {
      const way =
        DIRECTIONS.find(({ direction }) => passes(grid, part, direction)) ??
        (parts.length === 1 ? wayBetween(grid, part, (share) => onShare(WHOLE_SHARE * share)) : null)
      if (!way) break
      ways.push(way)
    }
    if (ways.length === parts.length) return { pieces: parts.length, ways }
  }
  const ways = own()
  return ways ? { pieces: ways.length, ways } : { pieces: null, ways: [] }
}

/** A way out between the directions that are tried first. */
function wayBetween(grid: StandGrid, cells: number[], onShare: (share: number) => void): WayOut | null {
  const every = Math.ceil(cells.length / COMPARED)
  const sample = cells.filter((_, n) => n % every === 0)
  const { nx, ny, nz, cellMm } = grid
  const mostMm = Math.hypot(nx, ny, nz) * cellMm
  const few = sample.filter((_, n) => n % ROUGHLY === 0)
  const likely = bestOf(
    DIRECTIONS.map(({ direction }) => direction),
    few,
    DIRECTIONS.length / ROUGHLY,
  )
  let climbed = 0
  for (let direction of bestOf(likely, sample, BEST)) {
    onShare(ROUGH_SHARE + ((1 - ROUGH_SHARE) * climbed++) / BEST)
    for (const step of FINER)
      for (let score = scoreOf(direction); ;) {
        if (score === sample.length) {
          if (passes(grid, cells, direction)) return { direction, words: wordsOf(direction) }
          if (sample.length >= 2 * COMPARED) return null
          sample.push(cells[0])
          score = scoreOf(direction)
        }
        const best = around(direction, step)
          .map((next) => ({ next, own: scoreOf(next) }))
          .reduce((one, other) => (other.own > one.own ? other : one))
        if (best.own <= score) break
        ;[direction, score] = [best.next, best.own]
      }
  }
  return null

  /** The directions in which some cells get farthest. */
  function bestOf(all: readonly Direction[], of: readonly number[], most: number): Direction[] {
    const scored = all.map((direction) => ({ direction, score: scoreOf(direction, of) }))
    return scored
      .toSorted((a, b) => b.score - a.score)
      .slice(0, most)
      .map(({ direction }) => direction)
  }

  /** How much of its way out each of some cells gets, summed up. */
  function scoreOf(direction: Direction, of: readonly number[] = sample): number {
    let sum = 0
    for (const c of of) {
      const [x, y, z] = middleOf(grid, c)
      sum += Math.min(1, freeWayMm(grid.walls, x, y, z, direction) / mostMm)
    }
    return sum
  }
}

/** Directions beside one, to both sides in two ways. */
function around([x, y, z]: Direction, step: number): Direction[] {
  // Across it and level; across both.
  const flat = Math.hypot(x, y)
  const [ax, ay] = flat > 1e-9 ? [-y / flat, x / flat] : [1, 0]
  const [bx, by, bz] = [-z * ay, z * ax, x * ay - y * ax]
  return [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ].map(([a, b]): Direction => {
    const to = [x + step * (a * ax + b * bx), y + step * (a * ay + b * by), z + step * b * bz]
    const long = Math.hypot(...to)
    return [to[0] / long, to[1] / long, to[2] / long]
  })
}

/** Cells of a piece that have something else beside them: the inner ones go wherever those go. */
function rimOf({ nx, ny, cells: all }: StandGrid, cells: readonly number[]): number[] {
  const own = new Uint8Array(all.length)
  for (const c of cells) own[c] = 1
  const steps = sidesOf(nx, ny)
  return cells.filter((c) => steps.some((step) => own[c + step] === 0))
}

/** Axes across which a piece is divided, one way after the other. */
const AXES = [[0], [1], [2], [0, 1], [0, 1, 2]]

/** The piece whole; halved across either way; in quarters; in eighths. */
function* divisions(grid: StandGrid, cells: readonly number[]): Generator<readonly number[][]> {
  yield [[...cells]]
  const { nx, ny } = grid
  const coordinates = (c: number): [number, number, number] => [
    c % nx,
    Math.floor(c / nx) % ny,
    Math.floor(c / (nx * ny)),
  ]
  const middle = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity]
    for (const c of cells) {
      const at = coordinates(c)[axis]
      low = Math.min(low, at)
      high = Math.max(high, at)
    }
    return (low + high) / 2
  })
  for (const axes of AXES) {
    const parts = new Map<number, number[]>()
    for (const c of cells) {
      const at = coordinates(c)
      const key = axes.reduce((sum, axis, n) => sum + (at[axis] > middle[axis] ? 1 << n : 0), 0)
      const part = parts.get(key)
      if (part) part.push(c)
      else parts.set(key, [c])
    }
    if (parts.size > 1) yield [...parts.values()]
  }
}

/**
 * Whether all cells get out along a direction without meeting the part. What does not is looked at first next
 * time: it mostly stays in other directions as well.
 */
function passes(grid: StandGrid, cells: number[], direction: Direction): boolean {
  for (let n = 0; n < cells.length; n++) {
    const c = cells[n]
    if (freeWayMm(grid.walls, ...middleOf(grid, c), direction) === Infinity) continue
    cells[n] = cells[0]
    cells[0] = c
    return false
  }
  return true
}
