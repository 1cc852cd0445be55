import { TenderError } from '../errors'
import { meshEdges, type Edges } from '../mesh/edges'
import { meshBounds, type Mesh } from '../mesh/mesh'
import type { PolygonEngine, Region } from '../polygon'
import { EMPTY_REGION, regionAreaMm2, sameRegion } from '../polygon'
import { OUTLINE_TOLERANCE_MM, SAME_HEIGHT_MM } from '../tolerances'

/** One layer of the part: it fills region from bottomMm to topMm. Equal neighbours share one region object. */
export type Layer = { readonly index: number; readonly bottomMm: number; readonly topMm: number; readonly region: Region }

export type Slices = { readonly layers: readonly Layer[]; readonly heightMm: number; readonly mendedOutlines: number }

export type SliceOptions = { readonly layerHeightMm: number; readonly firstLayerHeightMm: number }

/** Called between pieces of work; may wait, may throw STOPPED. */
export type Checkpoint = (done: number, total: number) => void | Promise<void>

const MOST_LAYERS = 20_000

/**
 * Cuts a posed mesh at the middle of every layer.
 *
 * Each triangle that crosses a cut enters through one edge and leaves through another. Neighbours share edges, so outlines are
 * followed from edge to edge without comparing coordinates. Where the mesh is open the ends are joined to the nearest start and counted.
 * A vertex exactly at the cut counts as above it, so nothing is met twice.
 * @param mesh standing on z = 0
 * @param edges of the mesh; turning it leaves them as they are, so they may come from before
 * @throws TenderError LAYERS_TOO_MANY
 */
export async function sliceMesh(mesh: Mesh, engine: PolygonEngine, options: SliceOptions, checkpoint?: Checkpoint, edges: Edges = meshEdges(mesh)): Promise<Slices> {
  const heightMm = meshBounds(mesh).max[2]
  const { layerHeightMm: h, firstLayerHeightMm: first } = options
  const count = Math.max(1, 1 + Math.ceil((heightMm - first) / h - 0.5 - SAME_HEIGHT_MM))
  if (count > MOST_LAYERS) throw new TenderError('LAYERS_TOO_MANY', `${heightMm.toFixed(1)} mm in layers of ${h} mm makes ${count} layers; up to ${MOST_LAYERS} can be planned.`, { count })
  const cutter = prepareCuts(mesh, edges, (index) => (index === 0 ? first / 2 : first + (index - 0.5) * h), count)
  const layers: Layer[] = []
  let mended = 0
  for (let index = 0; index < count; index++) {
    if (checkpoint && index % 8 === 0) await checkpoint(index, count)
    const raw = cutter(index)
    mended += raw.mended
    const region = engine.clean(raw.region, 'nonzero', OUTLINE_TOLERANCE_MM)
    const below = layers[index - 1]
    layers.push({ index, bottomMm: layerBoundaryMm(index, first, h), topMm: layerBoundaryMm(index + 1, first, h), region: below && sameRegion(below.region, region) ? below.region : region })
  }
  return { layers, heightMm, mendedOutlines: mended }
}

/**
 * The regions of a mesh at given heights, which need not start at its foot.
 * @param heightsMm ascending, evenly spaced from the second on, as the undersides of layers are
 */
export async function cutMesh(mesh: Mesh, heightsMm: readonly number[], engine: PolygonEngine, checkpoint?: Checkpoint): Promise<Region[]> {
  const cutter = prepareCuts(mesh, meshEdges(mesh), (index) => heightsMm[index], heightsMm.length)
  const regions: Region[] = []
  for (let index = 0; index < heightsMm.length; index++) {
    if (checkpoint && index % 8 === 0) await checkpoint(index, heightsMm.length)
    regions.push(engine.clean(cutter(index).region, 'nonzero', OUTLINE_TOLERANCE_MM))
  }
  return regions
}

/** What slices fill: area times height, the last layer only as far as the part reaches. */
export function slicedVolumeMm3({ layers, heightMm }: Pick<Slices, 'layers' | 'heightMm'>): number {
  return layers.reduce((sum, { region, bottomMm, topMm }) => sum + regionAreaMm2(region) * (Math.min(topMm, Math.max(heightMm, bottomMm)) - bottomMm), 0)
}

/** Height below layer `index`. One formula for tops and bottoms: neighbours must meet in the very same number. */
export function layerBoundaryMm(index: number, firstLayerHeightMm: number, layerHeightMm: number): number {
  return index <= 0 ? 0 : firstLayerHeightMm + (index - 1) * layerHeightMm
}

