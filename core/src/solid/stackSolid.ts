import { meshEdges, type Edges, type Mesh, type SolidEngine } from '../mesh'
import { isEmptyRegion, ringCount, type PolygonEngine, type Region } from '../polygon'
import { GRID_PER_MM } from '../tolerances'

/** A prism: region from bottomMm to topMm. */
export type Slab = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }

/**
 * Points this near, in grid steps, are one: outlines of neighbouring layers cross in points a step or two
 * apart, and so short a line helps nobody. Which distance leaves no line in doubt depends on the shapes, so
 * that a few are tried; the largest is 6 micrometres.
 */
export const SAME_POINT_STEPS = [8, 20, 40, 60] as const

/**
 * Stacks prisms into one surface without general booleans: walls around each prism, and caps where neighbours
 * differ.
 *
 * At each height the outlines below (A) and above (B) and the caps A − B and B − A are cut at all of each
 * other's points, so that every piece of a line is met by as many faces on the one side as on the other.
 * @param slabs from below upwards, not overlapping in height; neighbours that touch become one body
 * @param openAtMm gathers the heights of lines that are left without a counterpart
 * @returns the surface, or null when there are such lines; the caller then tries another distance, or stacks
 * apart what lies below and above those heights
 */
export function stackSolid(
  slabs: readonly Slab[],
  polygons: PolygonEngine,
  solids: Pick<SolidEngine, 'triangulate'>,
  samePointSteps: number = SAME_POINT_STEPS[0],
  openAtMm?: Set<number>,
): Mesh | null {
  const builder = new SurfaceBuilder(solids, samePointSteps)
  for (let i = 0; i <= slabs.length; i++) {
    const below: Slab | undefined = slabs[i - 1]
    const above: Slab | undefined = slabs[i]
    if (below && above && below.topMm !== above.bottomMm) {
      builder.meet(below.topMm, below.region, null, polygons)
      builder.wall()
      builder.meet(above.bottomMm, null, above.region, polygons)
    } else {
      builder.meet(
        below ? below.topMm : above.bottomMm,
        below?.region ?? null,
        above?.region ?? null,
        polygons,
      )
      if (below) builder.wall()
    }
  }
  return builder.finish(openAtMm)
}

type Outline = { readonly rings: readonly Int32Array[] }
/** For each ring, for each of its edges: the vertices along it, both ends included. */
type CutRings = readonly (readonly number[])[][]

class SurfaceBuilder {
  private readonly places: number[] = []
  private readonly corners: number[] = []
  /** How the outline that goes on upwards was cut at the height before. */
  private lower: CutRings = []
  private below: CutRings = []
  private above: CutRings = []

  constructor(
    private readonly solids: Pick<SolidEngine, 'triangulate'>,
    private readonly samePointSteps: number,
  ) {}

  /** Closes what ends and opens what begins at a height. */
  meet(zMm: number, below: Region | null, above: Region | null, polygons: PolygonEngine): void {
    this.lower = this.above
    const [a, b] = [below, above].map((region) => outlineOf(region))
    const up = outlineOf(below && above ? polygons.minus(below, above) : below)
    const down = outlineOf(above && below ? polygons.minus(above, below) : above)
    const level = new Level(zMm, this.places, this.samePointSteps, [a, b, up, down])
    this.below = level.cut(a)
    this.above = level.cut(b)
    this.cap(level.cut(up), true)
    this.cap(level.cut(down), false)
  }

  /** Raises the wall of the outline between the last two heights. */
  wall(): void {
    this.lower.forEach((ring, r) =>
      ring.forEach((bottom, e) => {
        const top = this.below[r][e]
        let i = 0
        let j = 0
        while (i + 1 < bottom.length || j + 1 < top.length) {
          if (i + 1 < bottom.length && (j + 1 >= top.length || i * top.length <= j * bottom.length))
            this.corners.push(bottom[i], bottom[++i], top[j])
          else this.corners.push(bottom[i], top[j + 1], top[j++])
        }
      }),
    )
  }

