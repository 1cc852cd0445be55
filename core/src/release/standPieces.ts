import { boundsOf, hatch, isEmptyRegion, type Region } from '../polygon'

/** One piece of support as it stands in the print, seen on a coarse grid. */
export type StandPiece = {
  /** What it takes up, its air included. */
  readonly grossMm3: number
  /** Widest round tool that gets to it from outside, supports counted as free; 0 when nothing does. */
  readonly openingMm: number
  readonly heightMm: number
  /** Mean section over its height. */
  readonly sectionMm2: number
  /** Mean section over its longest side: how thick a wall of it is. */
  readonly thickMm: number
  readonly onBed: boolean
  /** The middle of its highest cell, and how large cells are. */
  readonly highestMm: readonly [number, number, number]
  readonly cellMm: number
  /** A place in it. */
  readonly atMm: readonly [number, number, number]
  /** Its cells of the grid. */
  readonly cells: readonly number[]
  /**
   * How near the middle of one of its cells comes to a place; Infinity where that is surely farther than
   * asked for.
   */
  distanceMm(place: readonly [number, number, number], withinMm?: number): number
}

/** Part and supports as cells. */
export type StandGrid = {
  /** 0 is air. */
  readonly cells: Uint8Array
  readonly nx: number
  readonly ny: number
  readonly nz: number
  readonly cellMm: number
  /** Of each free cell to the part, in cells; cells at the border of the grid have none. */
  readonly distance: Float32Array
  /** Lowest corner of its first cell. */
  readonly originMm: readonly [number, number, number]
  readonly pieces: readonly StandPiece[]
}

type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }

/** The longest side is seen in about so many cells. */
const CELLS = 48
const FINEST_MM = 0.6
/** Free cells around everything. */
const RIM = 3
export const PART = 1
const STAND = 2
const FAR = 1e4

/**
 * The pieces of a plan's supports with how they are reached once the part is off the bed, and the grid they
 * were found on.
 * Source: the widest way from outside is a widest-path search over the distance to the part, largest
 * distances first.
 * @param layers of the part
 * @param passes of the supports
 * @returns null without supports
 */
export function standGrid(layers: readonly Filled[], passes: readonly Filled[]): StandGrid | null {
  const held = passes.filter(({ region }) => !isEmptyRegion(region))
  if (held.length === 0) return null
  const all = [...layers.filter(({ region }) => !isEmptyRegion(region)), ...held]
  let [minX, minY, maxX, maxY, top] = [Infinity, Infinity, -Infinity, -Infinity, 0]
  for (const { region, topMm } of all) {
    const box = boundsOf(region.xyMm)
    minX = Math.min(minX, box.minX)
    minY = Math.min(minY, box.minY)
    maxX = Math.max(maxX, box.maxX)
    maxY = Math.max(maxY, box.maxY)
    top = Math.max(top, topMm)
  }
  const cell = Math.max(FINEST_MM, Math.max(maxX - minX, maxY - minY, top) / CELLS)
  const [nx, ny, nz] = [maxX - minX, maxY - minY, top].map((side) => Math.ceil(side / cell) + 2 * RIM + 1)
  const grid = new Uint8Array(nx * ny * nz)
  const at = (x: number, y: number, z: number) => (z * ny + y) * nx + x
  // A row is the cells that hatch lines run through the middle of.
  const [left, front] = [Math.floor(minX / cell) - RIM, Math.floor(minY / cell) - RIM]
  const fill = (list: readonly Filled[], value: number) => {
    let from = 0
    for (let z = RIM; z < nz - RIM; z++) {
      const height = (z - RIM + 0.5) * cell
      while (from < list.length && list[from].topMm <= height) from++
      for (let i = from; i < list.length && list[i].bottomMm < height + cell; i++) {
        const { bottomMm, topMm, region } = list[i]
        if (bottomMm > height || topMm <= height || isEmptyRegion(region)) continue
        const lines = hatch(region, 0, cell)
        for (let s = 0; s < lines.length; s += 4) {
          const y = Math.floor(lines[s + 1] / cell) - front
          const [a, b] = [lines[s], lines[s + 2]].sort((p, q) => p - q)
          const [x0, x1] = [Math.ceil(a / cell) - left, Math.floor(b / cell) - left]
          for (let x = x0; x <= x1; x++) if (grid[at(x, y, z)] === 0) grid[at(x, y, z)] = value
        }
      }
    }
  }
  fill(layers, PART)
  fill(
    held.toSorted((a, b) => a.topMm - b.topMm),
    STAND,
  )
  const distance = distanceToPart(grid, nx, ny, nz)
  const width = widestFromOutside(grid, distance, nx, ny, nz)
  const originMm = [left * cell, front * cell, -RIM * cell] as const
  return { cells: grid, nx, ny, nz, cellMm: cell, distance, originMm, pieces: piecesOf() }

  function piecesOf(): StandPiece[] {
    const found: StandPiece[] = []
    const done = new Uint8Array(grid.length)
    const steps = [1, -1, nx, -nx, nx * ny, -nx * ny]
    for (let start = 0; start < grid.length; start++) {
      if (grid[start] !== STAND || done[start]) continue
      const queue = [start]
      done[start] = 1
      let opening = 0
      let [low, high] = [nz, 0]
      let highest = start
      let [west, east, south, north] = [nx, 0, ny, 0]
      for (let q = 0; q < queue.length; q++) {
        const c = queue[q]
        opening = Math.max(opening, width[c])
        const z = Math.floor(c / (nx * ny))
        low = Math.min(low, z)
        if (z > high) [high, highest] = [z, c]
        const [x, y] = [c % nx, Math.floor(c / nx) % ny]
        west = Math.min(west, x)
        east = Math.max(east, x)
        south = Math.min(south, y)
        north = Math.max(north, y)
        for (const step of steps) {
          const n = c + step
          if (grid[n] !== STAND || done[n]) continue
          done[n] = 1
          queue.push(n)
        }
      }
      const middle = queue[queue.length >> 1]
      const levels = high - low + 1
      found.push({
        grossMm3: queue.length * cell ** 3,
        // A distance is to the middle of the nearest cell of the part: half a cell of it is the part's own.
        openingMm: opening > 0 ? Math.max(0.1, (2 * opening - 1) * cell) : 0,
        heightMm: levels * cell,
        sectionMm2: (queue.length / levels) * cell * cell,
        thickMm: ((queue.length / levels) * cell) / (Math.max(east - west, north - south) + 1),
        onBed: low === RIM,
        highestMm: [
          ((highest % nx) + left + 0.5) * cell,
          ((Math.floor(highest / nx) % ny) + front + 0.5) * cell,
          (high - RIM + 0.5) * cell,
        ],
        cellMm: cell,
        cells: queue,
        distanceMm([px, py, pz], withinMm = Infinity) {
          const [cx, cy, cz] = [px / cell - left - 0.5, py / cell - front - 0.5, pz / cell + RIM - 0.5]
          const aside = Math.max(west - cx, cx - east, south - cy, cy - north, low - cz, cz - high)
          if (aside * cell > withinMm) return Infinity
          let nearest = Infinity
          for (const c of queue) {
            const dx = (c % nx) - cx
            const dy = (Math.floor(c / nx) % ny) - cy
            const dz = Math.floor(c / (nx * ny)) - cz
            nearest = Math.min(nearest, dx * dx + dy * dy + dz * dz)
          }
          return Math.sqrt(nearest) * cell
        },
        atMm: [
          ((middle % nx) + left) * cell,
          ((Math.floor(middle / nx) % ny) + front) * cell,
          (Math.floor(middle / (nx * ny)) - RIM + 0.5) * cell,
        ],
      })
    }
    return found
  }
}

