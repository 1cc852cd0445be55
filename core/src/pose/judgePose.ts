import { turnMatrix, type Mesh, type Pose } from '../mesh'
import { limitTowards, type SideAngles } from '../overhang'
import { SAME_POINT_MM } from '../tolerances'
import { massCentre } from './massCentre'
import { standingOn, TOUCHES_MM, type Standing } from './standing'

export type JudgeOptions = {
  readonly freeAngleDeg: number
  readonly sideAnglesDeg: SideAngles
  readonly layerHeightMm: number
  readonly interfaceLayers: number
  readonly standDensity: number
  readonly scale: number
  /** Per triangle of the mesh: 1 where a face must look good; null when none is marked. */
  readonly show: Uint8Array | null
}

/** What a pose asks for, measured on columns of air under the part. */
export type Judgement = {
  readonly turn: Pose['turn']
  /** Air that stands would fill. */
  readonly airMm3: number
  /** Underside that needs holding, seen from below; of it, on faces that must look good. */
  readonly contactMm2: number
  readonly showMm2: number
  /** Plastic of stands and interface: what the search makes small. */
  readonly supportMm3: number
  readonly heightMm: number
  /** Layers that a contact's interface lies on: what a second filament is swapped in for. */
  readonly contactLayers: number
  /** Tallest stand thinner than THIN_MM2. */
  readonly thinMm: number
  readonly standing: Standing
}

/** Columns along the longer side of the part's box. */
const COLUMNS = 96
/** A stand of less footprint sways. */
const THIN_MM2 = 40
/** Undersides this near to the bed are the first layer itself. */
const ON_BED_MM = 0.1

/**
 * Judges poses of one part by columns: under every place of a fine grid, the heights at which the part begins
 * and ends; where it begins on a face that leans past the limit, the column of air below is what a stand
 * would fill.
 * @returns judges one pose; fewer columns along the longer side of the part are quicker and rougher
 */
export function createJudge(
  mesh: Mesh,
  options: JudgeOptions,
): (turn: Pose['turn'], columns?: number) => Judgement {
  const { centre } = massCentre(mesh)
  const posed = { ...mesh, positionsMm: new Float64Array(mesh.positionsMm.length) }
  const used = usedVertices(mesh)
  return (turn, columns = COLUMNS) => {
    const { max, weight } = layInto(mesh, used, posed.positionsMm, turn, options.scale, centre)
    return judgeColumns(
      posed,
      max,
      turn,
      options,
      columns,
      standingOn(touchingPoints(posed.positionsMm, used), weight, weight[2]),
    )
  }
}

/** As createJudge, for one pose alone. */
export const judgePose = (mesh: Mesh, turn: Pose['turn'], options: JudgeOptions): Judgement =>
  createJudge(mesh, options)(turn)

function usedVertices({ positionsMm, corners }: Mesh): Uint32Array {
  const seen = new Uint8Array(positionsMm.length / 3)
  for (const v of corners) seen[v] = 1
  return Uint32Array.from(seen.keys()).filter((v) => seen[v] === 1)
}

/**
 * Lays the part on the bed, into an array that is there already; gives half its box, and where its weight is.
 */
function layInto(
  mesh: Mesh,
  used: Uint32Array,
  to: Float64Array,
  turn: Pose['turn'],
  scale: number,
  centre: readonly [number, number, number],
) {
  const m = turnMatrix(turn).map((value) => value * scale)
  const from = mesh.positionsMm
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
  for (const v of used) {
    const [x, y, z] = [from[3 * v], from[3 * v + 1], from[3 * v + 2]]
    const px = (to[3 * v] = m[0] * x + m[1] * y + m[2] * z)
    const py = (to[3 * v + 1] = m[3] * x + m[4] * y + m[5] * z)
    const pz = (to[3 * v + 2] = m[6] * x + m[7] * y + m[8] * z)
    if (px < x0) x0 = px
    if (px > x1) x1 = px
    if (py < y0) y0 = py
    if (py > y1) y1 = py
    if (pz < z0) z0 = pz
    if (pz > z1) z1 = pz
  }
  const [dx, dy] = [(x0 + x1) / 2, (y0 + y1) / 2]
  for (const v of used) {
    to[3 * v] -= dx
    to[3 * v + 1] -= dy
    to[3 * v + 2] -= z0
  }
  const at = (row: number) => m[row] * centre[0] + m[row + 1] * centre[1] + m[row + 2] * centre[2]
  return {
    max: [(x1 - x0) / 2, (y1 - y0) / 2, z1 - z0] as const,
    weight: [at(0) - dx, at(3) - dy, at(6) - z0] as const,
  }
}

