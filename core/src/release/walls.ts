import { containment, latticeCrossings, type Region } from '../polygon'
import { isPartBetween, type Place } from './between'
import { FAR, lineSpreader, lowerEnvelope } from './distances'
import { extentOf, type Extent } from './extent'
import { slicesOf, unseenBetween } from './slices'
import type { Filled } from './standCells'

/**
 * A part on a grid of cells: cell c is at column `c % nx`, row `floor(c / nx) % ny` and slice `floor(c / (nx
 * ny))`.
 */
export type Walls = {
  readonly nx: number
  readonly ny: number
  readonly nz: number
  /** Sides of a cell, and its height. */
  readonly cellMm: number
  readonly riseMm: number
  /** Cell of a place; -1 outside and at the border. */
  cellAt(x: number, y: number, z: number): number
  /** The middle of a cell. */
  placeOf(cell: number): [number, number, number]
  /** Whether the slice of a cell shows a plate that no other slice does. */
  isThin(cell: number): boolean
  /** Whether a place lies in the part. */
  contains(x: number, y: number, z: number): boolean
  /** Whether any of the part lies on the straight line between two places, however thin. */
  isBetween(a: Place, b: Place): boolean
  /** Distance from a place to the part, to half a cell or so; beyond all cells at least as much. */
  roomMm(x: number, y: number, z: number): number
  /** Distance from the middle of each cell to the part, in mm; 0 inside. */
  readonly distanceMm: Float32Array
  /** Half the width of the way that each cell lies in, in mm: its distance, were it in the middle. */
  readonly halfWayMm: Float32Array
  /** Whether a wall thinner than a cell lies between a cell and the next one of its row, or of its column. */
  isShutX(cell: number): boolean
  isShutY(cell: number): boolean
  /** Whether anything of the part lies between a cell and the one above it. */
  isShutZ(cell: number): boolean
}

/** How finely a part is looked at. */
export type Fineness = {
  /** The longest side is seen in about so many cells, and in twice as many upwards. */
  readonly cells: number
  readonly finestMm: number
  /** Cells in all, about, at most. */
  readonly mostCells: number
  /** Free cells so far around everything; a few are enough for ways that lead outside. */
  readonly rimMm?: number
}

export const FINE: Fineness = { cells: 96, finestMm: 0.5, mostCells: 5e5 }
/** Enough to tell what is wide open, in a sixth of the time. */
export const ROUGH: Fineness = { cells: 48, finestMm: 0.8, mostCells: 8e4 }
/** A tool wider than this is any tool. */
export const ANY_TOOL_MM = 25
/** The room outside as well, as far away as the middles of such tools are. */
export const OUTER: Fineness = { cells: 32, finestMm: 1.2, mostCells: 2.5e4, rimMm: ANY_TOOL_MM / 2 }
const COLUMNS_AT_ONCE = 16
/** Room up to which it matters where in a cell the middle of a hole lies. */
const HOLE_MM = 10
/** Room falls from a cell to both sides when it does so by this share of the way, both together. */
const FALLS = 0.3
/** Free cells around everything, at least. */
const RIM = 3
const SHUT_X = 1
const SHUT_Y = 2
const SHUT_Z = 4

/**
 * Where a part leaves room.
 * Source: exact distances to where rows and columns of cells cross the outlines, spread by lower envelopes of
 * parabolas axis by axis; between two walls, the distances to both tell how wide the way between them is.
 * @param within what of it is looked at, if not all
 */
