import { SAME_POINT_MM, TOO_SMALL_TO_PRINT_MM } from '../tolerances'
import { trimmedBodies, type Mesh } from './mesh'
import { shellNesting, type ShellStanding } from './nesting'
import { sharedSides } from './sharedSides'

/** What was wrong with a mesh, what of it was put right, and where the rest is. */
export type MendReport = {
  /** Cracks closed: corners moved onto one another by less than SAME_POINT_MM. */
  readonly closedCracks: number
  /**
   * Triangles that stood there twice and were left out; and those that stay, since the mesh would be open
   * without them.
   */
  readonly duplicates: number
  readonly keptDuplicates: number
  readonly turnedTriangles: number
  readonly turnedShells: number
  /** What stays: edges with one triangle, the rims of holes; and edges that more than two triangles share. */
  readonly openEdges: number
  readonly crowdedEdges: number
  readonly flatTriangles: number
  readonly shells: number
  /** Shells that face inwards inside another one: hollows. */
  readonly hollows: number
  /** Shells that lie wholly in the material of another one. */
  readonly nested: number
  readonly specks: number
  /** Six numbers an open edge: from, to. */
  readonly openEdgesMm: Float64Array
  /** Triangles (of the mended mesh) that were turned round. */
  readonly turned: Uint32Array
  /**
   * Where shells are that one might look for: specks, and those inside others. At most MOST_PLACES of them.
   */
  readonly places: readonly ShellPlace[]
}

export type ShellPlace = {
  readonly kind: 'speck' | 'nested' | 'hollow'
  readonly atMm: readonly [number, number, number]
  readonly sizeMm: number
}

const MOST_PLACES = 60

export type MendOptions = {
  /**
   * Millimetres a unit of the file: what is too small to print, or nearer than a printer can tell, is judged
   * at the size it will have.
   */
  readonly scaleMm?: number
}

/**
 * Puts right what can be put right without guessing at shape: hairline cracks, triangles that are there
 * twice, triangles and shells that face the wrong way. Holes, overlaps and specks stay, and are told.
 *
 * A shell is turned outwards unless it lies in the material of another one, where facing inwards makes it a
 * hollow.
 */
export function mendMesh(
  mesh: Mesh,
  { scaleMm = 1 }: MendOptions = {},
): { readonly mesh: Mesh; readonly report: MendReport } {
  const single = withoutDuplicates(mesh)
  let whole = single.mesh
  let sides = single.sides
  let closedCracks = 0
  if (sides.openSides.length > 0) {
    const welded = closeCracks(whole, sides.openSides, SAME_POINT_MM / scaleMm)
    if (welded.moved > 0) {
      whole = welded.mesh
      closedCracks = welded.moved
      sides = sharedSides(whole)
    }
  }
  const corners = Uint32Array.from(whole.corners)
  const { shellOf, shells, turnedRound } = orientShells(sides, corners.length / 3)
  // Within a shell the fewer follow the more.
  const minority = minorityOf(shellOf, shells, turnedRound)
  const turned: number[] = []
  for (let t = 0; t < turnedRound.length; t++) {
    if ((turnedRound[t] === 1) !== minority[shellOf[t]]) continue
    turn(corners, t)
    turned.push(t)
  }
  const turnedTriangles = turned.length
  const oriented: Mesh = { ...whole, corners }
  const nesting = shellNesting(oriented, shellOf, shells, openShells(sides.openSides, shellOf, shells))
  const wrong = new Set(nesting.flatMap((shell, s) => (shell.faces === 'wrong' ? [s] : [])))
  const turnedShells = wrong.size
  if (wrong.size > 0)
    for (let t = 0; t < shellOf.length; t++)
      if (wrong.has(shellOf[t])) {
        turn(corners, t)
        turned.push(t)
      }
  const after = turnedTriangles > 0 ? sharedSides(oriented) : sides
  return {
    mesh: oriented,
    report: {
      closedCracks,
      duplicates: single.duplicates,
      keptDuplicates: single.kept,
      turnedTriangles,
      turnedShells,
      openEdges: after.openSides.length - after.oddSides,
      crowdedEdges: after.crowded.length,
      flatTriangles: flatTriangles(oriented),
      shells,
      hollows: nesting.filter(({ faces }) => faces === 'hollow').length,
      nested: nesting.filter(({ faces }) => faces === 'nested').length,
      specks: nesting.filter(({ sizeMm }) => sizeMm * scaleMm < TOO_SMALL_TO_PRINT_MM).length,
      openEdgesMm: segmentsOf(oriented, after.openSides),
      turned: Uint32Array.from(turned),
      places: placesOf(nesting, scaleMm),
    },
  }
}

