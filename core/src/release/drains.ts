import { squaresFrom } from './distances'
import { isWalledOff } from './freeWay'
import { middleOf, PART, sidesOf } from './standCells'
import type { Near, StandGrid, StandPiece } from './standPieces'
import { wordsOf } from './directions'

/** Where liquid gets to a stand, and out again. */
export type Drain = {
  readonly atMm: readonly [number, number, number]
  /** As wide as a round hole of its area. */
  readonly widthMm: number
  /** Which way it looks, in words. */
  readonly toward: string
}

/** A stand that is open by more than this is washed from all sides. */
const WASHED_MM = 25
/** So is one whose mouth looks to more sides than one: less than this share of its faces agree. */
const ONE_WAY = 0.6
/** Of a mouth about as wide as the way in fewer do: the ball sinks into it, up to its middle. */
const SUNK = { oneWay: 0.42, wider: 1.3 } as const
/** The ball is this much wider than the way in, and by so many cells: by less it might get in. */
const WIDER = 1.06
const ROLLED_CELLS = 0.25
/** Faces that look less than this share one way look nowhere. */
const SMALLEST_CELLS = 2

/**
 * The openings of the pocket that a stand lies in, the widest first; none where it is closed, null where
 * liquid washes it from several sides.
 * Source: a ball a little wider than the widest way in, rolled over the part from outside, leaves the pocket
 * as what it cannot reach; where the two meet are its openings.
 * @param openingMm the widest way in, to what lies near a place if one is told
 */
export function drainsOf(
  grid: StandGrid,
  { cells: own, openings }: Pick<StandPiece, 'cells' | 'openings'>,
  openingMm: number,
  near?: Near,
): Drain[] | null {
  const { cells, nx, ny, cellMm, originMm } = grid
  if (openingMm <= 0) return []
  if (openingMm >= WASHED_MM) return null
  const narrow = openings(near)
  if (narrow) return narrow.map(({ looks, ...opening }) => ({ ...opening, toward: wordsOf(looks) }))
  const steps = sidesOf(nx, ny)
  const outside = rolled(grid, (WIDER * openingMm) / 2 + ROLLED_CELLS * cellMm)
  // The pocket: whatever is joined to the stand and not reached from outside.
  const pocket = new Uint8Array(cells.length)
  const queue = own.filter((c) => !outside[c])
  // What the ball gets to anyway lies in the open.
  if (2 * queue.length < own.length) return null
  for (const c of queue) pocket[c] = 1
  const mouths = new Map<number, [number, number, number]>()
  for (let q = 0; q < queue.length; q++) {
    // Between the ball and the part a layer thinner than a cell is left: what touches the outside is a rim.
    let isRim = false
    for (const [s, step] of steps.entries()) {
      const n = queue[q] + step
      if (!outside[n] || !isOpen(grid, queue[q], n)) continue
      isRim = true
      const normal = mouths.get(n) ?? [0, 0, 0]
      normal[s >> 1] += s % 2 === 0 ? 1 : -1
      mouths.set(n, normal)
    }
    if (isRim) continue
    for (const step of steps) {
      const n = queue[q] + step
      if (pocket[n] || !isOpen(grid, queue[q], n)) continue
      pocket[n] = 1
      queue.push(n)
    }
  }
  const drains: Drain[] = []
  for (const group of grouped(mouths, nx, ny)) {
    if (group.length < SMALLEST_CELLS) continue
    const middle: [number, number, number] = [0, 0, 0]
    const normal: [number, number, number] = [0, 0, 0]
    let faces = 0
    for (const c of group) {
      const at = [c % nx, Math.floor(c / nx) % ny, Math.floor(c / (nx * ny))]
      const looks = mouths.get(c)!
      for (let axis = 0; axis < 3; axis++) {
        middle[axis] += (at[axis] + 0.5) / group.length
        normal[axis] += looks[axis]
        faces += Math.abs(looks[axis])
      }
    }
    const long = Math.hypot(...normal)
    // Faces of a slanting mouth count for the plane that they make up.
    const widthMm = 2 * cellMm * Math.sqrt(long / Math.PI)
    if (long < (widthMm < SUNK.wider * openingMm ? SUNK.oneWay : ONE_WAY) * faces) return null
    drains.push({
      atMm: middle.map((value, axis) => originMm[axis] + value * cellMm) as [number, number, number],
      widthMm,
      toward: wordsOf(normal.map((value) => value / long) as [number, number, number]),
    })
  }
  return drains.toSorted((a, b) => b.widthMm - a.widthMm)
}