  private cap(rings: CutRings, facesUp: boolean): void {
    if (rings.length === 0) return
    const loops = rings
      .map((ring) =>
        ring.flatMap((edge) => edge.slice(0, -1)).filter((v, i, all) => v !== all[(i + 1) % all.length]),
      )
      .filter((loop) => loop.length > 2)
    if (loops.length === 0) return
    const flat = loops.flat()
    const found = this.solids.triangulate(
      loops.map((loop) => loop.map((v): [number, number] => [this.places[3 * v], this.places[3 * v + 1]])),
      1e-7,
    )
    for (const [p, q, r] of found) this.corners.push(flat[p], flat[facesUp ? q : r], flat[facesUp ? r : q])
  }

  /** The surface when every side of every triangle has its counterpart. */
  finish(openAtMm?: Set<number>): Mesh | null {
    const corners: number[] = []
    for (let t = 0; t < this.corners.length; t += 3) {
      const [a, b, c] = [this.corners[t], this.corners[t + 1], this.corners[t + 2]]
      if (a !== b && b !== c && c !== a) corners.push(a, b, c)
    }
    const mesh = { positionsMm: Float64Array.from(this.places), corners: Uint32Array.from(corners) }
    const edges = meshEdges(mesh)
    if (edges.openCount === 0) return partDoubleSides(splitTouching(mesh, edges))
    if (openAtMm) for (const zMm of openHeights(mesh, edges)) openAtMm.add(zMm)
    return null
  }
}

/** Heights at which sides end that nothing lies across. */
function openHeights({ positionsMm, corners }: Mesh, { sideEdge, count }: Edges): Set<number> {
  const sides = new Uint8Array(count)
  for (const edge of sideEdge) if (sides[edge] < 2) sides[edge]++
  const heights = new Set<number>()
  sideEdge.forEach((edge, side) => {
    if (sides[edge] > 1) return
    heights.add(positionsMm[3 * corners[side] + 2])
    heights.add(positionsMm[3 * corners[side % 3 === 2 ? side - 2 : side + 1] + 2])
  })
  return heights
}

/**
 * Gives sheets that only touch in a line or a point vertices of their own, so that every line is met by
 * exactly two faces.
 */
function splitTouching({ positionsMm, corners }: Mesh, { sideEdge, count }: Edges): Mesh {
  const parent = Int32Array.from(corners, (_, i) => i)
  const root = (i: number) => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]]
    return i
  }
  const next = (side: number) => (side % 3 === 2 ? side - 2 : side + 1)
  const first = new Int32Array(count).fill(-1)
  for (let side = 0; side < corners.length; side++) {
    const other = first[sideEdge[side]]
    if (other < 0) {
      first[sideEdge[side]] = side
      continue
    }
    // The two run against each other: one's start is the other's end.
    parent[root(side)] = root(next(other))
    parent[root(next(side))] = root(other)
  }
  const places: number[] = []
  const vertexOf = new Int32Array(corners.length).fill(-1)
  const split = corners.map((corner, i) => {
    const home = root(i)
    if (vertexOf[home] < 0) {
      vertexOf[home] = places.length / 3
      places.push(positionsMm[3 * corner], positionsMm[3 * corner + 1], positionsMm[3 * corner + 2])
    }
    return vertexOf[home]
  })
  return { positionsMm: Float64Array.from(places), corners: split }
}

/**
 * Two lines between the same two points, each met by two faces of its own: one of them gets a point in its
 * middle, so that they can be told apart.
 */
