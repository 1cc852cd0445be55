import { isEmptyRegion } from '../polygon'
import { isPartBetween, type Place } from './between'
import type { Way } from './openings'
import type { Opening } from './openingsInto'
import { closelyReached, reachedMm, UNREACHED, type Reached } from './reached'
import { roomAround, type Room } from './room'
import {
  hangingOf,
  middleOf,
  placeIn,
  RIM,
  STAND,
  standCells,
  type Filled,
  type OffPass,
  type StandCells,
} from './standCells'
import { ANY_TOOL_MM, type Walls } from './walls'

/** What lies no farther than this from a place, or from what is nearest to that. */
export type Near = { readonly place: Place; readonly withinMm: number }

/** One piece of support as it stands in the print, seen on a coarse grid. */
export type StandPiece = {
  /** What it takes up, its air included. */
  readonly grossMm3: number
  /**
   * Widest round tool that gets to it from outside, or over most of it from beside, supports counted as free;
   * 0 when nothing does. Worked out when it is asked for.
   */
  readonly openingMm: number
  /** The same to a cell or two; how much more than enough is not looked at. */
  roughOpeningMm(enoughMm: number): number
  /** The same on a finer grid; what is narrow for the size of the part is not looked at closely. */
  readonly seenOpeningMm: number
  /** Widest tool that gets to what of it lies near a place. */
  openingNearMm(near: Near): number
  /** The widest way from it to outside; from what lies near a place, if one is told. */
  wayMm(near?: Near): Way
  /** All openings that lead to it, or to what of it lies near a place; null where they are too wide. */
  openings(near?: Near): readonly Opening[] | null
  readonly heightMm: number
  /** Mean section over its height. */
  readonly sectionMm2: number
  /** Mean section over its longest side: how thick a wall of it is. */
  readonly thickMm: number
  readonly onBed: boolean
  /** A place in its highest cell, and how large cells are. */
  readonly highestMm: Place
  readonly cellMm: number
  /** A place in it. */
  readonly atMm: Place
  /** Its cells of the grid. */
  readonly cells: readonly number[]
  /**
   * How near the middle of one of its cells comes to a place; Infinity where that is surely farther than
   * asked for.
   */
  distanceMm(place: Place, withinMm?: number): number
}

/** Part and supports as cells, and what of them hangs together. */
export type StandGrid = StandCells & {
  readonly pieces: readonly StandPiece[]
  /** Of each cell the number of its piece; -1 for none. */
  readonly pieceOf: Int32Array
  /** The part as its stands leave it, worked out when it is asked for. */
  readonly walls: Walls
}

/** What is smaller than this is a speck, of no matter to anybody. */
export const SPECK_MM3 = 8
/** So many of the cells of a piece tell where it lies. */
const ASKED_CELLS = 25
/** Through less than this a stand of some size comes out in pieces, whatever the directions say. */
export const NARROW_MM = 10

/**
 * The pieces of a plan's supports with how they are reached once the part is off the bed, and the grid they
 * were found on.
 * @param layers of the part
 * @param passes of the supports
 * @param roomIn the room around a part, which is not asked for without supports
 * @returns null without supports
 */
export function standGrid(
  layers: readonly Filled[],
  passes: readonly OffPass[],
  roomIn: (layers: readonly Filled[]) => Room = roomAround,
): StandGrid | null {
  const held = passes.filter(({ region }) => !isEmptyRegion(region))
  if (held.length === 0) return null
  const grid = standCells(layers, held)
  const room = roomIn(layers)
  const pieceOf = new Int32Array(grid.cells.length).fill(-1)
  const pieces = gathered(grid, layers).map((found, number) => {
    for (const c of found.cells) pieceOf[c] = number
    return pieceFrom(found, number, grid, pieceOf, room)
  })
  return {
    ...grid,
    pieces,
    pieceOf,
    get walls() {
      return room.fine.walls
    },
  }
}

/** Cells that hang together, and how far they reach in whole cells. */
type Gathered = {
  readonly cells: readonly number[]
  readonly low: number
  readonly high: number
  readonly west: number
  readonly east: number
  readonly south: number
  readonly north: number
  /** One of the highest. */
  readonly highest: number
}

/** Which cells of supports hang together: what is one as printed, and what lies beside it past no wall. */
function gathered(grid: StandCells, layers: readonly Filled[]): Gathered[] {
  const { cells: all, bodyOf, nx, ny } = grid
  const steps = hangingOf(nx, ny)
  /** Cells of supports that belong to no piece yet. */
  const waiting = new Uint8Array(all.length)
  for (let c = 0; c < all.length; c++) if (all[c] === STAND) waiting[c] = 1
  const found: Gathered[] = []
  for (let start = 0; start < all.length; start++) if (waiting[start] === 1) found.push(from(start))
  return found

  function from(start: number): Gathered {
    const cells = [start]
    waiting[start] = 0
    let [low, high, highest] = [grid.nz, 0, start]
    let [west, east, south, north] = [nx, 0, ny, 0]
    for (let q = 0; q < cells.length; q++) {
      const c = cells[q]
      const row = Math.floor(c / nx)
      const x = c - row * nx
      const z = Math.floor(row / ny)
      const y = row - z * ny
      if (z < low) low = z
      if (z > high) [high, highest] = [z, c]
      if (x < west) west = x
      if (x > east) east = x
      if (y < south) south = y
      if (y > north) north = y
      for (const step of steps) {
        const n = c + step
        if (waiting[n] === 0) continue
        if (bodyOf[n] !== bodyOf[c] && isPartBetween(layers, placeIn(grid, c), placeIn(grid, n))) continue
        waiting[n] = 0
        cells.push(n)
      }
    }
    return { cells, low, high, highest, west, east, south, north }
  }
}

