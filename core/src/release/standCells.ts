import { boxOf, isEmptyRegion, latticeCrossings, regionContains, splitPieces, type Region } from '../polygon'
import { extentOf } from './extent'
import { standBodies } from './standBodies'

export type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }
/** What comes off. */
export type OffPass = Filled & { readonly role?: string }

/** Part and supports as cells. */
export type StandCells = {
  /** 0 is air. */
  readonly cells: Uint8Array
  /** Of each cell of a support the number of what it is one with, as printed. */
  readonly bodyOf: Int32Array
  /** The height at which that is in it: not its middle, where it is thinner than the cell. */
  readonly heightMm: Float32Array
  readonly nx: number
  readonly ny: number
  readonly nz: number
  readonly cellMm: number
  /** Lowest corner of its first cell. */
  readonly originMm: readonly [number, number, number]
}

type Marked = { readonly value: number; readonly body: number; readonly atMm: number }

export const PART = 1
export const STAND = 2

/** The longest side is seen in about so many cells. */
const CELLS = 48
const FINEST_MM = 0.6
/** Something rounder than this many cells has the middle of one in it in any case. */
const THIN_CELLS = 1.5
/** Free cells around everything. */
export const RIM = 3

/** From a cell to those that share a side with it. */
export const sidesOf = (nx: number, ny: number): readonly number[] => [1, -1, nx, -nx, nx * ny, -nx * ny]

/** From a cell to those that hang together with it: beside it, and upwards aslant, as branches lean. */
export function hangingOf(nx: number, ny: number): readonly number[] {
  const steps = [1, -1, nx, -nx]
  for (const up of [nx * ny, -nx * ny])
    for (const along of [-nx, 0, nx]) steps.push(up + along - 1, up + along, up + along + 1)
  return steps
}

/** The middle of a cell. */
export const middleOf = (
  { nx, ny, cellMm, originMm }: Pick<StandCells, 'nx' | 'ny' | 'cellMm' | 'originMm'>,
  c: number,
): [number, number, number] => [
  originMm[0] + ((c % nx) + 0.5) * cellMm,
  originMm[1] + ((Math.floor(c / nx) % ny) + 0.5) * cellMm,
  originMm[2] + (Math.floor(c / (nx * ny)) + 0.5) * cellMm,
]

/** A place in the support that a cell shows. */
export function placeIn(grid: StandCells, c: number): [number, number, number] {
  const [x, y] = middleOf(grid, c)
  return [x, y, grid.heightMm[c]]
}

/**
 * Part and supports on a grid coarse enough to be walked through at once.
 * @param layers of the part
 * @param held passes of the supports, none of them empty
 */
export function standCells(layers: readonly Filled[], held: readonly OffPass[]): StandCells {
  const { fromMm, toMm } = extentOf([...layers, ...held])
  const [[minX, minY], [maxX, maxY, top]] = [fromMm, toMm]
  const cell = Math.max(FINEST_MM, Math.max(maxX - minX, maxY - minY, top) / CELLS)
  const [nx, ny, nz] = [maxX - minX, maxY - minY, top].map((side) => Math.ceil(side / cell) + 2 * RIM + 1)
  const grid = new Uint8Array(nx * ny * nz)
  const bodyOf = new Int32Array(grid.length).fill(-1)
  const heightMm = new Float32Array(grid.length)
  const bodies = new Map(standBodies(held).map((own, n) => [held[n], own]))
  const at = (x: number, y: number, z: number) => (z * ny + y) * nx + x
  // A row is the cells that a line runs through the middle of.
  const [left, front] = [Math.floor(minX / cell) - RIM, Math.floor(minY / cell) - RIM]
  const put = (c: number, { value, body, atMm }: Marked) => {
    if (grid[c] !== 0) return
    grid[c] = value
    bodyOf[c] = body
    heightMm[c] = atMm
  }
  /** A branch thinner than a cell is one cell thick: it holds together what hangs on it. */
  const markThin = (piece: Region, row: (y: number) => number, as: Marked) => {
    const box = boxOf(piece)
    const [wide, deep] = [box.maxX - box.minX, box.maxY - box.minY]
    if (Math.min(wide, deep) >= THIN_CELLS * cell) return
    const places = Math.max(1, Math.ceil(Math.max(wide, deep) / cell))
    for (let n = 0; n < places; n++) {
      const share = (n + 0.5) / places
      const x = box.minX + wide * (wide >= deep ? share : 0.5)
      const y = box.minY + deep * (wide >= deep ? 0.5 : share)
      if (regionContains(piece, x, y)) put(row(Math.floor(y / cell)) + Math.floor(x / cell) - left, as)
    }
  }
  const mark = (region: Region, z: number, as: Marked) => {
    const row = (y: number) => at(0, y - front, z)
    const { first, starts, at: ends } = latticeCrossings(region, 0, cell)
    for (let n = 0; n + 1 < starts.length; n++)
      for (let s = starts[n]; s + 1 < starts[n + 1]; s += 2) {
        const x0 = Math.ceil(ends[s] / cell - 0.5) - left
        const x1 = Math.floor(ends[s + 1] / cell - 0.5) - left
        for (let x = x0; x <= x1; x++) put(row(first + n) + x, as)
      }
    if (as.value === STAND) markThin(region, row, as)
  }
  const markPass = (pass: OffPass, z: number) => {
    const middle = (z - RIM + 0.5) * cell
    const atMm = middle >= pass.bottomMm && middle < pass.topMm ? middle : (pass.bottomMm + pass.topMm) / 2
    splitPieces(pass.region).forEach((piece, p) =>
      mark(piece, z, { value: STAND, body: bodies.get(pass)![p], atMm }),
    )
  }
  const fill = <F extends Filled>(list: readonly F[], into: (one: F, z: number) => void) => {
    let from = 0
    for (let z = RIM; z < nz - RIM; z++) {
      const height = (z - RIM + 0.5) * cell
      while (from < list.length && list[from].topMm <= height) from++
      for (let i = from; i < list.length && list[i].bottomMm < height + cell; i++) {
        const { bottomMm, topMm, region } = list[i]
        if (bottomMm <= height && topMm > height && !isEmptyRegion(region)) into(list[i], z)
      }
    }
  }
  fill(layers, ({ region }, z) => mark(region, z, { value: PART, body: -1, atMm: 0 }))
  fill(
    held.toSorted((a, b) => a.topMm - b.topMm),
    markPass,
  )
  // An interface thinner than a cell holds together what carries it: it shows in the row it lies upon.
  for (const pass of held)
    if (pass.role === 'interface')
      markPass(pass, RIM + Math.max(0, Math.floor((pass.bottomMm + pass.topMm) / 2 / cell - 0.5)))
  return {
    cells: grid,
    bodyOf,
    heightMm,
    nx,
    ny,
    nz,
    cellMm: cell,
    originMm: [left * cell, front * cell, -RIM * cell],
  }
}
