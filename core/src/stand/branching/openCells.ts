import { firstFrom } from '../../firstFrom'
import { boundsAround, boundsOf, hatch, isEmptyRegion, type Region } from '../../polygon'
import type { Outlines } from '../outlines'

/** Cells that the longest side is divided into, and the finest of them. */
const MOST_CELLS = 240
const FINEST_MM = 0.5
/** Branches may lean this far out beyond everything that is there. */
const AROUND_MM = 12
/** Round numbers of the part shall not fall on borders of cells, where the last digit would decide. */
const ASIDE_MM = 0.137
const FAR = 1e6

/**
 * Where the middle of a branch may be, on a grid of cells and slabs of a few levels each. Rows run along x;
 * cell c of a slab is at row `floor(c / columns)`.
 */
export type OpenCells = {
  readonly cellMm: number
  readonly columns: number
  readonly rows: number
  /** Levels of a slab. */
  readonly slabLevels: number
  /** Cell of a place; -1 outside. */
  cellAt(x: number, y: number): number
  xOf(cell: number): number
  yOf(cell: number): number
  /** Per slab: 1 where a branch has room beside the part. */
  readonly clear: readonly Uint8Array[]
  /** Distance from a cell to the part, at least, within a slab. */
  roomMm(slab: number, cell: number): number
  /** Whether a cell of a slab holds anything of the part, or of other supports. */
  isFilled(slab: number, cell: number): boolean
  /** Per slab: 1 where it also gets down to the bed from. */
  readonly reach: readonly Uint8Array[]
  /** Per slab: 1 where it gets down to the bed or onto the part from; `reach` itself without `onPart`. */
  readonly landing: readonly Uint8Array[]
}

export type OpenRules = {
  /** What a middle keeps from the part. */
  readonly clearMm: number
  /** How far a branch may lean from a level to the next. */
  readonly stepMm: number
  /** Whether branches may rest on the part. */
  readonly onPart: boolean
  /** What other supports fill at a level. */
  taken(level: number): readonly Region[]
}

/**
 * Marks where branches can be: R[0] = the bed without what is near the part, R[i] = R[i - 1] grown by the
 * lean, without what is near. With what the part's slabs below offer to rest on the same once more.
 * Source: reachability by dilation from the bed upwards; distances by a two-pass chamfer, which never
 * shortens them.
 * @param wide what else the grid must cover
 */