function partDoubleSides(mesh: Mesh): Mesh {
  const places = Array.from(mesh.positionsMm)
  let corners = mesh.corners
  for (;;) {
    const vertices = places.length / 3
    const seen = new Set<number>()
    const { sideEdge, count } = meshEdges({ positionsMm: mesh.positionsMm, corners })
    const sidesOf = Array.from({ length: count }, (): number[] => [])
    sideEdge.forEach((edge, side) => sidesOf[edge].push(side))
    const middles = new Map<number, number>()
    for (let side = 0; side < corners.length; side++) {
      const from = corners[side]
      const to = corners[side % 3 === 2 ? side - 2 : side + 1]
      if (!seen.has(from * vertices + to)) {
        seen.add(from * vertices + to)
        continue
      }
      const pair = sidesOf[sideEdge[side]]
      // One line a triangle and round; the rest comes in the next.
      if (pair.some((one) => [0, 1, 2].some((i) => middles.has(one - (one % 3) + i)))) continue
      for (const one of pair) middles.set(one, places.length / 3)
      for (let axis = 0; axis < 3; axis++) places.push((places[3 * from + axis] + places[3 * to + axis]) / 2)
    }
    if (middles.size === 0) return { positionsMm: Float64Array.from(places), corners }
    const next: number[] = []
    for (let t = 0; t < corners.length; t += 3) {
      const i = [0, 1, 2].findIndex((side) => middles.has(t + side))
      if (i < 0) next.push(corners[t], corners[t + 1], corners[t + 2])
      else {
        const [a, b, c] = [0, 1, 2].map((k) => corners[t + ((i + k) % 3)])
        const middle = middles.get(t + i)!
        next.push(a, middle, c, middle, b, c)
      }
    }
    corners = Uint32Array.from(next)
  }
}

/** All points at one height, found again by their place and along lines. */
class Level {
  /** The point of each cell that has one. */
  private readonly cells = new Map<number, { readonly x: number; readonly y: number; readonly v: number }>()
  private readonly cell: number
  private readonly onLine: number
  /** x, y of every point on the grid, by x. */
  private readonly byX: { readonly x: number; readonly y: number }[] = []

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
    this.byX.sort((p, q) => p.x - q.x)
  }

  /** The vertex at a place: one that is near enough, or a new one. */
  private vertex(x: number, y: number): number {
    const [cx, cy] = [Math.floor(x / this.cell), Math.floor(y / this.cell)]
    for (let dx = -2; dx <= 2; dx++)
      for (let dy = -2; dy <= 2; dy++) {
        const near = this.cells.get(cellKey(cx + dx, cy + dy))
        if (near && (near.x - x) ** 2 + (near.y - y) ** 2 <= this.samePoint ** 2) return near.v
      }
    const v = this.places.length / 3
    this.places.push(x / GRID_PER_MM, y / GRID_PER_MM, this.zMm)
    this.cells.set(cellKey(cx, cy), { x, y, v })
    this.byX.push({ x, y })
    return v
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
    for (let i = firstFrom(this.byX, low); i < this.byX.length && this.byX[i].x <= high; i++) {
      const { x, y } = this.byX[i]
      const t = ((x - px) * ux + (y - py) * uy) / length
      if (t <= 0 || t >= length || Math.abs((x - px) * uy - (y - py) * ux) > this.onLine * length) continue
      const v = this.vertex(x, y)
      if (v !== from && v !== to) found.push({ t, v })
    }
    found.sort((a, b) => a.t - b.t)
    return [from, ...found.map(({ v }) => v), to]
  }
}

const cellKey = (cx: number, cy: number) => (cx + 2 ** 25) * 2 ** 26 + cy + 2 ** 25

function firstFrom(points: readonly { readonly x: number }[], low: number): number {
  let [from, to] = [0, points.length]
  while (from < to) {
    const middle = (from + to) >> 1
    if (points[middle].x < low) from = middle + 1
    else to = middle
  }
  return from
}

/** Rings on the engine's own grid, where equal points are equal numbers. */
function outlineOf(region: Region | null): Outline {
  if (!region || isEmptyRegion(region)) return { rings: [] }
  return {
    rings: Array.from({ length: ringCount(region) }, (_, r) =>
      Int32Array.from(region.xyMm.subarray(region.starts[r] * 2, region.starts[r + 1] * 2), (value) =>
        Math.round(value * GRID_PER_MM),
      ),
    ),
  }
}
