import { isEmptyRegion, regionPerimeterMm, ringCount, type PolygonEngine, type Region } from '../polygon'
import { addRings } from './addLines'
import { addVarying } from './addVarying'
import { cellPlaces } from './cellPlaces'
import { PathWriter, type PathKind, type ToolPaths } from './toolPaths'

/** Corners of rings may stray this far from round. */
const ARC_MM = 0.01

export type Ringed = {
  readonly lines: ToolPaths
  /** What lines inside the rings may fill, up to the rings’ own edge. */
  readonly inside: Region
}

/** Rings laid before, by how they were laid: what fills them may change without them. */
const known = new WeakMap<Region, Map<string, Ringed>>()

/**
 * Lays rings along the rim of a region, the outermost first, each wholly inside it. Where the region is
 * narrower than two lines, one line goes down its middle, as wide as what it has to fill: two would lie on
 * each other. What is narrower than one line gets none.
 * @param rings how many; 0 lays none and leaves everything to what fills the inside
 */
export function layRings(
  kind: PathKind,
  region: Region,
  rings: number,
  engine: PolygonEngine,
  lineWidthMm: number,
): Ringed {
  const how = `${kind} ${rings} ${lineWidthMm}`
  let before = known.get(region)
  if (!before) known.set(region, (before = new Map()))
  const laid = before.get(how)
  if (laid) return laid
  const writer = new PathWriter()
  let rim = engine.grow(region, -lineWidthMm / 2, 'miter', ARC_MM)
  for (let k = 0; k < rings && !isEmptyRegion(rim); k++) {
    const within = engine.grow(rim, -lineWidthMm / 2, 'miter', ARC_MM)
    if (hasNarrowParts(rim, within, lineWidthMm)) addMiddles(writer, kind, rim, lineWidthMm)
    else addRings(writer, kind, rim)
    // The edge of the last ring; another one would begin half a line further in.
    rim = k === rings - 1 ? within : engine.grow(within, -lineWidthMm / 2, 'miter', ARC_MM)
  }
  const ringed = { lines: writer.finish(), inside: rim }
  before.set(how, ringed)
  return ringed
}

/**
 * Whether opposite sides of a rim come so near that rings there would lie on each other: what shrinks away
 * takes its outline with it.
 */
function hasNarrowParts(rim: Region, within: Region, lineWidthMm: number): boolean {
  if (isEmptyRegion(within) || ringCount(within) !== ringCount(rim)) return true
  return regionPerimeterMm(within) < regionPerimeterMm(rim) - 4 * lineWidthMm * (1 + ringCount(rim))
}

/** Two lines nearer than this share of a width are one. */
const SAME_LINE = 0.7
/** Steps in which rings are walked, in widths. */
const STEP = 0.3
/** A line shorter than this many widths is a dot. */
const SHORTEST = 0.5

/**
 * Adds the rings of a rim, each line once: where two sides run so near that their lines would lie on each
 * other, one line runs between them, wider by the distance.
 */
function addMiddles(writer: PathWriter, kind: PathKind, rim: Region, w: number): void {
  const samples = sampled(rim, STEP * w)
  const { x, y, along, ringOf, ringLength } = samples
  const count = x.length
  const near = SAME_LINE * w
  const cell = near
  /** The sample that was put into a cell last, and for each the one that was there before it. */
  const { lastIn, placeOf } = cellPlaces(count)
  const before = new Int32Array(count).fill(-1)
  /** For each sample: the one whose line it shares, -1 when it has a line of its own. */
  const shares = new Int32Array(count).fill(-1)
  const partner = new Int32Array(count).fill(-1)
  const partnerAt = new Float64Array(count).fill(Infinity)
  for (let i = 0; i < count; i++) {
    const cx = Math.floor(x[i] / cell)
    const cy = Math.floor(y[i] / cell)
    let best = near * near
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let j = lastIn[placeOf(cx + dx, cy + dy)]; j >= 0; j = before[j]) {
          const ux = x[i] - x[j]
          const uy = y[i] - y[j]
          const d = ux * ux + uy * uy
          if (d > best || (d === best && (shares[i] < 0 || j > shares[i]))) continue
          if (ringOf[j] === ringOf[i]) {
            // A neighbour on the same ring is no other side.
            const apart = Math.abs(along[i] - along[j])
            if (Math.min(apart, ringLength[ringOf[i]] - apart) < 2 * near) continue
          }
          best = d
          shares[i] = j
        }
    if (shares[i] >= 0) {
      // The nearest of those that share it: one farther along would make it seem wider than it is.
      const sharing = shares[i]
      if (best < partnerAt[sharing]) {
        partnerAt[sharing] = best
        partner[sharing] = i
      }
      continue
    }
    const place = placeOf(cx, cy)
    before[i] = lastIn[place]
    lastIn[place] = i
  }
  const roomIn = roomWithin(samples, cell)
  // Runs of samples with a line of their own; where the other side lies near, the line moves between the two.
  for (let r = 0; r + 1 < samples.starts.length; r++) {
    const [from, to] = [samples.starts[r], samples.starts[r + 1]]
    const size = to - from
    let first = from
    while (first < to && shares[first] < 0) first++
    const whole = first === to
    const begin = whole ? from : first
    let run: number[] = []
    const end = (closed: boolean) => {
      layRun(run, closed)
      run = []
    }
    for (let n = 0; n < size; n++) {
      const i = from + ((begin - from + n) % size)
      if (shares[i] >= 0) end(false)
      else run.push(i)
    }
    end(whole)
  }

  function layRun(run: readonly number[], closed: boolean): void {
    if (run.length < 2 || (run.length - 1) * STEP < SHORTEST) return
    const points = closed ? [...run, run[0]] : run
    const xy = new Float64Array(2 * points.length)
    const flow = new Float64Array(points.length)
    points.forEach((i, n) => {
      const j = partner[i]
      xy[2 * n] = x[i]
      xy[2 * n + 1] = y[i]
      flow[n] = 1
      if (j < 0) return
      // Straight across the line: samples of the two sides do not lie right opposite each other.
      const [from, to] = [points[Math.max(0, n - 1)], points[Math.min(points.length - 1, n + 1)]]
      const [ux, uy] = [x[to] - x[from], y[to] - y[from]]
      const length = Math.sqrt(ux * ux + uy * uy) || 1
      const across = ((y[j] - y[i]) * ux - (x[j] - x[i]) * uy) / length
      const [midX, midY] = [x[i] - (uy / length) * (across / 2), y[i] + (ux / length) * (across / 2)]
      // Where the sides end or turn there may be less room than between the two samples.
      const roomMm = roomIn(midX, midY)
      if (roomMm < 0) return
      xy[2 * n] = midX
      xy[2 * n + 1] = midY
      flow[n] += Math.min(Math.abs(across), 2 * roomMm) / w
    })
    addVarying(writer, kind, xy, flow, w)
  }
}