/** The report in words: what was mended, and what was left as it is. */
export function mendSentences(report: MendReport): { readonly mended: string[]; readonly left: string[] } {
  const many = (count: number, one: string, more = `${one}s`) => `${count} ${count === 1 ? one : more}`
  const was = (count: number) => (count === 1 ? 'was' : 'were')
  const mended: string[] = []
  const left: string[] = []
  const {
    closedCracks,
    duplicates,
    keptDuplicates,
    turnedTriangles,
    turnedShells,
    openEdges,
    crowdedEdges,
    flatTriangles: flat,
    nested,
    specks,
    hollows,
  } = report
  if (closedCracks > 0)
    mended.push(`${many(closedCracks, 'corner')} along hairline cracks ${was(closedCracks)} joined.`)
  if (duplicates > 0)
    mended.push(`${many(duplicates, 'triangle')} stood there twice; the copies were left out.`)
  if (turnedTriangles > 0)
    mended.push(
      `${many(turnedTriangles, 'triangle')} faced the wrong way; ${turnedTriangles === 1 ? 'it was' : 'they were'} turned round.`,
    )
  if (turnedShells > 0)
    mended.push(
      `${many(turnedShells, 'shell')} faced inwards with nothing around ${turnedShells === 1 ? 'it' : 'them'}; turned outwards.`,
    )
  if (openEdges > 0)
    left.push(
      `${many(openEdges, 'edge')} stay${openEdges === 1 ? 's' : ''} open. Outlines are closed across the gap when the part is sliced; look through the layers there.`,
    )
  if (keptDuplicates > 0)
    left.push(
      `${many(keptDuplicates, 'triangle stands', 'triangles stand')} there twice; without the copies the mesh would be open, so they stay.`,
    )
  if (crowdedEdges > 0)
    left.push(
      `${many(crowdedEdges, 'edge is', 'edges are')} shared by more than two triangles. Slicing copes.`,
    )
  if (flat > 0) left.push(`${many(flat, 'triangle has', 'triangles have')} no area. They do no harm.`)
  if (nested > 0)
    left.push(
      `${many(nested, 'shell lies', 'shells lie')} wholly inside another one; printed, ${nested === 1 ? 'it is' : 'they are'} one with it.`,
    )
  if (hollows > 0) left.push(`${many(hollows, 'hollow')} inside, closed on all sides.`)
  if (specks > 0)
    left.push(
      `${many(specks, 'speck')} smaller than ${TOO_SMALL_TO_PRINT_MM} mm cannot be printed and will be missing.`,
    )
  return { mended, left }
}

function placesOf(nesting: readonly ShellStanding[], scaleMm: number): ShellPlace[] {
  return nesting
    .flatMap(({ faces, sizeMm, middleMm: atMm }): ShellPlace[] => {
      const kind =
        sizeMm * scaleMm < TOO_SMALL_TO_PRINT_MM
          ? 'speck'
          : faces === 'nested' || faces === 'hollow'
            ? faces
            : null
      return kind ? [{ kind, atMm, sizeMm }] : []
    })
    .slice(0, MOST_PLACES)
}

function turn(corners: Uint32Array, t: number): void {
  const keep = corners[3 * t + 1]
  corners[3 * t + 1] = corners[3 * t + 2]
  corners[3 * t + 2] = keep
}

/**
 * Drops copies of triangles: the very same corners in the same turning sense. Where shells share a face each
 * needs its own: a copy stays when its sides would be open without it.
 */
function withoutDuplicates(mesh: Mesh) {
  const copies = copiesIn(mesh.corners)
  const before = sharedSides(mesh)
  if (copies.length === 0) return { mesh, sides: before, duplicates: 0, kept: 0 }
  const all = without(mesh, copies)
  const after = sharedSides(all)
  if (after.openSides.length <= before.openSides.length)
    return { mesh: all, sides: after, duplicates: copies.length, kept: 0 }
  const spare = spareCopies(mesh, copies)
  const some = spare.length === 0 ? mesh : without(mesh, spare)
  return {
    mesh: some,
    sides: spare.length === 0 ? before : sharedSides(some),
    duplicates: spare.length,
    kept: copies.length - spare.length,
  }
}