/**
 * Distance from each free cell to the part, in cells; cells at the border of the grid have none. Source:
 * two-pass chamfer with weights 1, sqrt 2, sqrt 3.
 */
function distanceToPart(grid: Uint8Array, nx: number, ny: number, nz: number): Float32Array {
  const d = new Float32Array(grid.length)
  for (let c = 0; c < grid.length; c++) d[c] = grid[c] === PART ? 0 : FAR
  const back: number[] = []
  const far: number[] = []
  for (let dz = -1; dz <= 0; dz++)
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++)
        if (dz < 0 || dy < 0 || (dy === 0 && dx < 0)) {
          back.push((dz * ny + dy) * nx + dx)
          far.push(Math.sqrt(dx * dx + dy * dy + dz * dz))
        }
  const sweep = (sign: 1 | -1) => {
    const steps = Int32Array.from(back, (step) => sign * step)
    const weights = Float64Array.from(far)
    for (let i = 1; i < nz - 1; i++)
      for (let j = 1; j < ny - 1; j++) {
        const row = ((sign === 1 ? i : nz - 1 - i) * ny + (sign === 1 ? j : ny - 1 - j)) * nx
        for (let k = 1; k < nx - 1; k++) {
          const c = row + (sign === 1 ? k : nx - 1 - k)
          let best = d[c]
          if (best === 0) continue
          for (let s = 0; s < steps.length; s++) {
            const other = d[c + steps[s]] + weights[s]
            if (other < best) best = other
          }
          d[c] = best
        }
      }
  }
  sweep(1)
  sweep(-1)
  return d
}

/**
 * For each cell the largest distance to the part that a way from outside keeps, in cells; 0 where there is
 * none.
 */
function widestFromOutside(
  grid: Uint8Array,
  d: Float32Array,
  nx: number,
  ny: number,
  nz: number,
): Float32Array {
  const STEPS_PER_CELL = 4
  const MOST = 64 * STEPS_PER_CELL
  const width = new Float32Array(grid.length)
  const buckets: number[][] = Array.from({ length: MOST + 1 }, () => [])
  const put = (c: number, wide: number) => {
    if (wide <= width[c]) return
    width[c] = wide
    buckets[Math.min(MOST, Math.floor(wide * STEPS_PER_CELL))].push(c)
  }
  const go = (from: number, to: number) => {
    if (grid[to] !== PART) put(to, Math.min(width[from], d[to]))
  }
  // The rim of the grid is outside, and there any tool has room.
  for (let z = 1; z < nz - 1; z++)
    for (let y = 1; y < ny - 1; y++)
      for (let x = 1; x < nx - 1; x++)
        if (x === 1 || x === nx - 2 || y === 1 || y === ny - 2 || z === 1 || z === nz - 2)
          put((z * ny + y) * nx + x, FAR)
  for (let b = MOST; b >= 0; b--) {
    const bucket = buckets[b]
    for (let q = 0; q < bucket.length; q++) {
      const c = bucket[q]
      const x = c % nx
      const y = Math.floor(c / nx) % ny
      const z = Math.floor(c / (nx * ny))
      if (x < nx - 2) go(c, c + 1)
      if (x > 1) go(c, c - 1)
      if (y < ny - 2) go(c, c + nx)
      if (y > 1) go(c, c - nx)
      if (z < nz - 2) go(c, c + nx * ny)
      if (z > 1) go(c, c - nx * ny)
    }
  }
  return width
}