/** Whether nothing of the part lies in a cell or between it and the one beside it. */
const isOpen = (grid: StandGrid, from: number, to: number): boolean =>
  to >= 0 &&
  to < grid.cells.length &&
  grid.cells[to] !== PART &&
  !isWalledOff(grid.walls, middleOf(grid, from), middleOf(grid, to), 2 * grid.cellMm)

/** Cells that a ball gets over when it is rolled in from outside. */
function rolled(grid: StandGrid, ballMm: number): Uint8Array {
  const { cells, nx, ny, nz, cellMm, originMm, walls } = grid
  // Centres are a cell apart: the outermost may be that much farther from the part than the ball is wide.
  const ball = ballMm / cellMm + 1
  const reach = Math.floor(ball)
  // The ball also rolls around outside of the grid.
  const [wide, deep, tall] = [nx, ny, nz].map((side) => side + 2 * (reach + 1))
  const hasRoom = new Uint8Array(wide * deep * tall)
  const middle = (axis: number, at: number) => originMm[axis] + (at - reach - 0.5) * cellMm
  for (let c = 0, k = 0; k < tall; k++)
    for (let j = 0; j < deep; j++)
      for (let i = 0; i < wide; i++, c++)
        hasRoom[c] = walls.roomMm(middle(0, i), middle(1, j), middle(2, k)) >= ballMm ? 1 : 0
  const steps = sidesOf(wide, deep)
  const centres = new Uint8Array(hasRoom.length)
  const queue = [0]
  centres[0] = 1
  for (let q = 0; q < queue.length; q++)
    for (const step of steps) {
      const n = queue[q] + step
      if (n < 0 || n >= centres.length || centres[n] || !hasRoom[n]) continue
      centres[n] = 1
      queue.push(n)
    }
  const squares = squaresFrom(centres, [wide, deep, tall])
  const over = new Uint8Array(cells.length)
  for (let c = 0, k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++, c++) {
        const far = squares[((k + reach + 1) * deep + j + reach + 1) * wide + i + reach + 1]
        if (cells[c] !== PART && far < ball * ball) over[c] = 1
      }
  // Through a wall thinner than a cell it seems to get over what lies behind.
  const outside = new Uint8Array(cells.length)
  const from = [0]
  outside[0] = 1
  for (let q = 0; q < from.length; q++)
    for (const step of sidesOf(nx, ny)) {
      const n = from[q] + step
      if (outside[n] || !over[n] || !isOpen(grid, from[q], n)) continue
      outside[n] = 1
      from.push(n)
    }
  return outside
}

/** Cells that touch each other, corners included. */
function grouped(cells: ReadonlyMap<number, unknown>, nx: number, ny: number): number[][] {
  const left = new Set(cells.keys())
  const groups: number[][] = []
  for (const start of cells.keys()) {
    if (!left.delete(start)) continue
    const group = [start]
    for (let g = 0; g < group.length; g++)
      for (let z = -1; z <= 1; z++)
        for (let y = -1; y <= 1; y++)
          for (let x = -1; x <= 1; x++) {
            const n = group[g] + (z * ny + y) * nx + x
            if (left.delete(n)) group.push(n)
          }
    groups.push(group)
  }
  return groups
}