function touchingPoints(p: Float64Array, used: Uint32Array): [number, number][] {
  const touching: [number, number][] = []
  for (const v of used) if (p[3 * v + 2] <= TOUCHES_MM) touching.push([p[3 * v], p[3 * v + 1]])
  return touching
}

function judgeColumns(
  posed: Mesh,
  max: readonly [number, number, number],
  turn: Pose['turn'],
  options: JudgeOptions,
  columns: number,
  standing: Standing,
): Judgement {
  const cell = (Math.max(max[0], max[1], 1e-3) * 2) / columns
  const wide = Math.max(1, Math.ceil((2 * max[0]) / cell))
  const deep = Math.max(1, Math.ceil((2 * max[1]) / cell))
  const crossings = columnsOf(posed, cell, wide, deep, max[0], max[1], options)
  const heights = new Float64Array(wide * deep)
  const layers = new Uint8Array(Math.ceil(max[2] / options.layerHeightMm) + 2)
  let [airMm3, contactMm2, showMm2] = [0, 0, 0]
  const area = cell * cell
  const { starts, z, kind } = crossings
  for (let at = 0; at < wide * deep; at++) {
    let winding = 0
    let top = 0
    for (let i = starts[at]; i < starts[at + 1]; i++) {
      const up = (kind[i] & 1) === 1
      const before = winding
      winding += up ? -1 : 1
      if (up) {
        if (winding === 0) top = z[i]
        continue
      }
      if (before !== 0 || (kind[i] & 2) === 0 || z[i] < ON_BED_MM) continue
      const air = z[i] - top
      // Shells that touch end and begin at one height.
      if (air < SAME_POINT_MM) continue
      airMm3 += air * area
      contactMm2 += area
      if (kind[i] & 4) showMm2 += area
      heights[at] = Math.max(heights[at], air)
      const layer = Math.floor(z[i] / options.layerHeightMm)
      for (let k = Math.max(0, layer - options.interfaceLayers); k < layer; k++) layers[k] = 1
    }
  }
  return {
    turn,
    airMm3,
    contactMm2,
    showMm2,
    supportMm3:
      airMm3 * options.standDensity +
      contactMm2 * options.interfaceLayers * options.layerHeightMm * (1 - options.standDensity),
    heightMm: max[2],
    contactLayers: layers.reduce((sum, one) => sum + one, 0),
    thinMm: tallestThin(heights, wide, deep, Math.ceil(THIN_MM2 / area)),
    standing,
  }
}

/**
 * Per place of the grid the crossings of the part's surface, lowest first: kind bit 1 looks up, 2 leans past
 * its limit, 4 must look good.
 */