type Samples = ReturnType<typeof sampled>

/**
 * Tells how far inside a rim a place lies that is nearer to it than half a cell; below zero when it lies
 * outside.
 */
function roomWithin({ x, y, starts }: Samples, cell: number): (px: number, py: number) => number {
  const count = x.length
  const { lastIn, placeOf } = cellPlaces(count)
  const before = new Int32Array(count)
  const next = new Int32Array(count)
  for (let r = 0; r + 1 < starts.length; r++)
    for (let i = starts[r]; i < starts[r + 1]; i++) {
      const place = placeOf(Math.floor(x[i] / cell), Math.floor(y[i] / cell))
      before[i] = lastIn[place]
      lastIn[place] = i
      next[i] = i + 1 < starts[r + 1] ? i + 1 : starts[r]
    }
  return (px, py) => {
    const [cx, cy] = [Math.floor(px / cell), Math.floor(py / cell)]
    let [best, aside] = [Infinity, 0]
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let i = lastIn[placeOf(cx + dx, cy + dy)]; i >= 0; i = before[i]) {
          const [ux, uy] = [x[next[i]] - x[i], y[next[i]] - y[i]]
          const [vx, vy] = [px - x[i], py - y[i]]
          const l2 = ux * ux + uy * uy || 1
          const t = Math.max(0, Math.min(1, (vx * ux + vy * uy) / l2))
          const d = (vx - t * ux) ** 2 + (vy - t * uy) ** 2
          // Rims run with their inside to the left; at a corner the side that is farther away tells.
          const left = (ux * vy - uy * vx) / Math.sqrt(l2)
          if (d > best + 1e-12 || (d > best - 1e-12 && Math.abs(left) <= Math.abs(aside))) continue
          best = d
          aside = left
        }
    return aside < 0 ? -Math.sqrt(best) : Math.sqrt(best)
  }
}

/** Points along rings at even steps. */
function sampled({ xyMm, starts }: Region, stepMm: number) {
  const piecesOf = (p: number, q: number) => {
    const ux = xyMm[2 * p] - xyMm[2 * q]
    const uy = xyMm[2 * p + 1] - xyMm[2 * q + 1]
    return Math.max(1, Math.ceil(Math.sqrt(ux * ux + uy * uy) / stepMm))
  }
  const ends = new Uint32Array(starts.length)
  for (let r = 0; r + 1 < starts.length; r++) {
    let count = 0
    for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++) count += piecesOf(p, q)
    ends[r + 1] = ends[r] + count
  }
  const count = ends[ends.length - 1]
  const x = new Float64Array(count)
  const y = new Float64Array(count)
  const along = new Float64Array(count)
  const ringOf = new Uint32Array(count)
  const ringLength = new Float64Array(starts.length - 1)
  let i = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    let length = 0
    for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++) {
      const ax = xyMm[2 * q]
      const ay = xyMm[2 * q + 1]
      const ux = xyMm[2 * p] - ax
      const uy = xyMm[2 * p + 1] - ay
      const side = Math.sqrt(ux * ux + uy * uy)
      const pieces = piecesOf(p, q)
      for (let k = 0; k < pieces; k++) {
        x[i] = ax + (ux * k) / pieces
        y[i] = ay + (uy * k) / pieces
        along[i] = length + (side * k) / pieces
        ringOf[i++] = r
      }
      length += side
    }
    ringLength[r] = length
  }
  return { x, y, along, ringOf, ringLength, starts: ends }
}
