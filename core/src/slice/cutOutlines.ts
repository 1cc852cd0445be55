import type { Mesh } from '../mesh/mesh'
import { EMPTY_REGION, type Region } from '../polygon'

/** Rings as they come from the mesh, not yet cleaned, and how many ends had to be joined across a gap. */
export type RawOutlines = { readonly region: Region; readonly mended: number }

/**
 * Cuts a mesh level at ascending heights; the returned function is called for cut 0, 1, 2 ... in turn.
 *
 * Each vertex is told once how many cuts lie at or below it, so that a triangle meets cut i exactly when some
 * corner's number is at most i and another's is above. A vertex exactly at a cut counts as above it, and
 * nothing is met twice. A crossed triangle is walked in through one edge and out through another; neighbours
 * share the edge, so outlines are followed without comparing coordinates. Only the edges that one cut meets
 * are ever matched: finding those of the whole mesh would cost more than all its cuts.
 * @param heightsMm quickest when evenly spaced from the second on, as the middles of layers are
 */
export function outlineCutter(
  { positionsMm, corners }: Mesh,
  heightsMm: Float64Array,
): (cut: number) => RawOutlines {
  const level = cutsUpTo(positionsMm, heightsMm)
  const triangles = corners.length / 3
  /** Triangles whose first cut is this one, as a list: the first here, the others behind it in `next`. */
  const first = new Int32Array(heightsMm.length).fill(-1)
  const next = new Int32Array(triangles)
  const pastLast = new Int32Array(triangles)
  for (let t = 0, c = 0; t < triangles; t++, c += 3) {
    const a = level[corners[c]]
    const b = level[corners[c + 1]]
    const d = level[corners[c + 2]]
    const low = a < b ? (a < d ? a : d) : b < d ? b : d
    const high = a > b ? (a > d ? a : d) : b > d ? b : d
    if (low === high) continue
    pastLast[t] = high
    next[t] = first[low]
    first[low] = t
  }
  let active = new Int32Array(1024)
  let size = 0
  const crossed = new Crossings()

  return (cut) => {
    let kept = 0
    for (let i = 0; i < size; i++) if (pastLast[active[i]] > cut) active[kept++] = active[i]
    for (let t = first[cut]; t >= 0; t = next[t]) {
      if (kept === active.length) active = enlarged(active)
      active[kept++] = t
    }
    size = kept
    crossed.restart(size)
    for (let i = 0; i < size; i++) {
      const at = 3 * active[i]
      const [a, b, c] = [corners[at], corners[at + 1], corners[at + 2]]
      const isA = level[a] > cut
      const isB = level[b] > cut
      const isC = level[c] > cut
      // Facing outwards and counter-clockwise, the solid lies to the left when walking from the falling side
      // to the rising one.
      if (isA) {
        if (isB) crossed.add(b, c, a, c)
        else if (isC) crossed.add(a, b, c, b)
        else crossed.add(a, b, a, c)
      } else if (isB) {
        if (isC) crossed.add(c, a, b, a)
        else crossed.add(b, c, b, a)
      } else crossed.add(c, a, c, b)
    }
    return crossed.follow(positionsMm, heightsMm[cut])
  }
}

/** Per vertex: how many of the heights lie at or below it. */
function cutsUpTo(positionsMm: Float64Array, heightsMm: Float64Array): Int32Array {
  const count = heightsMm.length
  const from = heightsMm[Math.min(1, count - 1)]
  const perMm = count > 2 ? (count - 2) / (heightsMm[count - 1] - from) : 0
  const level = new Int32Array(positionsMm.length / 3)
  for (let v = 0; v < level.length; v++) {
    const z = positionsMm[3 * v + 2]
    let cuts = 2 + Math.floor((z - from) * perMm)
    cuts = cuts > 0 ? (cuts < count ? cuts : count) : 0
    // The guess may be off by rounding; the heights themselves decide.
    while (cuts < count && heightsMm[cuts] <= z) cuts++
    while (cuts > 0 && heightsMm[cuts - 1] > z) cuts--
    level[v] = cuts
  }
  return level
}

const enlarged = (list: Int32Array): Int32Array<ArrayBuffer> => {
  const larger = new Int32Array(list.length * 2)
  larger.set(list)
  return larger
}

/** The edges that one cut meets, two a segment. Each is named by its vertex above and its vertex below. */
class Crossings {
  private segments = 0
  /** Four numbers a segment: the edge it comes in by, above and below, and the edge it goes out by. */
  private edges = new Int32Array(0)
  /** Per segment the one that goes on from it, -1 for none. */
  private following = new Int32Array(0)
  private hasBefore = new Uint8Array(0)
  /**
   * A segment for each edge that some come in by; behind it, in `waiting` and `next`, those not yet followed
   * on.
   */
  private table = new Int32Array(0)
  private waiting = new Int32Array(0)
  private next = new Int32Array(0)

  restart(most: number): void {
    this.segments = 0
    if (4 * most <= this.edges.length) return
    this.edges = new Int32Array(8 * most)
    this.following = new Int32Array(2 * most)
    this.hasBefore = new Uint8Array(2 * most)
    this.waiting = new Int32Array(2 * most)
    this.next = new Int32Array(2 * most)
    this.table = new Int32Array(2 << Math.ceil(Math.log2(2 * most)))
  }