export function wallsOf(
  layers: readonly Filled[],
  { cells, finestMm, mostCells, rimMm = 0 }: Fineness = FINE,
  within: Extent = extentOf(layers),
): Walls {
  const [[minX, minY, bottomMm], [maxX, maxY, topMm]] = [within.fromMm, within.toMm]
  const tallMm = topMm - bottomMm
  const cell = Math.max(
    finestMm,
    Math.max(maxX - minX, maxY - minY, tallMm) / cells,
    Math.cbrt((2 * (maxX - minX) * (maxY - minY) * tallMm) / mostCells),
  )
  const rise = cell / 2
  const [rim, rimUpwards] = [cell, rise].map((side) => Math.max(RIM, Math.ceil(rimMm / side)))
  /** Slices below the bed. */
  const under = rimUpwards - Math.floor(bottomMm / rise)
  const [left, front] = [Math.floor(minX / cell) - rim, Math.floor(minY / cell) - rim]
  const nx = Math.ceil(maxX / cell) - left + rim
  const ny = Math.ceil(maxY / cell) - front + rim
  const nz = Math.ceil(topMm / rise) + under + rimUpwards
  const slice = nx * ny
  /** Squares of distances. */
  const squares = new Float32Array(slice * nz)
  /** How much wider the way is at its middle, as a share of the distance. */
  const gain = new Float32Array(slice * nz)
  const shut = new Uint8Array(slice * nz)
  const slices = slicesOf(layers, rise, nz, under)
  const { seen, layerOf, thin } = slices
  withinSlices()
  betweenSlices()
  acrossSlices()
  // Both in place: a loop is twenty times as quick as mapping.
  const [distanceMm, halfWayMm] = [squares, gain]
  for (let c = 0; c < squares.length; c++) {
    distanceMm[c] = Math.sqrt(squares[c])
    halfWayMm[c] = (1 + gain[c]) * distanceMm[c]
  }
  const { around, fars } = placesWithin(cell, rise, nx, slice)
  for (const c of inHoles()) halfWayMm[c] = Math.max(halfWayMm[c], mostWithin(c))
  return {
    nx,
    ny,
    nz,
    cellMm: cell,
    riseMm: rise,
    cellAt,
    placeOf: (c) => [
      ((c % nx) + left + 0.5) * cell,
      ((Math.floor(c / nx) % ny) + front + 0.5) * cell,
      (Math.floor(c / slice) - under + 0.5) * rise,
    ],
    isThin: (c) => thin[Math.floor(c / slice)] === 1,
    contains(x, y, z) {
      let layer = layerOf[Math.min(nz - 1, Math.max(0, Math.floor(z / rise) + under))]
      while (layer > 0 && z < layers[layer].bottomMm) layer--
      while (layer < layers.length && z >= layers[layer].topMm) layer++
      return layer < layers.length && z >= layers[layer].bottomMm && containment(layers[layer].region)(x, y)
    },
    isBetween: (a, b) => isPartBetween(layers, a, b),
    roomMm(x, y, z) {
      const c = cellAt(x, y, z)
      if (c >= 0) return distanceMm[c]
      // The box around the part is convex: whatever lies in it is at least as far as the way to the box and
      // the way on from there make up at a right angle.
      const inBox = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value))
      const [qx, qy, qz] = [inBox(x, minX, maxX), inBox(y, minY, maxY), inBox(z, bottomMm, topMm)]
      const near = cellAt(qx, qy, qz)
      return Math.hypot(x - qx, y - qy, z - qz, near < 0 ? 0 : distanceMm[near])
    },
    distanceMm,
    halfWayMm,
    isShutX: (c) => (shut[c] & SHUT_X) !== 0,
    isShutY: (c) => (shut[c] & SHUT_Y) !== 0,
    isShutZ: (c) => (shut[c] & SHUT_Z) !== 0,
  }

  function cellAt(x: number, y: number, z: number): number {
    const i = Math.floor(x / cell) - left
    const j = Math.floor(y / cell) - front
    const k = Math.floor(z / rise) + under
    return i < 1 || j < 1 || k < 1 || i >= nx - 1 || j >= ny - 1 || k >= nz - 1 ? -1 : k * slice + j * nx + i
  }

  /**
   * Cells with less room beside them all around a way through them: in holes and in their mouths. Not those
   * of ways between two walls only, however they slant.
   */
  function inHoles(): number[] {
    const found: number[] = []
    const [levelMm, uprightMm] = [Math.SQRT2 * cell, Math.hypot(cell, rise)]
    for (let k = 1; k < nz - 1; k++)
      for (let j = 1; j < ny - 1; j++)
        for (let i = 1, c = k * slice + j * nx + 1; i < nx - 1; i++, c++) {
          const own = distanceMm[c]
          if (own === 0 || own > HOLE_MM) continue
          const x = falls(c, 1, cell)
          const y = falls(c, nx, cell)
          if (!x && !y) continue
          const z = falls(c, slice, rise)
          if (
            (x && y && falls(c, nx + 1, levelMm) && falls(c, nx - 1, levelMm)) ||
            (x && z && falls(c, slice + 1, uprightMm) && falls(c, slice - 1, uprightMm)) ||
            (y && z && falls(c, slice + nx, uprightMm) && falls(c, slice - nx, uprightMm))
          )
            found.push(c)
        }
    return found
  }

  /** Whether room falls from a cell to both sides. */
  function falls(c: number, step: number, mm: number): boolean {
    return 2 * distanceMm[c] - distanceMm[c - step] - distanceMm[c + step] > FALLS * mm
  }

  /**
   * The most room that a place in a cell may have, by what the cells around it have: it changes by no more
   * than the way from one to the other. Where walls stand all around, that is what it has, within a tenth of
   * a cell.
   */
  function mostWithin(c: number): number {
    let most = 0
    for (let p = 0; p < fars.length; p += around.length) {
      let least = Infinity
      for (let n = 0; n < around.length && least > most; n++)
        least = Math.min(least, distanceMm[c + around[n]] + fars[p + n])
      if (least > most) most = least
    }
    return most
  }

  /** Distances within each slice: by its rows, and by its columns. */
  function withinSlices(): void {
    const byRows = new Float32Array(slice)
    const byColumns = new Float32Array(slice)
    const spread = lineSpreader(Math.max(nx, ny), cell)
    let below: Region | null = null
    for (let k = 0; k < nz; k++) {
      const region = seen[k]
      const at = k * slice
      if (!region) squares.fill(FAR, at, at + slice)
      else if (region === below) for (const all of [squares, gain, shut]) all.copyWithin(at, at - slice, at)
      else {
        byRows.fill(FAR)
        byColumns.fill(FAR)
        const rows = latticeCrossings(region, 0, cell)
        for (let n = 0; n + 1 < rows.starts.length; n++) {
          const j = rows.first + n - front
          if (j >= 0 && j < ny) alongLine(rows.at, rows.starts[n], rows.starts[n + 1], left, nx, 1, j * nx)
        }
        // Turned by a quarter, lines count against x, and y is along them.
        const columns = latticeCrossings(region, 90, cell)
        for (let n = 0; n + 1 < columns.starts.length; n++) {
          const i = -(columns.first + n) - 1 - left
          if (i >= 0 && i < nx)
            alongLine(columns.at, columns.starts[n], columns.starts[n + 1], front, ny, nx, i)
        }
        for (let i = 0; i < nx; i++) spread(byRows, i, nx, ny)
        for (let j = 0; j < ny; j++) spread(byColumns, j * nx, 1, nx)
        for (let c = 0; c < slice; c++) squares[at + c] = Math.min(byRows[c], byColumns[c])
      }
      below = region

      /** Squares of distances along a row or a column, what they gain at its middle, and what is shut. */
      function alongLine(
        crossings: Float64Array,
        from: number,
        to: number,
        origin: number,
        n: number,
        stride: number,
        first: number,
      ): void {
        const into = stride === 1 ? byRows : byColumns
        const flag = stride === 1 ? SHUT_X : SHUT_Y
        let end = -FAR
        let cellOf = 0
        for (let s = from; s <= to; s += 2) {
          const start = s + 1 < to ? crossings[s] : FAR
          // Free cells before this wall.
          for (; cellOf < n; cellOf++) {
            const middle = (origin + cellOf + 0.5) * cell
            if (middle >= start) break
            const [before, after] = [middle - end, start - middle]
            const near = Math.min(before, after)
            const c = first + cellOf * stride
            into[c] = near * near
            const aside = Math.abs(before - after)
            if (aside < cell) gain[at + c] = Math.max(gain[at + c], aside / (2 * near))
          }
          if (s + 1 >= to) return
          end = crossings[s + 1]
          const entered = cellOf
          for (; cellOf < n && (origin + cellOf + 0.5) * cell <= end; cellOf++)
            into[first + cellOf * stride] = 0
          if (entered === cellOf && cellOf > 0) shut[at + first + (cellOf - 1) * stride] |= flag
        }
      }
    }
  }

  /** What lies between one slice and the next: a plate that neither shows, or a wall that leans past both. */
  function betweenSlices(): void {
    let below: readonly Region[] = []
    unseenBetween(layers, slices).forEach((regions, k) => {
      const at = k * slice
      if (k > 0 && regions.length === below.length && regions.every((region, n) => region === below[n])) {
        for (let c = at; c < at + slice; c++) shut[c] |= shut[c - slice] & SHUT_Z
        return
      }
      below = regions
      for (const region of regions) {
        const rows = latticeCrossings(region, 0, cell)
        for (let n = 0; n + 1 < rows.starts.length; n++) {
          const j = rows.first + n - front
          if (j < 0 || j >= ny) continue
          const row = at + j * nx - left
          for (let s = rows.starts[n]; s + 1 < rows.starts[n + 1]; s += 2) {
            const last = Math.min(left + nx - 1, Math.floor(rows.at[s + 1] / cell - 0.5))
            for (let i = Math.max(left, Math.ceil(rows.at[s] / cell - 0.5)); i <= last; i++)
              shut[row + i] |= SHUT_Z
          }
        }
      }
    })
  }

  /** Distances to the slices above and below: the part ends halfway between two of them. */
  function acrossSlices(): void {
    const sites = new Float64Array(nz - 1)
    const out = new Float64Array(nz)
    const envelope = lowerEnvelope(nz)
    const own = new Float32Array(nz)
    // Some columns of cells at once: what lies beside each other in memory is read together.
    const block = new Float32Array(COLUMNS_AT_ONCE * nz)
    for (let from = 0; from < slice; from += COLUMNS_AT_ONCE) {
      const columns = Math.min(COLUMNS_AT_ONCE, slice - from)
      for (let k = 0; k < nz; k++)
        for (let n = 0; n < columns; n++) block[n * nz + k] = squares[k * slice + from + n]
      for (let n = 0; n < columns; n++) {
        own.set(block.subarray(n * nz, (n + 1) * nz))
        let isFree = true
        for (let k = 0; k < nz - 1; k++) {
          sites[k] = Math.min(own[k], own[k + 1])
          if (sites[k] < FAR) isFree = false
        }
        if (isFree) continue
        envelope(sites, nz - 1, rise, -rise / 2, out, nz)
        // From one end of the part to the next, both halfway between two slices.
        let [end, start] = [-FAR, 0]
        for (let k = 0; k < nz; k++) {
          if (own[k] === 0) {
            end = k
            continue
          }
          if (out[k] < own[k]) block[n * nz + k] = out[k]
          if (start <= k) for (start = k + 1; start < nz && own[start] !== 0;) start++
          const aside = Math.abs(start - k - (k - end))
          if (start === nz || aside > 2) continue
          const at = k * slice + from + n
          gain[at] = Math.max(gain[at], aside / (2 * Math.min(start - k, k - end) - 1))
        }
      }
      for (let k = 0; k < nz; k++)
        for (let n = 0; n < columns; n++) squares[k * slice + from + n] = block[n * nz + k]
    }
  }
}

/** Cells around one, itself among them, and how far places in it, each in turn, are from their middles. */
function placesWithin(cell: number, rise: number, nx: number, slice: number) {
  const around: number[] = []
  const middles: number[][] = []
  for (let z = -1; z <= 1; z++)
    for (let y = -1; y <= 1; y++)
      for (let x = -1; x <= 1; x++) {
        around.push(z * slice + y * nx + x)
        middles.push([x * cell, y * cell, z * rise])
      }
  const fars: number[] = []
  for (const z of [-0.5, 0, 0.5])
    for (const y of [-0.5, -0.25, 0, 0.25, 0.5])
      for (const x of [-0.5, -0.25, 0, 0.25, 0.5])
        for (const middle of middles)
          fars.push(Math.hypot(x * cell - middle[0], y * cell - middle[1], z * rise - middle[2]))
  return { around, fars: Float64Array.from(fars) }
}
