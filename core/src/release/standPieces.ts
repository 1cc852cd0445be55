import {
  boundsOf,
  boxOf,
  isEmptyRegion,
  latticeCrossings,
  regionContains,
  splitPieces,
  type Region,
} from '../polygon'
import { isWalledOff } from './freeWay'
import { openingsOf, type Openings } from './openings'
import { ANY_TOOL_MM, FINE, OUTER, ROUGH, wallsOf, type Fineness, type Walls } from './walls'

/** Corners of a line, in mm. */
export type Way = readonly (readonly [number, number, number])[]

/** One piece of support as it stands in the print, seen on a coarse grid. */
export type StandPiece = {
  /** What it takes up, its air included. */
  readonly grossMm3: number
  /**
   * Widest round tool that gets to it from outside, or over most of it from beside, supports counted as free;
   * 0 when nothing does. Worked out when it is asked for.
   */
  readonly openingMm: number
  /** The same to a cell or two. */
  readonly roughOpeningMm: number
  /** Widest tool that gets to what of it lies no farther than this from a place; null where nothing does. */
  openingNearMm(place: readonly [number, number, number], withinMm: number): number | null
  /** The widest way from it to outside; from what lies no farther than this from a place, if one is told. */
  wayMm(near?: { readonly place: readonly [number, number, number]; readonly withinMm: number }): Way
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
  /** Lowest corner of its first cell. */
  readonly originMm: readonly [number, number, number]
  readonly pieces: readonly StandPiece[]
  /** Of each cell the number of its piece; -1 for none. */
  readonly pieceOf: Int32Array
  /** The part as its stands leave it, worked out when it is asked for. */
  readonly walls: Walls
}

/** From a cell to those that share a side with it. */
export const sidesOf = (nx: number, ny: number): readonly number[] => [1, -1, nx, -nx, nx * ny, -nx * ny]

/** The middle of a cell. */
export const middleOf = (
  { nx, ny, cellMm, originMm }: Pick<StandGrid, 'nx' | 'ny' | 'cellMm' | 'originMm'>,
  c: number,
): [number, number, number] => [
  originMm[0] + ((c % nx) + 0.5) * cellMm,
  originMm[1] + ((Math.floor(c / nx) % ny) + 0.5) * cellMm,
  originMm[2] + (Math.floor(c / (nx * ny)) + 0.5) * cellMm,
]

/** What of a part the ways to its stands go by: the same for all plans of its layers. */
export type Room = {
  readonly rough: Ways
  /** Worked out when they are asked for; the other one shows the room outside as well. */
  readonly fine: Ways
  readonly outer: Ways
  /** Which moves between cells of a grid were found shut, as far as was asked; the last grid's are kept. */
  shutIn(grid: string): Map<number, boolean>
}
type Ways = { readonly walls: Walls; readonly openings: Openings }

export function roomAround(layers: readonly Filled[]): Room {
  const waysAt = (fineness: Fineness): Ways => {
    const walls = wallsOf(layers, fineness)
    return { walls, openings: openingsOf(walls) }
  }
  let [fine, outer]: (Ways | null)[] = [null, null]
  let shut = { grid: '', moves: new Map<number, boolean>() }
  return {
    rough: waysAt(ROUGH),
    get fine() {
      return (fine ??= waysAt(FINE))
    },
    get outer() {
      return (outer ??= waysAt(OUTER))
    },
    shutIn(grid) {
      if (shut.grid !== grid) shut = { grid, moves: new Map() }
      return shut.moves
    },
  }
}

type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }

/** The longest side is seen in about so many cells. */
const CELLS = 48
const FINEST_MM = 0.6
/** Something rounder than this many cells has the middle of one in it in any case. */
const THIN_CELLS = 1.5
/** Through less than this a stand of some size comes out in pieces, whatever the directions say. */
export const NARROW_MM = 10
/** By more of its cells than this the rough grid tells a way from a wider one. */
const SURELY_CELLS = 2
/** Free cells around everything. */
const RIM = 3
export const PART = 1
const STAND = 2

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
  passes: readonly Filled[],
  roomIn: (layers: readonly Filled[]) => Room = roomAround,
): StandGrid | null {
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
  // A row is the cells that a line runs through the middle of.
  const [left, front] = [Math.floor(minX / cell) - RIM, Math.floor(minY / cell) - RIM]
  const put = (c: number, value: number) => {
    if (grid[c] === 0) grid[c] = value
  }
  /** A branch thinner than a cell is one cell thick: it holds together what hangs on it. */
  const markThin = (region: Region, row: (y: number) => number) => {
    for (const piece of splitPieces(region)) {
      const box = boxOf(piece)
      const [wide, deep] = [box.maxX - box.minX, box.maxY - box.minY]
      if (Math.min(wide, deep) >= THIN_CELLS * cell) continue
      const places = Math.max(1, Math.ceil(Math.max(wide, deep) / cell))
      for (let n = 0; n < places; n++) {
        const share = (n + 0.5) / places
        const x = box.minX + wide * (wide >= deep ? share : 0.5)
        const y = box.minY + deep * (wide >= deep ? 0.5 : share)
        if (regionContains(piece, x, y)) put(row(Math.floor(y / cell)) + Math.floor(x / cell) - left, STAND)
      }
    }
  }
  const fill = (list: readonly Filled[], value: number) => {
    let from = 0
    for (let z = RIM; z < nz - RIM; z++) {
      const height = (z - RIM + 0.5) * cell
      while (from < list.length && list[from].topMm <= height) from++
      for (let i = from; i < list.length && list[i].bottomMm < height + cell; i++) {
        const { bottomMm, topMm, region } = list[i]
        if (bottomMm > height || topMm <= height || isEmptyRegion(region)) continue
        const row = (y: number) => at(0, y - front, z)
        const { first, starts, at: ends } = latticeCrossings(region, 0, cell)
        for (let n = 0; n + 1 < starts.length; n++)
          for (let s = starts[n]; s + 1 < starts[n + 1]; s += 2) {
            const x0 = Math.ceil(ends[s] / cell - 0.5) - left
            const x1 = Math.floor(ends[s + 1] / cell - 0.5) - left
            for (let x = x0; x <= x1; x++) put(row(first + n) + x, value)
          }
        if (value === STAND) markThin(region, row)
      }
    }
  }
  fill(layers, PART)
  fill(
    held.toSorted((a, b) => a.topMm - b.topMm),
    STAND,
  )
  const room = roomIn(layers)
  const { walls } = room.rough
  const originMm = [left * cell, front * cell, -RIM * cell] as const
  const lattice = { nx, ny, cellMm: cell, originMm }
  const shut = room.shutIn(`${nx} ${ny} ${cell} ${originMm.join(' ')}`)
  const pieceOf = new Int32Array(grid.length).fill(-1)
  return {
    cells: grid,
    nx,
    ny,
    nz,
    cellMm: cell,
    originMm,
    pieces: piecesOf(),
    pieceOf,
    get walls() {
      return room.fine.walls
    },
  }

  /** x, y, z by turns. */
  function middlesOf(cells: readonly number[]): Float64Array {
    const places = new Float64Array(3 * cells.length)
    cells.forEach((c, n) => places.set(middleOf(lattice, c), 3 * n))
    return places
  }

  function nearTo(
    cells: readonly number[],
    [px, py, pz]: readonly [number, number, number],
    withinMm: number,
  ): number[] {
    return cells.filter((c) => {
      const [x, y, z] = middleOf(lattice, c)
      return Math.hypot(x - px, y - py, z - pz) <= withinMm
    })
  }

  /**
   * The widest tool that gets to some cells, or over most of them from beside where that is surely wider: the
   * room outside is seen roughly.
   * @param enoughMm the room outside is not looked at where so much gets in between
   */
  function reachedMm(cells: readonly number[], { openings }: Ways, enoughMm: number): number {
    const middles = middlesOf(cells)
    const insideMm = openings.widestMm(middles)
    if (insideMm >= enoughMm) return insideMm
    const besideMm = room.outer.openings.touchedMm(middles, ANY_TOOL_MM)
    return besideMm > insideMm + SURELY_CELLS * room.outer.walls.cellMm ? besideMm : insideMm
  }

  /** All cells that hold together with one, and how far they reach; they wait no longer. */
  function gathered(start: number, waiting: Uint8Array, steps: readonly number[]) {
    const cells = [start]
    waiting[start] = 0
    let [low, high, highest] = [nz, 0, start]
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
      for (let s = 0; s < steps.length; s++) {
        const n = c + steps[s]
        if (waiting[n] === 0) continue
        const move = c * steps.length + s
        let isShut = shut.get(move)
        if (isShut === undefined) {
          isShut = isWalledOff(walls, middleOf(lattice, c), middleOf(lattice, n), 2 * cell)
          shut.set(move, isShut)
        }
        if (isShut) continue
        waiting[n] = 0
        cells.push(n)
      }
    }
    return { cells, low, high, highest, west, east, south, north }
  }

  function piecesOf(): StandPiece[] {
    const found: StandPiece[] = []
    // Upwards aslant as well: branches lean.
    const steps = [1, -1, nx, -nx]
    for (const up of [nx * ny, -nx * ny])
      for (const along of [-nx, 0, nx]) steps.push(up + along - 1, up + along, up + along + 1)
    /** Cells of supports that belong to no piece yet. */
    const waiting = new Uint8Array(grid.length)
    for (let c = 0; c < grid.length; c++) if (grid[c] === STAND) waiting[c] = 1
    for (let start = 0; start < grid.length; start++) {
      if (waiting[start] === 0) continue
      const { cells, low, high, highest, west, east, south, north } = gathered(start, waiting, steps)
      for (const c of cells) pieceOf[c] = found.length
      const middle = cells[cells.length >> 1]
      const levels = high - low + 1
      let [openingMm, roughMm]: (number | null)[] = [null, null]
      found.push({
        grossMm3: cells.length * cell ** 3,
        get roughOpeningMm() {
          return (roughMm ??= reachedMm(cells, room.rough, NARROW_MM))
        },
        get openingMm() {
          return (openingMm ??= reachedMm(cells, room.fine, ANY_TOOL_MM))
        },
        openingNearMm(place, withinMm) {
          const near = nearTo(cells, place, withinMm)
          return near.length === 0 ? null : reachedMm(near, room.fine, ANY_TOOL_MM)
        },
        wayMm(near) {
          return room.fine.openings.wayMm(middlesOf(near ? nearTo(cells, near.place, near.withinMm) : cells))
        },
        heightMm: levels * cell,
        sectionMm2: (cells.length / levels) * cell * cell,
        thickMm: ((cells.length / levels) * cell) / (Math.max(east - west, north - south) + 1),
        onBed: low === RIM,
        highestMm: middleOf(lattice, highest),
        cellMm: cell,
        cells,
        distanceMm([px, py, pz], withinMm = Infinity) {
          const [cx, cy, cz] = [px / cell - left - 0.5, py / cell - front - 0.5, pz / cell + RIM - 0.5]
          const aside = Math.max(west - cx, cx - east, south - cy, cy - north, low - cz, cz - high)
          if (aside * cell > withinMm) return Infinity
          const reach = withinMm / cell
          let nearest = Infinity
          const look = (c: number) => {
            const dx = (c % nx) - cx
            const dy = (Math.floor(c / nx) % ny) - cy
            const dz = Math.floor(c / (nx * ny)) - cz
            nearest = Math.min(nearest, dx * dx + dy * dy + dz * dz)
          }
          // Around the place, or all over the piece: whichever is less.
          if ((2 * reach + 1) ** 3 >= cells.length) for (const c of cells) look(c)
          else {
            const number = pieceOf[middle]
            for (let z = Math.max(low, Math.ceil(cz - reach)); z <= Math.min(high, cz + reach); z++)
              for (let y = Math.max(south, Math.ceil(cy - reach)); y <= Math.min(north, cy + reach); y++)
                for (let x = Math.max(west, Math.ceil(cx - reach)); x <= Math.min(east, cx + reach); x++) {
                  const c = (z * ny + y) * nx + x
                  if (pieceOf[c] === number) look(c)
                }
          }
          return Math.sqrt(nearest) * cell
        },
        atMm: middleOf(lattice, middle),
      })
    }
    return found
  }
}