export function openCells(outlines: Outlines, wide: readonly Region[], rules: OpenRules): OpenCells {
  const { count } = outlines
  const seen = new Set<Region>()
  for (let k = 0; k < count; k++) seen.add(outlines.at(k))
  const { minX, minY, maxX, maxY } = boundsAround([...seen, ...wide].map(({ xyMm }) => boundsOf(xyMm)))
  const cellMm = Math.max(FINEST_MM, (Math.max(maxX - minX, maxY - minY) + 2 * AROUND_MM) / MOST_CELLS)
  const left = minX - AROUND_MM - ASIDE_MM
  const low = minY - AROUND_MM - ASIDE_MM
  const columns = Math.ceil((maxX + AROUND_MM - left) / cellMm)
  const rows = Math.ceil((maxY + AROUND_MM - low) / cellMm)
  const slabLevels = Math.max(1, Math.ceil((2 * cellMm) / rules.stepMm))
  const slabs = Math.ceil(count / slabLevels)
  const leanMm = slabLevels * rules.stepMm - cellMm / 2
  const nearby = offsetsWithin(leanMm / cellMm)
  const clear: Uint8Array[] = []
  /** Distances in eighths of a cell, as far as they are told. */
  const room: Uint8Array[] = []
  const reach: Uint8Array[] = []
  const landing: Uint8Array[] = []
  /** Cells of the part in the slab below. */
  let solid: Uint8Array = new Uint8Array(columns * rows)
  const field = new Float32Array(columns * rows)
  let lastKey: readonly Region[] = []
  for (let s = 0; s < slabs; s++) {
    const own = new Set<Region>()
    const others = new Set<Region>()
    for (let k = s * slabLevels; k < Math.min(count, (s + 1) * slabLevels); k++) {
      if (!isEmptyRegion(outlines.at(k))) own.add(outlines.at(k))
      for (const region of rules.taken(k)) if (!isEmptyRegion(region)) others.add(region)
    }
    const key = [...own, ...others]
    const same = s > 0 && key.length === lastKey.length && key.every((region, i) => region === lastKey[i])
    lastKey = key
    const below = solid
    if (same) {
      clear.push(clear[s - 1])
      room.push(room[s - 1])
    } else {
      field.fill(FAR)
      for (const region of own) mark(region)
      if (rules.onPart) {
        solid = new Uint8Array(field.length)
        for (let c = 0; c < field.length; c++) if (field[c] === 0) solid[c] = 1
      }
      for (const region of others) mark(region)
      spread(field, columns, rows)
      const free = new Uint8Array(field.length)
      const eighths = new Uint8Array(field.length)
      const cells = rules.clearMm / cellMm
      for (let c = 0; c < field.length; c++) {
        free[c] = field[c] >= cells ? 1 : 0
        eighths[c] = Math.min(255, field[c] * 8)
      }
      clear.push(free)
      room.push(eighths)
    }
    reach.push(s === 0 ? clear[0] : grownInto(s, reach, same))
    landing.push(!rules.onPart || s === 0 ? reach[s] : grownInto(s, landing, same, below))
  }
  return {
    cellMm,
    columns,
    rows,
    slabLevels,
    clear,
    reach,
    landing,
    // A chamfer tells up to a twelfth too much, and distances are from middle to middle of cells.
    roomMm: (slab, cell) => ((room[slab][cell] / 8) * 0.92 - 1.5) * cellMm,
    isFilled: (slab, cell) => room[slab][cell] === 0,
    cellAt(x, y) {
      const [column, row] = [Math.floor((x - left) / cellMm), Math.floor((y - low) / cellMm)]
      return column < 0 || row < 0 || column >= columns || row >= rows ? -1 : row * columns + column
    },
    xOf: (cell) => left + ((cell % columns) + 0.5) * cellMm,
    yOf: (cell) => low + (Math.floor(cell / columns) + 0.5) * cellMm,
  }

  /** What of a slab has room within the lean of what was open below, or above something to rest on. */
  function grownInto(
    s: number,
    open: readonly Uint8Array[],
    same: boolean,
    solidBelow?: Uint8Array,
  ): Uint8Array {
    const below = open[s - 1]
    const room = clear[s]
    if (same && below === clear[s - 1]) return room
    let grown = room
    for (let c = 0; c < room.length; c++) {
      if (room[c] === 0 || below[c] === 1 || solidBelow?.[c] === 1) continue
      if (isNear(c, below) || (solidBelow && isNear(c, solidBelow))) continue
      if (grown === room) grown = room.slice()
      grown[c] = 0
    }
    return grown
  }

  /** Whether a marked cell lies within the lean of another one. */
  function isNear(c: number, marked: Uint8Array): boolean {
    const [row, column] = [Math.floor(c / columns), c % columns]
    for (let i = 0; i < nearby.length; i += 2) {
      const [x, y] = [column + nearby[i], row + nearby[i + 1]]
      if (x >= 0 && y >= 0 && x < columns && y < rows && marked[y * columns + x] === 1) return true
    }
    return false
  }

  /** Sets the cells of a region to no distance: those along its outline and those inside. */
  function mark({ xyMm, starts }: Region): void {
    for (let r = 0; r + 1 < starts.length; r++) {
      let q = starts[r + 1] - 1
      for (let p = starts[r]; p < starts[r + 1]; q = p++) {
        const [ax, ay, bx, by] = [xyMm[2 * q], xyMm[2 * q + 1], xyMm[2 * p], xyMm[2 * p + 1]]
        const steps = Math.max(1, Math.ceil((2 * Math.hypot(bx - ax, by - ay)) / cellMm))
        for (let n = 0; n <= steps; n++) {
          const column = Math.floor((ax + ((bx - ax) * n) / steps - left) / cellMm)
          const row = Math.floor((ay + ((by - ay) * n) / steps - low) / cellMm)
          field[row * columns + column] = 0
        }
      }
    }
    // Lines of a hatch lie half a spacing off the origin, whichever rows they meet.
    const lines = hatch({ xyMm, starts }, 0, cellMm / 2)
    for (let i = 0; i < lines.length; i += 4) {
      const row = Math.floor((lines[i + 1] - low) / cellMm)
      const [from, to] = lines[i] < lines[i + 2] ? [lines[i], lines[i + 2]] : [lines[i + 2], lines[i]]
      const last = Math.floor((to - left) / cellMm)
      for (let column = Math.floor((from - left) / cellMm); column <= last; column++)
        field[row * columns + column] = 0
    }
  }
}

/** A step across a corner, in cells. */
const D = Math.SQRT2

