import { meshEdges, type Mesh, type SolidEngine } from '../mesh'
import { splitPieces, type PolygonEngine, type Region } from '../polygon'
import type { Checkpoint } from '../slice'
import { GRID_PER_MM } from '../tolerances'
import { Level, outlineOf, type CutRings } from './level'

/**
 * A prism: region from bottomMm to topMm. With `upper`, which has the same rings with as many corners, its
 * sides lean from the one to the other.
 */
export type Slab = {
  readonly bottomMm: number
  readonly topMm: number
  readonly region: Region
  readonly upper?: Region
}

/** Slabs that became one surface; null when they did not close: the caller joins them slab by slab. */
export type Stacked = { readonly slabs: readonly Slab[]; readonly mesh: Mesh | null }

/**
 * Points this near, in grid steps, are one: outlines of neighbouring layers cross in points a step or two
 * apart, and so short a line helps nobody. Which distance leaves no line in doubt depends on the shapes, so
 * that a few are tried at each height; the largest is 6 micrometres.
 */
const SAME_POINT_STEPS = [8, 20, 40, 60] as const

/**
 * Stacks prisms into one surface without general booleans: walls around each prism, and caps where neighbours
 * differ.
 *
 * At each height the outlines below (A) and above (B) and the caps A − B and B − A are cut at all of each
 * other's points, so that every piece of a line is met by as many faces on the one side as on the other.
 * Where no distance between points brings that about, the surface ends there and another one begins.
 * @param slabs from below upwards, not overlapping in height; neighbours that touch become one body
 * @returns surfaces from below upwards, one where all heights close
 */
export async function stackSolid(
  slabs: readonly Slab[],
  polygons: PolygonEngine,
  solids: Pick<SolidEngine, 'triangulate'>,
  checkpoint?: Checkpoint,
): Promise<Stacked[]> {
  const stacked: Stacked[] = []
  let builder = new SurfaceBuilder(solids, polygons)
  let first = 0
  const end = (next: number) => {
    stacked.push({ slabs: slabs.slice(first, next), mesh: builder.finish() })
    builder = new SurfaceBuilder(solids, polygons)
    first = next
  }
  for (let i = 0; i <= slabs.length; i++) {
    if (checkpoint && i % 8 === 0) await checkpoint(i, slabs.length + 1)
    const below = i > 0 ? slabs[i - 1] : null
    const above = i < slabs.length ? slabs[i] : null
    if (below && above && below.topMm === above.bottomMm) {
      if (builder.meet(below.topMm, below, above)) continue
      builder.meet(below.topMm, below, null)
      end(i)
      builder.meet(above.bottomMm, null, above)
    } else {
      if (below) builder.meet(below.topMm, below, null)
      if (above) builder.meet(above.bottomMm, null, above)
    }
  }
  end(slabs.length)
  return stacked
}

/** A piece of a slab: its outline where it begins and where it ends. */
type Column = { readonly bottom: Region; readonly top: Region }

function columnsOf(slab: Slab | null): Column[] {
  if (!slab) return []
  const tops = splitPieces(slab.upper ?? slab.region)
  return splitPieces(slab.region).map((bottom, i) => ({ bottom, top: tops[i] }))
}

class SurfaceBuilder {
  private readonly places: number[] = []
  private readonly corners: number[] = []
  /** How the outlines of the columns that go on upwards were cut where they began. */
  private begun = new Map<Region, CutRings>()

  constructor(
    private readonly solids: Pick<SolidEngine, 'triangulate'>,
    private readonly polygons: PolygonEngine,
  ) {}

