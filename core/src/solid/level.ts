import { isEmptyRegion, ringCount, type Region } from '../polygon'
import { GRID_PER_MM } from '../tolerances'

/** Rings on the grid of the polygon engine. */
export type Outline = { readonly rings: readonly Int32Array[] }
/** For each ring, for each of its edges: the vertices along it, both ends included. */
export type CutRings = readonly (readonly number[])[][]

/** All points at one height, found again by their place and along lines. */
export class Level {
  /** The point of each cell that has one. */
  private readonly cells = new Map<number, number>()
  /** The point that each place was given, by the place. */
  private readonly given = new Map<number, number>()
  private readonly cell: number
  private readonly onLine: number
  /** x and y of every point, on the grid, and its vertex. */
  private readonly xs: number[] = []
  private readonly ys: number[] = []
  private readonly vertices: number[] = []
  /** Points by x. */
  private readonly byX: Uint32Array

  constructor(
    private readonly zMm: number,
    private readonly places: number[],
    private readonly samePoint: number,
    outlines: readonly Outline[],
  ) {
    // A point of a cell is near to every other place in it, so that a cell holds one at most.
    this.cell = Math.max(1, Math.floor(samePoint * 0.7))
    // A point lies on a line when it is this near: both may have been moved onto a neighbour.
    this.onLine = samePoint * 1.5
    for (const { rings } of outlines)
      for (const ring of rings) for (let i = 0; i < ring.length; i += 2) this.vertex(ring[i], ring[i + 1])
    this.byX = Uint32Array.from(this.xs.keys()).sort((p, q) => this.xs[p] - this.xs[q])
  }

  /** The vertex at a place: one that is near enough, or a new one. */
  private vertex(x: number, y: number): number {
    const place = cellKey(x, y)
    const known = this.given.get(place)
    if (known !== undefined) return this.vertices[known]
    const point = this.near(x, y) ?? this.add(x, y)
    this.given.set(place, point)
    return this.vertices[point]
  }

  private near(x: number, y: number): number | null {
    const cx = Math.floor(x / this.cell)
    const cy = Math.floor(y / this.cell)
    for (let dx = -2; dx <= 2; dx++)
      for (let dy = -2; dy <= 2; dy++) {
        const point = this.cells.get(cellKey(cx + dx, cy + dy))
        if (point === undefined) continue
        if ((this.xs[point] - x) ** 2 + (this.ys[point] - y) ** 2 <= this.samePoint ** 2) return point
      }
    return null
  }

  private add(x: number, y: number): number {
    const point = this.xs.length
    this.xs.push(x)
    this.ys.push(y)
    this.vertices.push(this.places.length / 3)
    this.places.push(x / GRID_PER_MM, y / GRID_PER_MM, this.zMm)
    this.cells.set(cellKey(Math.floor(x / this.cell), Math.floor(y / this.cell)), point)
    return point
  }

  cut({ rings }: Outline): CutRings {
    return rings.map((ring) => {
      const edges: number[][] = []
      for (let i = 0; i < ring.length; i += 2)
        edges.push(this.along(ring[i], ring[i + 1], ring[(i + 2) % ring.length], ring[(i + 3) % ring.length]))
      return edges
    })
  }

  /** The points on a line from p to q, in order, ends included. */
  private along(px: number, py: number, qx: number, qy: number): number[] {
    const [low, high] = [Math.min(px, qx) - this.onLine, Math.max(px, qx) + this.onLine]
    const [ux, uy] = [qx - px, qy - py]
    const length = Math.hypot(ux, uy)
    const [from, to] = [this.vertex(px, py), this.vertex(qx, qy)]
    const found: { t: number; v: number }[] = []
    for (let i = this.firstFrom(low); i < this.byX.length; i++) {
      const point = this.byX[i]
      const x = this.xs[point]
      if (x > high) break
      const y = this.ys[point]
      const t = ((x - px) * ux + (y - py) * uy) / length
      if (t <= 0 || t >= length || Math.abs((x - px) * uy - (y - py) * ux) > this.onLine * length) continue
      const v = this.vertices[point]
      if (v !== from && v !== to) found.push({ t, v })
    }
    if (found.length === 0) return [from, to]
    found.sort((a, b) => a.t - b.t)
    return [from, ...found.map(({ v }) => v), to]
  }

  /** Index of the first point, by x, that is not below a limit. */
  private firstFrom(low: number): number {
    let [from, to] = [0, this.byX.length]
    while (from < to) {
      const middle = (from + to) >> 1
      if (this.xs[this.byX[middle]] < low) from = middle + 1
      else to = middle
    }
    return from
  }
}

const cellKey = (cx: number, cy: number) => (cx + 2 ** 25) * 2 ** 26 + cy + 2 ** 25

/** Rings on the engine's own grid, where equal points are equal numbers. */
export function outlineOf(region: Region | null): Outline {
  if (!region || isEmptyRegion(region)) return { rings: [] }
  return {
    rings: Array.from({ length: ringCount(region) }, (_, r) =>
      Int32Array.from(region.xyMm.subarray(region.starts[r] * 2, region.starts[r + 1] * 2), (value) =>
        Math.round(value * GRID_PER_MM),
      ),
    ),
  }
}
