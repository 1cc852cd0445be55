import type { Walls } from './walls'

/** Corners of a line, in mm. */
export type Way = readonly (readonly [number, number, number])[]

/** How wide the ways to places beside a part are. */
export type Openings = {
  /**
   * Widest round tool whose middle gets from outside to one of some places, supports counted as free; 0 for
   * none.
   * @param places x, y, z by turns
   */
  widestMm(places: Float64Array): number
  /**
   * Widest round tool that gets over most of some places from outside: its middle may stay beside them, as it
   * does at a thin stand along an open wall. Told up to `mostMm`, by walls with a rim of half of that.
   */
  touchedMm(places: Float64Array, mostMm: number): number
  /**
   * The shortest way that is as wide, from one of the places to outside; none where nothing gets in, or where
   * they lie outside.
   */
  wayMm(places: Float64Array): Way
  /** Those of some places with room, which are asked about. */
  roomyOf(places: Float64Array): Float64Array
}

/** Widths are told in such steps, up to so many; whatever is wider counts as that. */
const STEP_MM = 0.04
const MOST = 1500
/** Of several places those with at least this share of the most room are asked about. */
const ROOMY = 0.8
/** Of many places so many are looked at for tools over them, for each so many directions and distances. */
const LOOKED_AT = 120
const AROUND = spread(90)
const SHARES = [0.1, 0.2, 0.3, 0.4, 0.5, 0.65, 0.8, 1]
/** A place this far beside a tool is touched: middles are looked at a cell apart. */
const LAX = 0.25
/** Middles as far away as the widest tools have it are seldom met: so much of that is all of it. */
const NEARLY = 0.95

/**
 * The widest ways from outside past the walls of a part.
 * Source: a widest-path search, the widest first; it goes on where it stopped, as narrow as it is asked for.
 * @param outside where ways come from, if not from all sides
 */