  /**
   * Closes what ends and opens what begins at a height, and raises the walls of what lies below. A column
   * that goes on with the same outline has no caps, and if it goes on upright not even corners here.
   * @returns false, with nothing done, when lines would be left without a counterpart
   */
  meet(zMm: number, below: Slab | null, above: Slab | null): boolean {
    const ending = new Map(columnsOf(below).map((column) => [column.top, column]))
    const beginning = new Map(columnsOf(above).map((column) => [column.bottom, column]))
    const gone = [...ending.keys()].filter((top) => !beginning.has(top))
    const come = [...beginning.keys()].filter((bottom) => !ending.has(bottom))
    const cut = this.cutAt(zMm, gone, come)
    if (!cut) return false
    const begun: typeof this.begun = new Map()
    gone.forEach((top, i) => this.wall(ending.get(top)!, cut.gone[i]))
    come.forEach((bottom, i) => begun.set(bottom, cut.come[i]))
    for (const [outline, column] of beginning) {
      const from = ending.get(outline)
      if (!from) continue
      const isUpright = from.bottom === from.top && column.bottom === column.top
      const rings = isUpright ? this.begun.get(outline)! : this.cornersAt(zMm, outline)
      if (!isUpright) this.wall(from, rings)
      begun.set(outline, rings)
    }
    this.begun = begun
    return true
  }

  /** Cuts outlines below and above a height at each other's points, and caps what ends or begins there. */
  private cutAt(
    zMm: number,
    below: readonly Region[],
    above: readonly Region[],
  ): { readonly gone: readonly CutRings[]; readonly come: readonly CutRings[] } | null {
    if (below.length + above.length === 0) return { gone: [], come: [] }
    const { places, polygons } = this
    const all = [below, above, [polygons.minusAll(below, above)], [polygons.minusAll(above, below)]].map(
      (regions) => regions.map(outlineOf),
    )
    for (const steps of SAME_POINT_STEPS) {
      const before = places.length
      const level = new Level(zMm, places, steps, all.flat())
      const [gone, come, [up], [down]] = all.map((outlines) => outlines.map((outline) => level.cut(outline)))
      if (isClosed([...gone, down], [...come, up])) {
        this.cap(up, true)
        this.cap(down, false)
        return { gone, come }
      }
      places.length = before
    }
    return null
  }

  /** The corners of an outline that nothing else is cut at. */
  private cornersAt(zMm: number, outline: Region): CutRings {
    const { places } = this
    return outlineOf(outline).rings.map((ring) => {
      const first = places.length / 3
      for (let i = 0; i < ring.length; i += 2)
        places.push(ring[i] / GRID_PER_MM, ring[i + 1] / GRID_PER_MM, zMm)
      const count = ring.length / 2
      return Array.from({ length: count }, (_, i) => [first + i, first + ((i + 1) % count)])
    })
  }

  /** Raises the wall of a column from where it began to where it was cut now. */
  private wall({ bottom: outline }: Column, upper: CutRings): void {
    this.begun.get(outline)!.forEach((ring, r) =>
      ring.forEach((bottom, e) => {
        const top = upper[r][e]
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

  /**
   * The surface when every side of every triangle has its counterpart. Sheets that touch may share points and
   * lines.
   */
  finish(): Mesh | null {
    const { corners, places } = this
    const kept = new Uint32Array(corners.length)
    let size = 0
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]]
      if (a === b || b === c || c === a) continue
      kept[size++] = a
      kept[size++] = b
      kept[size++] = c
    }
    const mesh = { positionsMm: Float64Array.from(places), corners: kept.slice(0, size) }
    return meshEdges(mesh).openCount === 0 ? mesh : null
  }
}

/** More points than a surface has. */
const MOST_POINTS = 2 ** 26

/** Whether lines run one way as often as they run the other way. */
function isClosed(oneWay: readonly CutRings[], otherWay: readonly CutRings[]): boolean {
  const times = new Map<number, number>()
  const count = (all: readonly CutRings[], by: number) => {
    for (const rings of all)
      for (const ring of rings)
        for (const edge of ring)
          for (let i = 1; i < edge.length; i++) {
            const from = edge[i - 1]
            const to = edge[i]
            if (from === to) continue
            const [key, adds] = from < to ? [from * MOST_POINTS + to, by] : [to * MOST_POINTS + from, -by]
            const sum = (times.get(key) ?? 0) + adds
            if (sum === 0) times.delete(key)
            else times.set(key, sum)
          }
  }
  count(oneWay, 1)
  count(otherWay, -1)
  return times.size === 0
}