/** Triangles that are there already. */
function copiesIn(corners: Uint32Array): number[] {
  const count = corners.length / 3
  const slots = 1 << Math.ceil(Math.log2(Math.max(8, count)) + 0.7)
  const table = new Int32Array(slots).fill(-1)
  const copies: number[] = []
  const key = new Uint32Array(3)
  const other = new Uint32Array(3)
  for (let t = 0; t < count; t++) {
    rotated(corners, t, key)
    let slot =
      (Math.imul(key[0], 0x9e3779b1) ^ Math.imul(key[1], 0x85ebca6b) ^ Math.imul(key[2], 0xc2b2ae35)) >>> 0
    slot = (slot ^ (slot >>> 15)) & (slots - 1)
    for (;;) {
      const known = table[slot]
      if (known < 0) {
        table[slot] = t
        break
      }
      rotated(corners, known, other)
      if (other[0] === key[0] && other[1] === key[1] && other[2] === key[2]) {
        copies.push(t)
        break
      }
      slot = (slot + 1) & (slots - 1)
    }
  }
  return copies
}

/**
 * Copies of which each side runs its way more often than any runs against it: taking one away opens nothing.
 */
function spareCopies({ corners }: Mesh, copies: readonly number[]): number[] {
  const touched = new Set(copies.flatMap((t) => [...corners.subarray(3 * t, 3 * t + 3)]))
  const surplus = new Map<string, number>()
  const sidesOf = (t: number) =>
    [0, 1, 2].map((i) => [corners[3 * t + i], corners[3 * t + ((i + 1) % 3)]] as const)
  const add = (a: number, b: number, by: number) =>
    surplus.set(`${a} ${b}`, (surplus.get(`${a} ${b}`) ?? 0) + by)
  const change = (t: number, by: number) => {
    for (const [a, b] of sidesOf(t)) {
      add(a, b, by)
      add(b, a, -by)
    }
  }
  for (let t = 0; t < corners.length / 3; t++)
    for (const [a, b] of sidesOf(t))
      if (touched.has(a) && touched.has(b)) {
        add(a, b, 1)
        add(b, a, -1)
      }
  return copies.filter((t) => {
    const isSpare = sidesOf(t).every(([a, b]) => surplus.get(`${a} ${b}`)! > 0)
    if (isSpare) change(t, -1)
    return isSpare
  })
}

function without(mesh: Mesh, triangles: readonly number[]): Mesh {
  const gone = new Uint8Array(mesh.corners.length / 3)
  for (const t of triangles) gone[t] = 1
  const kept = new Uint32Array(mesh.corners.length - 3 * triangles.length)
  let size = 0
  for (let t = 0; t < gone.length; t++)
    if (!gone[t]) {
      kept.set(mesh.corners.subarray(3 * t, 3 * t + 3), size)
      size += 3
    }
  return {
    ...mesh,
    corners: kept,
    ...(mesh.bodies ? { bodies: trimmedBodies(mesh.bodies, (t) => gone[t] === 1) } : {}),
  }
}

/** Corners of a triangle, the smallest first, the turning sense kept. */
function rotated(corners: Uint32Array, t: number, into: Uint32Array): void {
  const [a, b, c] = [corners[3 * t], corners[3 * t + 1], corners[3 * t + 2]]
  if (a < b && a < c) into.set([a, b, c])
  else if (b < c) into.set([b, c, a])
  else into.set([c, a, b])
}