  add(inAbove: number, inBelow: number, outAbove: number, outBelow: number): void {
    const at = 4 * this.segments++
    this.edges[at] = inAbove
    this.edges[at + 1] = inBelow
    this.edges[at + 2] = outAbove
    this.edges[at + 3] = outBelow
  }

  /**
   * For each segment the one that goes on from where it leaves; -1 where the mesh is open. Of several, each
   * is taken once.
   */
  private link(): void {
    const { segments, edges, following, hasBefore, table, waiting, next } = this
    const mask = (2 << Math.ceil(Math.log2(Math.max(2, segments)))) - 1
    table.fill(-1, 0, mask + 1)
    /** Where the edge at this place of `edges` stands in the table, or would. */
    const slotOf = (edge: number): number => {
      const above = edges[edge]
      const below = edges[edge + 1]
      const mixed = Math.imul(above, 0x9e3779b1) ^ Math.imul(below, 0x85ebca6b)
      let slot = (mixed ^ (mixed >>> 15)) & mask
      for (
        let s = table[slot];
        s >= 0 && (edges[4 * s] !== above || edges[4 * s + 1] !== below);
        s = table[slot]
      )
        slot = (slot + 1) & mask
      return slot
    }
    // Triangles mostly stand in their file beside a neighbour: what two segments in a row settle between them
    // needs no table.
    hasBefore.fill(0, 0, segments)
    for (let s = 0; s < segments; s++) {
      const [above, below] = [edges[4 * s + 2], edges[4 * s + 3]]
      following[s] = -1
      if (
        s + 1 < segments &&
        edges[4 * s + 4] === above &&
        edges[4 * s + 5] === below &&
        hasBefore[s + 1] === 0
      )
        hasBefore[(following[s] = s + 1)] = 1
      else if (s > 0 && edges[4 * s - 4] === above && edges[4 * s - 3] === below && hasBefore[s - 1] === 0)
        hasBefore[(following[s] = s - 1)] = 1
    }
    for (let s = 0; s < segments; s++) {
      if (hasBefore[s] === 1) continue
      const slot = slotOf(4 * s)
      const known = table[slot]
      if (known < 0) {
        table[slot] = waiting[s] = s
        next[s] = -1
      } else {
        next[s] = waiting[known]
        waiting[known] = s
      }
    }
    for (let s = 0; s < segments; s++) {
      if (following[s] >= 0) continue
      const known = table[slotOf(4 * s + 2)]
      const found = known < 0 ? -1 : waiting[known]
      if (found < 0) continue
      following[s] = found
      waiting[known] = next[found]
      hasBefore[found] = 1
    }
  }

  /** Follows segments from edge to edge into rings; joins what stays open to the nearest loose start. */
  follow(p: Float64Array, z: number): RawOutlines {
    const { segments, edges, following, hasBefore } = this
    if (segments === 0) return { region: EMPTY_REGION, mended: 0 }
    this.link()
    /**
     * Writes the point at height z on an edge; always from the vertex above, so that both its triangles get
     * the same one.
     */
    const cross = (edge: number, into: Float64Array, at: number): void => {
      const above = 3 * edges[edge]
      const below = 3 * edges[edge + 1]
      const share = (z - p[below + 2]) / (p[above + 2] - p[below + 2])
      into[at] = p[below] + (p[above] - p[below]) * share
      into[at + 1] = p[below + 1] + (p[above + 1] - p[below + 1]) * share
    }
    const loose: { readonly segment: number; readonly x: number; readonly y: number }[] = []
    const spot = new Float64Array(2)
    for (let s = 0; s < segments; s++)
      if (hasBefore[s] === 0) {
        cross(4 * s, spot, 0)
        loose.push({ segment: s, x: spot[0], y: spot[1] })
      }
    const mended = loose.length
    const xyMm = new Float64Array((segments + mended) * 2)
    const starts: number[] = [0]
    let size = 0
    /** Walks on from a segment as far as it goes; what was walked is marked by WALKED. Gives the last one. */
    const run = (from: number): number => {
      let last = from
      for (let s = from; s >= 0 && following[s] !== WALKED;) {
        cross(4 * s, xyMm, size)
        size += 2
        last = s
        const after = following[s]
        following[s] = WALKED
        s = after
      }
      return last
    }
    while (loose.length > 0) {
      const start = loose.pop()!
      let end = run(start.segment)
      // Greedy: go on with the loose run that starts nearest to where this one stopped, unless closing is
      // nearer still.
      for (;;) {
        cross(4 * end + 2, xyMm, size)
        const [x, y] = [xyMm[size], xyMm[size + 1]]
        size += 2
        let best = Math.hypot(start.x - x, start.y - y)
        let pick = -1
        for (let i = 0; i < loose.length && mended <= MOST_JOINED; i++) {
          const d = Math.hypot(loose[i].x - x, loose[i].y - y)
          if (d < best) {
            best = d
            pick = i
          }
        }
        if (pick < 0) break
        end = run(loose.splice(pick, 1)[0].segment)
      }
      starts.push(size / 2)
    }
    for (let s = 0; s < segments; s++) {
      if (following[s] === WALKED) continue
      run(s)
      starts.push(size / 2)
    }
    return { region: { xyMm: xyMm.subarray(0, size), starts: Uint32Array.from(starts) }, mended }
  }
}

const WALKED = -2
/**
 * With more loose ends than this a cut is a heap of loose triangles: each run is closed on itself, since
 * comparing all with all would never end.
 */
const MOST_JOINED = 1000