function columnsOf(
  posed: Mesh,
  cell: number,
  wide: number,
  deep: number,
  reachX: number,
  reachY: number,
  { freeAngleDeg, sideAnglesDeg, show }: JudgeOptions,
) {
  const { positionsMm: p, corners } = posed
  const gx = new Float64Array(p.length / 3)
  const gy = new Float64Array(p.length / 3)
  for (let v = 0; v < gx.length; v++) {
    gx[v] = (p[3 * v] + reachX) / cell - 0.5
    gy[v] = (p[3 * v + 1] + reachY) / cell - 0.5
  }
  let column = new Uint32Array(4 * wide * deep)
  let height = new Float64Array(column.length)
  let kinds = new Uint8Array(column.length)
  let size = 0
  for (let t = 0; 3 * t < corners.length; t++) {
    const a = corners[3 * t]
    const b = corners[3 * t + 1]
    const c = corners[3 * t + 2]
    const turned = (gx[b] - gx[a]) * (gy[c] - gy[a]) - (gy[b] - gy[a]) * (gx[c] - gx[a])
    if (turned === 0) continue
    const y0 = Math.max(0, Math.ceil(Math.min(gy[a], gy[b], gy[c])))
    const y1 = Math.min(deep - 1, Math.floor(Math.max(gy[a], gy[b], gy[c])))
    if (y0 > y1) continue
    const x0 = Math.ceil(Math.min(gx[a], gx[b], gx[c]))
    if (x0 > Math.max(gx[a], gx[b], gx[c])) continue
    const kind = faceKind(p, 3 * a, 3 * b, 3 * c, freeAngleDeg, sideAnglesDeg) | (show?.[t] ? 4 : 0)
    const [za, zb, zc] = [p[3 * a + 2], p[3 * b + 2], p[3 * c + 2]]
    for (let y = y0; y <= y1; y++) {
      // Where the level line enters and leaves the triangle.
      const ab = levelCrossing(gx, gy, a, b, y)
      const bc = levelCrossing(gx, gy, b, c, y)
      const ca = levelCrossing(gx, gy, c, a, y)
      const from = Math.min(ab === ab ? ab : Infinity, bc === bc ? bc : Infinity, ca === ca ? ca : Infinity)
      if (from === Infinity) continue
      const to = Math.max(ab === ab ? ab : -Infinity, bc === bc ? bc : -Infinity, ca === ca ? ca : -Infinity)
      for (let x = Math.max(0, Math.ceil(from)); x < to && x < wide; x++) {
        if (size === column.length) {
          column = larger(column, new Uint32Array(2 * size))
          height = larger(height, new Float64Array(2 * size))
          kinds = larger(kinds, new Uint8Array(2 * size))
        }
        const u = ((x - gx[a]) * (gy[c] - gy[a]) - (y - gy[a]) * (gx[c] - gx[a])) / turned
        const v = ((gx[b] - gx[a]) * (y - gy[a]) - (gy[b] - gy[a]) * (x - gx[a])) / turned
        column[size] = y * wide + x
        height[size] = za + u * (zb - za) + v * (zc - za)
        kinds[size++] = kind
      }
    }
  }
  const starts = new Uint32Array(wide * deep + 1)
  for (let k = 0; k < size; k++) starts[column[k] + 1]++
  for (let i = 0; i < wide * deep; i++) starts[i + 1] += starts[i]
  const z = new Float64Array(size)
  const kind = new Uint8Array(size)
  const fill = starts.slice(0, wide * deep)
  for (let k = 0; k < size; k++) {
    // Few crossings a column: put each in its place at once. At one height, beginnings go before ends.
    let i = fill[column[k]]++
    while (
      i > starts[column[k]] &&
      (z[i - 1] > height[k] || (z[i - 1] === height[k] && (kind[i - 1] & 1) > (kinds[k] & 1)))
    ) {
      z[i] = z[i - 1]
      kind[i] = kind[i - 1]
      i--
    }
    z[i] = height[k]
    kind[i] = kinds[k]
  }
  return { starts, z, kind }
}

function larger<T extends Float64Array | Uint32Array | Uint8Array>(from: T, to: T): T {
  to.set(from)
  return to
}

/**
 * Where the side from a to b meets a level line; NaN when it does not. The lower end counts, the upper does
 * not: neighbours share no place.
 */
function levelCrossing(gx: Float64Array, gy: Float64Array, a: number, b: number, y: number): number {
  if (gy[a] > y === gy[b] > y) return NaN
  // Always from the same end: both triangles of a side must come to the very same number.
  const [low, high] = gy[a] < gy[b] ? [a, b] : [b, a]
  return gx[low] + ((gx[high] - gx[low]) * (y - gy[low])) / (gy[high] - gy[low])
}

function faceKind(
  p: Float64Array,
  a: number,
  b: number,
  c: number,
  freeAngleDeg: number,
  sides: SideAngles,
): number {
  const ux = p[b] - p[a]
  const uy = p[b + 1] - p[a + 1]
  const vx = p[c] - p[a]
  const vy = p[c + 1] - p[a + 1]
  const nz = ux * vy - uy * vx
  if (nz >= 0) return 1
  const uz = p[b + 2] - p[a + 2]
  const vz = p[c + 2] - p[a + 2]
  const nx = uy * vz - uz * vy
  const ny = uz * vx - ux * vz
  const lean = (Math.atan2(-nz, Math.hypot(nx, ny)) * 180) / Math.PI
  return lean > limitTowards(freeAngleDeg, sides, Math.atan2(ny, nx)) + 1e-6 ? 2 : 0
}

/** Height of the tallest group of neighbouring columns that together are fewer than `few`. */
function tallestThin(heights: Float64Array, wide: number, deep: number, few: number): number {
  const seen = new Uint8Array(heights.length)
  let tallest = 0
  const group: number[] = []
  for (let first = 0; first < heights.length; first++) {
    if (seen[first] || heights[first] === 0) continue
    group.length = 0
    group.push(first)
    seen[first] = 1
    let height = 0
    for (let i = 0; i < group.length; i++) {
      const at = group[i]
      height = Math.max(height, heights[at])
      const x = at % wide
      for (const next of [
        x > 0 ? at - 1 : -1,
        x < wide - 1 ? at + 1 : -1,
        at - wide,
        at + wide < wide * deep ? at + wide : -1,
      ])
        if (next >= 0 && !seen[next] && heights[next] > 0) {
          seen[next] = 1
          group.push(next)
        }
    }
    if (group.length < few) tallest = Math.max(tallest, height)
  }
  return tallest
}
