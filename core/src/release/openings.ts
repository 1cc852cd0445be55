import type { Walls } from './walls'

/** How wide the ways to places beside a part are. */
export type Openings = {
  /**
   * Widest round tool whose middle gets from outside to one of some places, supports counted as free; 0 for
   * none.
   * @param places x, y, z by turns
   */
  widestMm(places: Float64Array): number
}

/** Widths are told in such steps, up to so many; whatever is wider counts as that. */
const STEP_MM = 0.04
const MOST = 1500
/** Of several places those with at least this share of the most room are asked about. */
const ROOMY = 0.8

/**
 * The widest ways from outside past the walls of a part.
 * Source: a widest-path search, the widest first; it goes on where it stopped, as narrow as it is asked for.
 */
export function openingsOf(walls: Walls): Openings {
  const { nx, ny, nz, cellMm, distanceMm, halfWayMm, isShutX, isShutY } = walls
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
  // From all sides to the outermost cells but one; the outermost themselves are never entered.
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) {
        const c = k * slice + j * nx + i
        if (i === 0 || j === 0 || k === 0 || i === nx - 1 || j === ny - 1 || k === nz - 1) steps[c] = 0
        else if (i === 1 || j === 1 || k === 1 || i === nx - 2 || j === ny - 2 || k === nz - 2)
          put(c, steps[c])
      }
  return {
    widestMm(places) {
      const asked: number[] = []
      const inside: number[] = []
      answer = 0
      let roomiest = 0
      for (let p = 0; p < places.length; p += 3) {
        const [x, y, z] = places.subarray(p, p + 3)
        const c = walls.cellAt(x, y, z)
        if (c >= 0) {
          inside.push(c)
          roomiest = Math.max(roomiest, distanceMm[c])
        } else answer = Math.max(answer, Math.min(MOST, Math.round((2 * walls.roomMm(x, y, z)) / STEP_MM)))
      }
      // Near the part a place and the middle of its cell may lie on different sides of a thin wall.
      const enough = Math.min(cellMm, ROOMY * roomiest)
      for (const c of inside) {
        if (distanceMm[c] < enough) continue
        // The middle of a way may lie in the next cell.
        ask(c)
        ask(c - slice)
        ask(c + slice)
        if (!isShutX(c)) ask(c + 1)
        if (!isShutX(c - 1)) ask(c - 1)
        if (!isShutY(c)) ask(c + nx)
        if (!isShutY(c - nx)) ask(c - nx)
      }
      for (; wide > 0 && wide >= answer; wide--) goOn()
      for (const c of asked) isAsked[c] = 0
      return STEP_MM * answer

      function ask(c: number): void {
        if (isAsked[c]) return
        isAsked[c] = 1
        asked.push(c)
        answer = Math.max(answer, widest[c])
      }
    },
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
      if (widest[c] !== wide) continue
      const [west, east] = [isShutX(c - 1), isShutX(c)]
      const [south, north] = [isShutY(c - nx), isShutY(c)]
      if (!east) put(c + 1, Math.min(wide, steps[c + 1]))
      if (!west) put(c - 1, Math.min(wide, steps[c - 1]))
      if (!north) put(c + nx, Math.min(wide, steps[c + nx]))
      if (!south) put(c - nx, Math.min(wide, steps[c - nx]))
      put(c + slice, Math.min(wide, steps[c + slice]))
      put(c - slice, Math.min(wide, steps[c - slice]))
      slantwise(c, c + 1, east, c + nx, north)
      slantwise(c, c + 1, east, c - nx, south)
      slantwise(c, c - 1, west, c + nx, north)
      slantwise(c, c - 1, west, c - nx, south)
    }
  }

  /** To a cell across a corner, past one of the two beside it, unless both ways are shut. */
  function slantwise(
    c: number,
    besideX: number,
    isShutBeside: boolean,
    besideY: number,
    isShutUp: boolean,
  ): void {
    const to = besideX + besideY - c
    if (widest[to] >= wide) return
    if (
      (steps[besideX] === 0 || isShutBeside || isShutY(Math.min(besideX, to))) &&
      (steps[besideY] === 0 || isShutUp || isShutX(Math.min(besideY, to)))
    )
      return
    put(to, Math.min(wide, steps[to], Math.min(steps[besideX], steps[besideY]) + across))
  }
}

function twice(all: Int32Array<ArrayBuffer>): Int32Array<ArrayBuffer> {
  const larger = new Int32Array(2 * all.length)
  larger.set(all)
  return larger
}
