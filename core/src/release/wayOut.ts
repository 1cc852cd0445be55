import { PART, type StandGrid } from './standPieces'

/** A direction in which something leaves whole, as a unit vector and in words; z points away from the bed. */
export type WayOut = { readonly direction: readonly [number, number, number]; readonly words: string }

/** How a piece comes out: whole, or after being broken into so many. */
export type Leaving =
  | { readonly pieces: number; readonly ways: readonly WayOut[] }
  /** Not even in eight. */
  | { readonly pieces: null; readonly ways: readonly [] }

/** Directions that are tried: the plain ones first, then all between, in steps of a third. */
const DIRECTIONS: readonly WayOut[] = directions()
/**
 * Cells beside each other on a slope stand within the side gap: a piece must go this far before it can hit
 * anything, in cells.
 */
const FREE_START = 1.6
const STEP = 0.5

/**
 * How a piece of support comes out past the part, in one piece or in two, four or eight.
 * Source: every cell is moved along a straight line until it leaves the grid; a few hundred directions, the
 * plain ones first.
 */
export function leavingOf(grid: StandGrid, cells: readonly number[]): Leaving {
  const rims = rimOf(grid, cells)
  for (const parts of divisions(grid, rims)) {
    const ways: WayOut[] = []
    for (const part of parts) {
      const way = DIRECTIONS.find(({ direction }) => passes(grid, part, direction))
      if (!way) break
      ways.push(way)
    }
    if (ways.length === parts.length) return { pieces: parts.length, ways }
  }
  return { pieces: null, ways: [] }
}

/** Cells of a piece that have something else beside them: the inner ones go wherever those go. */
function rimOf({ nx, ny }: StandGrid, cells: readonly number[]): number[] {
  const own = new Set(cells)
  const steps = [1, -1, nx, -nx, nx * ny, -nx * ny]
  return cells.filter((c) => steps.some((step) => !own.has(c + step)))
}

/** The piece whole; halved across either way; in quarters; in eighths. */
function* divisions(grid: StandGrid, cells: readonly number[]): Generator<readonly (readonly number[])[]> {
  yield [cells]
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
  for (const axes of [[0], [1], [2], [0, 1], [0, 1, 2]]) {
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

/** Whether all cells get out along a direction without meeting the part. */
function passes(
  { cells: grid, nx, ny, nz }: StandGrid,
  cells: readonly number[],
  [dx, dy, dz]: readonly [number, number, number],
): boolean {
  for (const c of cells) {
    const x = (c % nx) + 0.5
    const y = (Math.floor(c / nx) % ny) + 0.5
    const z = Math.floor(c / (nx * ny)) + 0.5
    for (let t = FREE_START; ; t += STEP) {
      const [i, j, k] = [Math.floor(x + dx * t), Math.floor(y + dy * t), Math.floor(z + dz * t)]
      if (i < 0 || j < 0 || k < 0 || i >= nx || j >= ny || k >= nz) break
      if (grid[(k * ny + j) * nx + i] === PART) return false
    }
  }
  return true
}

function directions(): WayOut[] {
  const found = new Map<string, [number, number, number]>()
  for (let z = -3; z <= 3; z++)
    for (let y = -3; y <= 3; y++)
      for (let x = -3; x <= 3; x++) {
        const far = Math.hypot(x, y, z)
        if (far === 0) continue
        const unit: [number, number, number] = [x / far, y / far, z / far]
        found.set(unit.map((value) => value.toFixed(3)).join(' '), unit)
      }
  // Along an axis first, and downwards before anything else: that is how supports are taken off.
  const plain = ([x, y, z]: readonly number[]) => Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) - z / 100
  return [...found.values()]
    .toSorted((a, b) => plain(b) - plain(a))
    .map((direction) => ({ direction, words: wordsOf(direction) }))
}

/** A direction in words. @param direction unit vector */
export function wordsOf([x, y, z]: readonly [number, number, number]): string {
  const aside = [
    Math.abs(y) > 0.35 ? (y < 0 ? 'front' : 'back') : '',
    Math.abs(x) > 0.35 ? (x < 0 ? 'left' : 'right') : '',
  ].filter(Boolean)
  const upright = Math.abs(z) > 0.35 ? (z < 0 ? 'down' : 'up') : ''
  if (aside.length === 0) return upright || 'aside'
  return `toward the ${aside.join(' and ')}${upright ? ` and ${upright}` : ''}`
}