/** Steps to all cells around one that are no farther than so many cells, nearest first: x and y by turns. */
function offsetsWithin(cells: number): number[] {
  const far = Math.floor(cells)
  const found: (readonly [far: number, x: number, y: number])[] = []
  for (let y = -far; y <= far; y++)
    for (let x = -far; x <= far; x++) {
      const [less, more] = [Math.abs(x), Math.abs(y)].sort((a, b) => a - b)
      found.push([more - less + D * less, x, y])
    }
  return found
    .filter(([mm]) => mm > 0 && mm <= cells)
    .sort(([a], [b]) => a - b)
    .flatMap(([, x, y]) => [x, y])
}

/** Spreads distances, in cells, from where they are known. */
function spread(field: Float32Array, columns: number, rows: number): void {
  for (let y = 0; y < rows; y++)
    for (let x = 0, c = y * columns; x < columns; x++, c++) {
      let best = field[c]
      if (x > 0 && field[c - 1] + 1 < best) best = field[c - 1] + 1
      if (y > 0) {
        const up = c - columns
        if (field[up] + 1 < best) best = field[up] + 1
        if (x > 0 && field[up - 1] + D < best) best = field[up - 1] + D
        if (x + 1 < columns && field[up + 1] + D < best) best = field[up + 1] + D
      }
      field[c] = best
    }
  for (let y = rows - 1; y >= 0; y--)
    for (let x = columns - 1, c = y * columns + columns - 1; x >= 0; x--, c--) {
      let best = field[c]
      if (x + 1 < columns && field[c + 1] + 1 < best) best = field[c + 1] + 1
      if (y + 1 < rows) {
        const down = c + columns
        if (field[down] + 1 < best) best = field[down] + 1
        if (x > 0 && field[down - 1] + D < best) best = field[down - 1] + D
        if (x + 1 < columns && field[down + 1] + D < best) best = field[down + 1] + D
      }
      field[c] = best
    }
}

/** Whether a place lies in a marked cell. */
export function isOpen(open: OpenCells, cells: Uint8Array, x: number, y: number): boolean {
  const cell = open.cellAt(x, y)
  return cell >= 0 && cells[cell] === 1
}

/** Columns of the marked cells, row after row, and where each row begins among them. */
type Marked = { readonly columns: Int32Array; readonly starts: Int32Array }
const known = new WeakMap<Uint8Array, Marked>()

/** Few cells are marked where little is open: only those need to be looked at. */
function markedIn({ columns, rows }: OpenCells, cells: Uint8Array): Marked {
  let marked = known.get(cells)
  if (marked) return marked
  const starts = new Int32Array(rows + 1)
  const found = new Int32Array(cells.reduce((sum, is) => sum + is, 0))
  for (let row = 0, n = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) if (cells[row * columns + column]) found[n++] = column
    starts[row + 1] = n
  }
  known.set(cells, (marked = { columns: found, starts }))
  return marked
}

/** Open cell within reach of a place that is nearest to a wish, among those that will do. */
export function nearestCell(
  open: OpenCells,
  cells: Uint8Array,
  [wishX, wishY]: readonly [number, number],
  from: { readonly x: number; readonly y: number },
  withinMm: number,
  willDo: (x: number, y: number) => boolean = () => true,
): [number, number] | null {
  const { columns, starts } = markedIn(open, cells)
  const { cellMm, rows } = open
  const reach = Math.ceil(withinMm / cellMm)
  const column = Math.floor((from.x - open.xOf(0)) / cellMm + 0.5)
  const row = Math.floor((from.y - open.yOf(0)) / cellMm + 0.5)
  let found: [number, number] | null = null
  let nearest = Infinity
  const within = withinMm * withinMm
  for (let r = Math.max(0, row - reach); r <= Math.min(rows - 1, row + reach); r++) {
    const y = open.yOf(r * open.columns)
    const [fromY, wishedY] = [(y - from.y) ** 2, (y - wishY) ** 2]
    if (wishedY >= nearest || fromY > within) continue
    for (let n = firstFrom(columns, column - reach, starts[r], starts[r + 1]); n < starts[r + 1]; n++) {
      if (columns[n] > column + reach) break
      const x = open.xOf(columns[n])
      const far = (x - wishX) ** 2 + wishedY
      if (far >= nearest || (x - from.x) ** 2 + fromY > within || !willDo(x, y)) continue
      nearest = far
      found = [x, y]
    }
  }
  return found
}