export function openingsOf(walls: Walls, outside?: readonly [number, number, number]): Openings {
  const { nx, ny, nz, cellMm, distanceMm, halfWayMm, isShutX, isShutY, isShutZ } = walls
  const slice = nx * ny
  const steps = new Uint16Array(slice * nz)
  for (let c = 0; c < steps.length; c++) steps[c] = Math.min(MOST, Math.round((2 * halfWayMm[c]) / STEP_MM))
  /** From the middle between two cells across a corner to those beside it, on both sides of the way. */
  const across = Math.round((Math.SQRT2 * cellMm) / STEP_MM)
  /** Of each cell the narrowest place of the widest way to it, as far as it was found. */
  const widest = new Uint16Array(steps.length)
  const isAsked = new Uint8Array(steps.length)
  let answer = 0
  /** Places in the queue by the width of their way: the last one put, and of each the one put before. */
  const last = new Int32Array(MOST + 1).fill(-1)
  let cells = new Int32Array(steps.length)
  let before = new Int32Array(steps.length)
  let size = 0
  let wide = MOST
  if (outside) {
    const c = walls.cellAt(...outside)
    if (c >= 0) put(c, steps[c])
  }
  // From all sides to the outermost cells but one; the outermost themselves are never entered.
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) {
        const c = k * slice + j * nx + i
        if (i === 0 || j === 0 || k === 0 || i === nx - 1 || j === ny - 1 || k === nz - 1) steps[c] = 0
        else if (outside) continue
        else if (i === 1 || j === 1 || k === 1 || i === nx - 2 || j === ny - 2 || k === nz - 2)
          put(c, steps[c])
      }
  return {
    widestMm: (places) => STEP_MM * widestOf(places).answer,
    touchedMm(places, mostMm) {
      // The search has come as far down as that: what lies in a wider way is known.
      const insideMm = STEP_MM * widestOf(places).answer
      return insideMm >= mostMm ? insideMm : Math.max(insideMm, touchedOf(places, mostMm))
    },
    roomyOf(places) {
      return Float64Array.from(roomyIn(places).flatMap((p) => [...places.subarray(p, p + 3)]))
    },
    wayMm(places) {
      const { answer: width, asked: from } = widestOf(places)
      const way = width > 0 ? shortestWay(from, width) : []
      return straightened(way.map(walls.placeOf), cellMm)
    },
  }

  /** Width in steps of the widest way to some places, and the cells that stand for them. */
  function widestOf(places: Float64Array): { readonly answer: number; readonly asked: readonly number[] } {
    const asked: number[] = []
    answer = 0
    for (const p of roomyIn(places)) {
      const [x, y, z] = places.subarray(p, p + 3)
      const c = walls.cellAt(x, y, z)
      if (c < 0) {
        answer = Math.max(answer, Math.min(MOST, Math.round((2 * walls.roomMm(x, y, z)) / STEP_MM)))
        continue
      }
      // The middle of a way may lie in the next cell.
      ask(c)
      if (!isShutZ(c - slice)) ask(c - slice)
      if (!isShutZ(c)) ask(c + slice)
      if (!isShutX(c)) ask(c + 1)
      if (!isShutX(c - 1)) ask(c - 1)
      if (!isShutY(c)) ask(c + nx)
      if (!isShutY(c - nx)) ask(c - nx)
    }
    for (; wide > 0 && wide >= answer; wide--) goOn()
    for (const c of asked) isAsked[c] = 0
    return { answer, asked }

    function ask(c: number): void {
      if (isAsked[c]) return
      isAsked[c] = 1
      asked.push(c)
      answer = Math.max(answer, widest[c])
    }
  }

  /** Where among some places those with room begin. */
  function roomyIn(places: Float64Array): number[] {
    const rooms: number[] = []
    let roomiest = 0
    for (let p = 0; p < places.length; p += 3) {
      const c = walls.cellAt(places[p], places[p + 1], places[p + 2])
      rooms.push(c < 0 ? Infinity : distanceMm[c])
      if (c >= 0) roomiest = Math.max(roomiest, distanceMm[c])
    }
    // Near the part a place and the middle of its cell may lie on different sides of a thin wall.
    const enough = Math.min(cellMm, ROOMY * roomiest)
    return rooms.flatMap((room, n) => (room < enough ? [] : [3 * n]))
  }

  /** The width that tools over half of some of the places have at least. */
  function touchedOf(places: Float64Array, mostMm: number): number {
    const count = places.length / 3
    const looked = Math.min(count, LOOKED_AT)
    const widths: number[] = []
    for (let n = 0; n < looked; n++) {
      const p = 3 * Math.floor(((n + 0.5) * count) / looked)
      widths.push(widestOver(places[p], places[p + 1], places[p + 2], mostMm))
    }
    return widths.sort((a, b) => b - a)[looked >> 1]
  }

  /** The widest tool over a place, by middles all around it that are no farther from it than that is wide. */
  function widestOver(x: number, y: number, z: number, mostMm: number): number {
    let most = 0
    for (const [dx, dy, dz] of AROUND)
      for (const share of SHARES) {
        const far = (share * mostMm) / 2
        const c = walls.cellAt(x + far * dx, y + far * dy, z + far * dz)
        if (c < 0 || STEP_MM * widest[c] <= most) continue
        const [px, py, pz] = walls.placeOf(c)
        const reaches = (STEP_MM * widest[c]) / 2 + LAX * cellMm
        const isOver = reaches >= Math.hypot(px - x, py - y, pz - z)
        if (isOver && !walls.isBetween([x, y, z], [px, py, pz])) most = STEP_MM * widest[c]
      }
    return most > NEARLY * mostMm ? mostMm : most
  }

  function put(c: number, width: number): void {
    if (width <= widest[c]) return
    widest[c] = width
    if (isAsked[c]) answer = Math.max(answer, width)
    if (size === cells.length) [cells, before] = [twice(cells), twice(before)]
    cells[size] = c
    before[size] = last[width]
    last[width] = size++
  }

  /** Goes through whatever is as wide as the search has come. */
  function goOn(): void {
    while (last[wide] >= 0) {
      const c = cells[last[wide]]
      last[wide] = before[last[wide]]
      // A wider way to it was found since.
      if (widest[c] === wide) onward(c, wide, put)
    }
  }

  /** Cells of a way that is so wide all along, from one of some cells to the rim; none without one. */
  function shortestWay(from: readonly number[], width: number): number[] {
    const cameFrom = new Int32Array(steps.length).fill(-1)
    const queue = from.filter((c) => widest[c] >= width && steps[c] >= width)
    for (const c of queue) cameFrom[c] = c
    for (let q = 0; q < queue.length; q++) {
      const c = queue[q]
      if (isRim(c)) return backFrom(c)
      onward(c, width, (to, wideTo) => {
        if (wideTo < width || cameFrom[to] >= 0) return
        cameFrom[to] = c
        queue.push(to)
      })
    }
    return []

    function backFrom(c: number): number[] {
      const way = [c]
      while (cameFrom[c] !== c) way.push((c = cameFrom[c]))
      return way.reverse()
    }
  }

  /** Whether a cell lies right inside the outermost ones. */
  function isRim(c: number): boolean {
    const [i, j, k] = [c % nx, Math.floor(c / nx) % ny, Math.floor(c / slice)]
    return i === 1 || j === 1 || k === 1 || i === nx - 2 || j === ny - 2 || k === nz - 2
  }

  /** From a cell to those around it, each with the width of the way there. */
  function onward(c: number, width: number, visit: (to: number, width: number) => void): void {
    const [west, east] = [isShutX(c - 1), isShutX(c)]
    const [south, north] = [isShutY(c - nx), isShutY(c)]
    if (!east) visit(c + 1, Math.min(width, steps[c + 1]))
    if (!west) visit(c - 1, Math.min(width, steps[c - 1]))
    if (!north) visit(c + nx, Math.min(width, steps[c + nx]))
    if (!south) visit(c - nx, Math.min(width, steps[c - nx]))
    if (!isShutZ(c)) visit(c + slice, Math.min(width, steps[c + slice]))
    if (!isShutZ(c - slice)) visit(c - slice, Math.min(width, steps[c - slice]))
    slantwise(c, c + 1, east, c + nx, north, width, visit)
    slantwise(c, c + 1, east, c - nx, south, width, visit)
    slantwise(c, c - 1, west, c + nx, north, width, visit)
    slantwise(c, c - 1, west, c - nx, south, width, visit)
  }

  /** To a cell across a corner, past one of the two beside it, unless both ways are shut. */
  function slantwise(
    c: number,
    besideX: number,
    isShutBeside: boolean,
    besideY: number,
    isShutUp: boolean,
    width: number,
    visit: (to: number, width: number) => void,
  ): void {
    const to = besideX + besideY - c
    if (steps[to] === 0) return
    if (
      (steps[besideX] === 0 || isShutBeside || isShutY(Math.min(besideX, to))) &&
      (steps[besideY] === 0 || isShutUp || isShutX(Math.min(besideY, to)))
    )
      return
    visit(to, Math.min(width, steps[to], Math.min(steps[besideX], steps[besideY]) + across))
  }
}

