import type { Mesh } from '../mesh/mesh'
import { EMPTY_REGION, type Region } from '../polygon'

/** Rings as they come from the mesh, not yet cleaned, and how many ends had to be joined across a gap. */
export type RawOutlines = { readonly region: Region; readonly mended: number }

/**
 * Cuts a mesh level at ascending heights; the returned function is called for cut 0, 1, 2 ... in turn.
 *
 * Each vertex is told once how many cuts lie at or below it, so that a triangle meets cut i exactly when some corner's number is at
 * most i and another's is above. A vertex exactly at a cut counts as above it, and nothing is met twice. A crossed triangle is walked in
 * through one edge and out through another; neighbours share the edge, so outlines are followed without comparing coordinates. Only the
 * edges that one cut meets are ever matched: finding those of the whole mesh would cost more than all its cuts.
 * @param heightsMm quickest when evenly spaced from the second on, as the middles of layers are
 */
export function outlineCutter({ positionsMm, corners }: Mesh, heightsMm: Float64Array): (cut: number) => RawOutlines {
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
      // Facing outwards and counter-clockwise, the solid lies to the left when walking from the falling side to the rising one.
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
  private following = new Int32Array(0)
  private hasBefore = new Uint8Array(0)
  private table = new Int32Array(0)
  private mask = 0

  restart(most: number): void {
    this.segments = 0
    if (4 * most <= this.edges.length) return
    this.edges = new Int32Array(8 * most)
    this.following = new Int32Array(2 * most)
    this.hasBefore = new Uint8Array(2 * most)
    this.table = new Int32Array(2 << Math.ceil(Math.log2(2 * most)))
  }

  add(inAbove: number, inBelow: number, outAbove: number, outBelow: number): void {
    const at = 4 * this.segments++
    this.edges[at] = inAbove
    this.edges[at + 1] = inBelow
    this.edges[at + 2] = outAbove
    this.edges[at + 3] = outBelow
  }

  private slotOf(above: number, below: number): number {
    const mixed = Math.imul(above, 0x9e3779b1) ^ Math.imul(below, 0x85ebca6b)
    return (mixed ^ (mixed >>> 15)) & this.mask
  }

  /** For each segment the one that goes on from where it leaves; -1 where the mesh is open. Of several, each is taken once. */
  private link(): void {
    const { segments, edges, following, hasBefore, table } = this
    this.mask = (2 << Math.ceil(Math.log2(Math.max(2, segments)))) - 1
    table.fill(-1, 0, this.mask + 1)
    for (let s = 0; s < segments; s++) {
      let slot = this.slotOf(edges[4 * s], edges[4 * s + 1])
      while (table[slot] >= 0) slot = (slot + 1) & this.mask
      table[slot] = s
    }
    hasBefore.fill(0, 0, segments)
    for (let s = 0; s < segments; s++) {
      const [above, below] = [edges[4 * s + 2], edges[4 * s + 3]]
      let slot = this.slotOf(above, below)
      let found = table[slot]
      while (found >= 0 && (edges[4 * found] !== above || edges[4 * found + 1] !== below || hasBefore[found] === 1)) {
        slot = (slot + 1) & this.mask
        found = table[slot]
      }
      following[s] = found
      if (found >= 0) hasBefore[found] = 1
    }
  }

  /** Follows segments from edge to edge into rings; joins what stays open to the nearest loose start. */
  follow(p: Float64Array, z: number): RawOutlines {
    const { segments, edges, following, hasBefore } = this
    if (segments === 0) return { region: EMPTY_REGION, mended: 0 }
    this.link()
    const loose: number[] = []
    for (let s = 0; s < segments; s++) if (hasBefore[s] === 0) loose.push(s)
    const mended = loose.length
    const xyMm = new Float64Array((segments + mended) * 2)
    const starts: number[] = [0]
    let size = 0
    /** Point at height z on an edge; always from the vertex above, so that both its triangles get the same one. */
    const put = (edge: number): void => {
      const above = 3 * edges[edge]
      const below = 3 * edges[edge + 1]
      const share = (z - p[below + 2]) / (p[above + 2] - p[below + 2])
      xyMm[size++] = p[below] + (p[above] - p[below]) * share
      xyMm[size++] = p[below + 1] + (p[above + 1] - p[below + 1]) * share
    }
    const run = (from: number): number => {
      let last = from
      // A segment that was walked is marked as followed by -2.
      for (let s = from; s >= 0 && following[s] !== -2;) {
        put(4 * s)
        last = s
        const after = following[s]
        following[s] = -2
        s = after
      }
      return last
    }
    const looseAt = new Map<number, readonly [number, number]>()
    if (mended > 0)
      for (const s of loose) {
        put(4 * s)
        looseAt.set(s, [xyMm[size - 2], xyMm[size - 1]])
        size = 0
      }
    while (loose.length > 0) {
      const start = loose.pop()!
      let end = run(start)
      // Greedy: go on with the loose run that starts nearest to where this one stopped, unless closing is nearer still.
      for (;;) {
        put(4 * end + 2)
        const [ex, ey] = [xyMm[size - 2], xyMm[size - 1]]
        const distance = (s: number) => Math.hypot(looseAt.get(s)![0] - ex, looseAt.get(s)![1] - ey)
        let best = distance(start)
        let pick = -1
        for (let i = 0; i < loose.length; i++) {
          const d = distance(loose[i])
          if (d < best) {
            best = d
            pick = i
          }
        }
        if (pick < 0) break
        end = run(loose.splice(pick, 1)[0])
      }
      starts.push(size / 2)
    }
    for (let s = 0; s < segments; s++) {
      if (following[s] === -2) continue
      run(s)
      starts.push(size / 2)
    }
    return { region: { xyMm: xyMm.subarray(0, size), starts: Uint32Array.from(starts) }, mended }
  }
}