/** Joins corners of open sides that are nearer than anything a printer could tell apart. */
function closeCracks(mesh: Mesh, openSides: Uint32Array, nearMm: number): { mesh: Mesh; moved: number } {
  const { positionsMm: p, corners } = mesh
  const cell = (value: number) => Math.round(value / nearMm)
  const vertices = p.length / 3
  const isEnd = new Uint8Array(vertices)
  let ends = 0
  for (const side of openSides)
    for (const v of [corners[side], corners[side % 3 === 2 ? side - 2 : side + 1]])
      if (isEnd[v] === 0) {
        isEnd[v] = 1
        ends++
      }
  /**
   * Corners by the cell they lie in; cells that fall on one slot are told apart by the distance that is
   * measured anyway.
   */
  const slots = 1 << Math.ceil(Math.log2(Math.max(8, 2 * ends)))
  const last = new Int32Array(slots).fill(-1)
  const before = new Int32Array(vertices)
  /** The corner that each one becomes. */
  const target = Int32Array.from({ length: vertices }, (_, v) => v)
  const slotOf = (x: number, y: number, z: number) => {
    const mixed = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)
    return (mixed ^ (mixed >>> 15)) & (slots - 1)
  }
  const near2 = nearMm * nearMm
  const nearIn = (slot: number, v: number): number => {
    for (let w = last[slot]; w >= 0; w = before[w]) {
      const [dx, dy, dz] = [p[3 * v] - p[3 * w], p[3 * v + 1] - p[3 * w + 1], p[3 * v + 2] - p[3 * w + 2]]
      if (dx * dx + dy * dy + dz * dz <= near2) return w
    }
    return -1
  }
  let moved = 0
  for (let v = 0; v < vertices; v++) {
    if (isEnd[v] === 0) continue
    const [x, y, z] = [cell(p[3 * v]), cell(p[3 * v + 1]), cell(p[3 * v + 2])]
    const own = slotOf(x, y, z)
    // Its own cell first: most have their counterpart there.
    let found = nearIn(own, v)
    for (let d = 0; d < 27 && found < 0; d++)
      found = nearIn(slotOf(x + (d % 3) - 1, y + (Math.floor(d / 3) % 3) - 1, z + Math.floor(d / 9) - 1), v)
    if (found < 0) {
      before[v] = last[own]
      last[own] = v
    } else {
      target[v] = found
      moved++
    }
  }
  if (moved === 0) return { mesh, moved }
  const joined = corners.map((v) => target[v])
  const isFlat = (t: number) =>
    joined[3 * t] === joined[3 * t + 1] ||
    joined[3 * t + 1] === joined[3 * t + 2] ||
    joined[3 * t + 2] === joined[3 * t]
  const kept = new Uint32Array(joined.length)
  let size = 0
  for (let t = 0; t < joined.length / 3; t++)
    if (!isFlat(t)) for (let i = 0; i < 3; i++) kept[size++] = joined[3 * t + i]
  // Cracks around something smaller than the tolerance would leave nothing of it.
  if (size === 0) return { mesh, moved: 0 }
  return {
    mesh: {
      ...mesh,
      corners: kept.slice(0, size),
      ...(mesh.bodies ? { bodies: trimmedBodies(mesh.bodies, isFlat) } : {}),
    },
    moved,
  }
}

/** Walks over shared sides from triangle to triangle, noting who faces against the first of its shell. */
function orientShells({ partner }: ReturnType<typeof sharedSides>, triangles: number) {
  const shellOf = new Int32Array(triangles).fill(-1)
  const turnedRound = new Uint8Array(triangles)
  const queue = new Uint32Array(triangles)
  let shells = 0
  for (let first = 0; first < triangles; first++) {
    if (shellOf[first] >= 0) continue
    shellOf[first] = shells
    let [head, tail] = [0, 1]
    queue[0] = first
    while (head < tail) {
      const t = queue[head++]
      for (let i = 0; i < 3; i++) {
        const across = partner[3 * t + i]
        if (across < 0) continue
        const next = ((across >> 1) / 3) | 0
        if (shellOf[next] >= 0) continue
        shellOf[next] = shells
        turnedRound[next] = turnedRound[t] ^ (across & 1)
        queue[tail++] = next
      }
    }
    shells++
  }
  return { shellOf, shells, turnedRound }
}

/** Per shell: whether the triangles marked 1 are the fewer. */
function minorityOf(shellOf: Int32Array, shells: number, turnedRound: Uint8Array): boolean[] {
  const balance = new Int32Array(shells)
  for (let t = 0; t < shellOf.length; t++) balance[shellOf[t]] += turnedRound[t] ? 1 : -1
  return Array.from(balance, (sum) => sum <= 0)
}

function openShells(openSides: Uint32Array, shellOf: Int32Array, shells: number): Uint8Array {
  const open = new Uint8Array(shells)
  for (const side of openSides) open[shellOf[Math.floor(side / 3)]] = 1
  return open
}

function flatTriangles({ positionsMm: p, corners }: Mesh): number {
  let count = 0
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2]]
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]]
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]]
    const twice = (uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2
    const longest = Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz)
    // Height over the longest side below a millionth of it.
    if (twice <= 1e-12 * longest * longest) count++
  }
  return count
}

function segmentsOf({ positionsMm: p, corners }: Mesh, sides: Uint32Array): Float64Array {
  const segments = new Float64Array(sides.length * 6)
  sides.forEach((side, i) => {
    const [a, b] = [3 * corners[side], 3 * corners[side % 3 === 2 ? side - 2 : side + 1]]
    segments.set([p[a], p[a + 1], p[a + 2], p[b], p[b + 1], p[b + 2]], 6 * i)
  })
  return segments
}