/** A way with fewer corners: those that lie this near to the line between others go. */
export function straightened(way: Way, withinMm: number): Way {
  if (way.length < 3) return way
  const [a, b] = [way[0], way.at(-1)!]
  const along = b.map((value, axis) => value - a[axis])
  const square = along.reduce((sum, value) => sum + value * value, 0)
  let [farthest, at] = [0, 0]
  way.forEach((place, i) => {
    const from = place.map((value, axis) => value - a[axis])
    const share = Math.max(
      0,
      Math.min(1, from.reduce((sum, v, axis) => sum + v * along[axis], 0) / (square || 1)),
    )
    const off = Math.hypot(...from.map((value, axis) => value - share * along[axis]))
    if (off > farthest) [farthest, at] = [off, i]
  })
  if (farthest <= withinMm) return [a, b]
  return [
    ...straightened(way.slice(0, at + 1), withinMm).slice(0, -1),
    ...straightened(way.slice(at), withinMm),
  ]
}

function twice(all: Int32Array<ArrayBuffer>): Int32Array<ArrayBuffer> {
  const larger = new Int32Array(2 * all.length)
  larger.set(all)
  return larger
}

/** Unit vectors all around, each as far from its neighbours. Source: the golden angle on a sphere. */
function spread(count: number): (readonly [number, number, number])[] {
  return Array.from({ length: count }, (_, n) => {
    const z = 1 - (2 * n + 1) / count
    const [radius, turn] = [Math.sqrt(1 - z * z), n * Math.PI * (3 - Math.sqrt(5))]
    return [radius * Math.cos(turn), radius * Math.sin(turn), z] as const
  })
}