/** Sorts triangles by the first cut they meet; the returned function cuts at ascending indices, carrying the triangles in play along. */
function prepareCuts(mesh: Mesh, edges: Edges, zOf: (index: number) => number, count: number) {
  const { positionsMm: p, corners } = mesh
  const triangles = corners.length / 3
  const firstCut = new Int32Array(triangles)
  const lastCut = new Int32Array(triangles)
  const starts = new Uint32Array(count + 1)
  const z0 = zOf(0)
  const z1 = count > 1 ? zOf(1) : z0 + 1
  const step = count > 2 ? zOf(2) - z1 : 1
  /** Number of cuts at or below a height: cuts after the first two are evenly spaced. */
  const cutsUpTo = (z: number) => (z < z0 ? 0 : z < z1 ? 1 : Math.min(count, 2 + Math.floor((z - z1) / step)))
  for (let t = 0; t < triangles; t++) {
    const za = p[3 * corners[3 * t] + 2]
    const zb = p[3 * corners[3 * t + 1] + 2]
    const zc = p[3 * corners[3 * t + 2] + 2]
    // One cut of margin on either side absorbs rounding in cutsUpTo; the exact test happens at the cut.
    const from = Math.max(0, cutsUpTo(Math.min(za, zb, zc)) - 1)
    const to = Math.min(count - 1, cutsUpTo(Math.max(za, zb, zc)))
    firstCut[t] = from
    lastCut[t] = to
    if (from < count) starts[from + 1]++
  }
  for (let i = 0; i < count; i++) starts[i + 1] += starts[i]
  const order = new Uint32Array(triangles)
  const fill = starts.slice(0, count)
  for (let t = 0; t < triangles; t++) if (firstCut[t] < count) order[fill[firstCut[t]]++] = t

  let active = new Uint32Array(1024)
  let size = 0
  const segmentAt = new Int32Array(edges.count).fill(-1)
  let enter = new Uint32Array(1024)
  let leave = new Uint32Array(1024)
  /** Where each segment enters and leaves: x, y, x, y. */
  let points = new Float64Array(4096)

  return (index: number): { region: Region; mended: number } => {
    const z = zOf(index)
    const incoming = starts[index + 1] - starts[index]
    if (active.length < size + incoming) {
      const larger = new Uint32Array((size + incoming) * 2)
      larger.set(active)
      active = larger
    }
    active.set(order.subarray(starts[index], starts[index + 1]), size)
    size += incoming
    if (enter.length < size) {
      enter = new Uint32Array(size * 2)
      leave = new Uint32Array(size * 2)
      points = new Float64Array(size * 8)
    }
    let kept = 0
    let segments = 0
    for (let i = 0; i < size; i++) {
      const t = active[i]
      if (lastCut[t] < index) continue
      active[kept++] = t
      const base = 3 * t
      const a = p[3 * corners[base] + 2] >= z
      const b = p[3 * corners[base + 1] + 2] >= z
      const c = p[3 * corners[base + 2] + 2] >= z
      if (a === b && b === c) continue
      // Facing outwards and counter-clockwise, the solid lies to the left when walking from the falling side to the rising one.
      const rising = !a && b ? 0 : !b && c ? 1 : 2
      const falling = a && !b ? 0 : b && !c ? 1 : 2
      enter[segments] = edges.sideEdge[base + falling]
      leave[segments] = edges.sideEdge[base + rising]
      crossEdge(p, 3 * corners[base + falling], 3 * corners[base + ((falling + 1) % 3)], z, points, 4 * segments)
      crossEdge(p, 3 * corners[base + ((rising + 1) % 3)], 3 * corners[base + rising], z, points, 4 * segments + 2)
      segmentAt[enter[segments]] = segments
      segments++
    }
    size = kept
    return chain(segments, enter, leave, points, segmentAt)
  }
}

/** Point at height z on the edge from a vertex at or above it to one below. */
function crossEdge(p: Float64Array, above: number, below: number, z: number, into: Float64Array, at: number): void {
  const share = (z - p[below + 2]) / (p[above + 2] - p[below + 2])
  into[at] = p[below] + (p[above] - p[below]) * share
  into[at + 1] = p[below + 1] + (p[above + 1] - p[below + 1]) * share
}

/** Follows segments from edge to edge into rings; joins what stays open to the nearest loose start. */
function chain(segments: number, enter: Uint32Array, leave: Uint32Array, points: Float64Array, segmentAt: Int32Array): { region: Region; mended: number } {
  if (segments === 0) return { region: EMPTY_REGION, mended: 0 }
  const hasBefore = new Uint8Array(segments)
  for (let s = 0; s < segments; s++) {
    const next = segmentAt[leave[s]]
    if (next >= 0) hasBefore[next] = 1
  }
  const used = new Uint8Array(segments)
  const loose: number[] = []
  for (let s = 0; s < segments; s++) if (!hasBefore[s]) loose.push(s)
  const mended = loose.length
  const xyMm = new Float64Array((segments + mended) * 2)
  const starts: number[] = [0]
  let size = 0
  const follow = (from: number): number => {
    let last = from
    for (let s = from; s >= 0 && !used[s]; s = segmentAt[leave[s]]) {
      used[s] = 1
      xyMm[size++] = points[4 * s]
      xyMm[size++] = points[4 * s + 1]
      last = s
    }
    return last
  }
  while (loose.length > 0) {
    const start = loose.pop()!
    let end = follow(start)
    // Greedy: go on with the loose run that starts nearest to where this one stopped, unless closing is nearer still.
    for (;;) {
      const ex = points[4 * end + 2]
      const ey = points[4 * end + 3]
      xyMm[size++] = ex
      xyMm[size++] = ey
      let best = Math.hypot(points[4 * start] - ex, points[4 * start + 1] - ey)
      let pick = -1
      for (let i = 0; i < loose.length; i++) {
        const d = Math.hypot(points[4 * loose[i]] - ex, points[4 * loose[i] + 1] - ey)
        if (d < best) {
          best = d
          pick = i
        }
      }
      if (pick < 0) break
      end = follow(loose.splice(pick, 1)[0])
    }
    starts.push(size / 2)
  }
  for (let s = 0; s < segments; s++) {
    if (used[s]) continue
    follow(s)
    starts.push(size / 2)
  }
  for (let s = 0; s < segments; s++) segmentAt[enter[s]] = -1
  return { region: { xyMm: xyMm.subarray(0, size), starts: Uint32Array.from(starts) }, mended }
}
