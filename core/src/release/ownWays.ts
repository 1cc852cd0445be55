import { DIRECTIONS, type WayOut } from './directions'
import { freeWayMm } from './freeWay'
import { hangingOf, middleOf, sidesOf } from './standCells'
import { SPECK_MM3, type StandGrid } from './standPieces'

/** So many cells, about, choose the directions. */
const ASKED = 96
/** Where no chosen direction frees a cell, this many more of such are asked as well, so often. */
const ADDED = 24
const ROUNDS = 3
/** What is less than this share of a piece falls off beside its parts. */
const CRUMB_SHARE = 1 / 500

/**
 * How a piece comes out when it is broken where its parts leave different ways: what stands on both sides of
 * a wall and runs through a bore in it leaves as three.
 * Source: the fewest directions of which each cell leaves by one, chosen greedily; neighbours that leave the
 * same way are one part. Specks and crumbs are not counted.
 * @param rims cells of it that have something else beside them: the inner ones go wherever those go
 * @param most parts
 * @returns a way for each part; null where it does not come out in so few
 */
export function ownWays(
  grid: StandGrid,
  cells: readonly number[],
  rims: readonly number[],
  most: number,
): readonly WayOut[] | null {
  const leaves = (c: number, { direction }: WayOut) =>
    freeWayMm(grid.walls, ...middleOf(grid, c), direction) === Infinity
  const every = Math.ceil(rims.length / ASKED)
  const asked = rims.filter((_, n) => n % every === 0)
  /** Per direction which of those asked leave by it. */
  const free = DIRECTIONS.map(() => [] as boolean[])
  for (let round = 0; round < ROUNDS; round++) {
    DIRECTIONS.forEach((way, d) => {
      for (let n = free[d].length; n < asked.length; n++) free[d].push(leaves(asked[n], way))
    })
    const chosen = cover(free, asked.length, most)
    if (!chosen) return null
    const ways = chosen.map((d) => DIRECTIONS[d])
    // Of each cell which of the ways it leaves by, a bit for each.
    const bits = new Map<number, number>()
    const left: number[] = []
    for (const c of rims) {
      let own = 0
      ways.forEach((way, w) => (own |= leaves(c, way) ? 1 << w : 0))
      if (own === 0) left.push(c)
      else bits.set(c, own)
    }
    if (left.length === 0) return parted(grid, cells, bits, ways, most)
    const step = Math.ceil(left.length / ADDED)
    asked.push(...left.filter((_, n) => n % step === 0))
  }
  return null
}

/** Columns so that each row is free in one of them, those first that free most; null where there are none. */
function cover(free: readonly boolean[][], rows: number, most: number): number[] | null {
  const chosen: number[] = []
  let left = Array.from({ length: rows }, (_, n) => n)
  while (left.length > 0) {
    if (chosen.length === most) return null
    const counts = free.map((own) => left.reduce((sum, n) => sum + (own[n] ? 1 : 0), 0))
    // Of as many the plainest, which comes first.
    const best = counts.indexOf(Math.max(...counts))
    if (counts[best] === 0) return null
    chosen.push(best)
    left = left.filter((n) => !free[best][n])
  }
  return chosen
}

type Part = { readonly cells: ReadonlySet<number>; readonly bits: number }

/** Parts of a piece, each of cells beside each other that leave the same way. */
function parted(
  grid: StandGrid,
  cells: readonly number[],
  rimBits: ReadonlyMap<number, number>,
  ways: readonly WayOut[],
  most: number,
): WayOut[] | null {
  const bits = spread(grid, cells, rimBits)
  const around = hangingOf(grid.nx, grid.ny)
  const parts: Part[] = []
  const rest = connected(new Set(bits.keys()), around)
  while (rest.length > 0) {
    const own = rest.pop()!
    const counts = ways.map((_, w) => [...own].filter((c) => (bits.get(c)! >> w) & 1).length)
    const w = counts.indexOf(Math.max(...counts))
    const leaving = new Set([...own].filter((c) => (bits.get(c)! >> w) & 1))
    for (const part of connected(leaving, around))
      parts.push({ cells: part, bits: [...part].reduce((all, c) => all & bits.get(c)!, -1) })
    rest.push(...connected(new Set([...own].filter((c) => !leaving.has(c))), around))
  }
  const least = Math.max(SPECK_MM3 / grid.cellMm ** 3, cells.length * CRUMB_SHARE)
  const found = joined(parts, around).filter((part) => part.cells.size >= least)
  return found.length > 0 && found.length <= most
    ? found.map((part) => ways.find((_, w) => (part.bits >> w) & 1)!)
    : null
}

/** Parts that lie against each other and may leave the same way are one. */
function joined(parts: readonly Part[], around: readonly number[]): Part[] {
  const found: Part[] = []
  for (const part of parts) {
    let { cells, bits } = part
    for (let n = 0; n < found.length;) {
      const { cells: other, bits: theirs } = found[n]
      if ((bits & theirs) !== 0 && touch(cells, other, around)) {
        cells = new Set([...cells, ...other])
        bits &= theirs
        found.splice(n, 1)
        // What was passed over may lie against what is one with it now.
        n = 0
      } else n++
    }
    found.push({ cells, bits })
  }
  return found
}

function touch(a: ReadonlySet<number>, b: ReadonlySet<number>, around: readonly number[]): boolean {
  const [few, many] = a.size < b.size ? [a, b] : [b, a]
  return [...few].some((c) => around.some((step) => many.has(c + step)))
}

/** What is known of some cells, for all: each as the nearest of them. */
function spread(
  { nx, ny }: StandGrid,
  cells: readonly number[],
  known: ReadonlyMap<number, number>,
): Map<number, number> {
  const all = new Map(known)
  const own = new Set(cells)
  const steps = sidesOf(nx, ny)
  let last = [...known.keys()]
  while (last.length > 0) {
    const next: number[] = []
    for (const c of last)
      for (const step of steps)
        if (own.has(c + step) && !all.has(c + step)) {
          all.set(c + step, all.get(c)!)
          next.push(c + step)
        }
    last = next
  }
  return all
}

/** Cells that hang together, group by group. */
function connected(cells: ReadonlySet<number>, around: readonly number[]): Set<number>[] {
  const left = new Set(cells)
  const found: Set<number>[] = []
  for (const first of cells) {
    if (!left.delete(first)) continue
    const group = new Set([first])
    for (const c of group) for (const step of around) if (left.delete(c + step)) group.add(c + step)
    found.push(group)
  }
  return found
}