/** What is to be known of a piece; how it is reached is worked out when that is asked for. */
function pieceFrom(
  found: Gathered,
  number: number,
  grid: StandCells,
  pieceOf: Int32Array,
  room: Room,
): StandPiece {
  const { cells, low, high, highest, west, east, south, north } = found
  const { cellMm } = grid
  const levels = high - low + 1
  const sectionMm2 = (cells.length / levels) * cellMm * cellMm
  let shut: boolean | null = null
  const isShut = () => (shut ??= liesShut(cells, grid, room))
  const roughMm = new Map<number, number>()
  let seenMm: number | null = null
  /** By what of it is asked about. */
  const known = new Map<string, Reached>()
  const closely = (near?: Near) => {
    const key = near ? [...near.place, near.withinMm].join(' ') : ''
    const of =
      known.get(key) ??
      (isShut() ? UNREACHED : closelyReached(room, placesIn(near ? nearTo(near) : cells, grid)))
    known.set(key, of)
    return of
  }
  return {
    grossMm3: cells.length * cellMm ** 3,
    roughOpeningMm(enoughMm) {
      let mm = roughMm.get(enoughMm)
      if (mm === undefined) {
        mm = isShut() ? 0 : reachedMm(room, room.rough, placesIn(cells, grid), enoughMm)
        roughMm.set(enoughMm, mm)
      }
      return mm
    },
    get seenOpeningMm() {
      return (seenMm ??= isShut() ? 0 : reachedMm(room, room.fine, placesIn(cells, grid), ANY_TOOL_MM))
    },
    get openingMm() {
      return closely().widthMm
    },
    openingNearMm: (near) => closely(near).widthMm,
    wayMm: (near) => closely(near).wayMm(),
    openings: (near) => closely(near).openings(),
    heightMm: levels * cellMm,
    sectionMm2,
    thickMm: sectionMm2 / (cellMm * (Math.max(east - west, north - south) + 1)),
    onBed: low === RIM,
    highestMm: placeIn(grid, highest),
    cellMm,
    atMm: placeIn(grid, cells[cells.length >> 1]),
    cells,
    distanceMm,
  }

  function nearTo({ place, withinMm }: Near): number[] {
    const [px, py, pz] = place
    const nearestMm = distanceMm(place)
    const farMm = nearestMm <= withinMm ? withinMm : nearestMm + cellMm
    return cells.filter((c) => {
      const [x, y, z] = middleOf(grid, c)
      return Math.hypot(x - px, y - py, z - pz) <= farMm
    })
  }

  function distanceMm(place: Place, withinMm = Infinity): number {
    const { nx, ny, originMm } = grid
    const [cx, cy, cz] = place.map((value, axis) => (value - originMm[axis]) / cellMm - 0.5)
    const aside = Math.max(west - cx, cx - east, south - cy, cy - north, low - cz, cz - high)
    if (aside * cellMm > withinMm) return Infinity
    const reach = withinMm / cellMm
    let nearest = Infinity
    const look = (c: number) => {
      const dx = (c % nx) - cx
      const dy = (Math.floor(c / nx) % ny) - cy
      const dz = Math.floor(c / (nx * ny)) - cz
      nearest = Math.min(nearest, dx * dx + dy * dy + dz * dz)
    }
    // Around the place, or all over the piece: whichever is less.
    if ((2 * reach + 1) ** 3 >= cells.length) for (const c of cells) look(c)
    else
      for (let z = Math.max(low, Math.ceil(cz - reach)); z <= Math.min(high, cz + reach); z++)
        for (let y = Math.max(south, Math.ceil(cy - reach)); y <= Math.min(north, cy + reach); y++)
          for (let x = Math.max(west, Math.ceil(cx - reach)); x <= Math.min(east, cx + reach); x++) {
            const c = (z * ny + y) * nx + x
            if (pieceOf[c] === number) look(c)
          }
    return Math.sqrt(nearest) * cellMm
  }
}

/** Whether most of some cells lie in a room that is shut on all sides. */
function liesShut(cells: readonly number[], grid: StandCells, { hollows }: Room): boolean {
  const asked = Math.min(ASKED_CELLS, cells.length)
  let shut = 0
  for (let n = 0; n < asked; n++)
    if (hollows.isShut(...placeIn(grid, cells[Math.floor((n * cells.length) / asked)]))) shut++
  return 2 * shut > asked
}

/** Where cells are, x, y, z by turns. */
function placesIn(cells: readonly number[], grid: StandCells): Float64Array {
  const places = new Float64Array(3 * cells.length)
  cells.forEach((c, n) => places.set(placeIn(grid, c), 3 * n))
  return places
}
