import type { Region } from '../polygon'
import { addVarying } from './addVarying'
import { cellPlaces } from './cellPlaces'
import { roomWithin, sampled, type RingSamples } from './ringSamples'
import type { PathKind, PathWriter } from './toolPaths'

/** Two lines nearer than this share of a width are one. */
const SAME_LINE = 0.7
/** Steps in which rings are walked, in widths. */
const STEP = 0.3
/** A line shorter than this many widths is a dot. */
const SHORTEST = 0.5

/**
 * Adds the rings of a rim, each line once: where two sides run so near that their lines would lie on each
 * other, one line runs between them, wider by the distance.
 * @param narrows whether two lines that have not quite enough room for both are narrower by what is missing
 */
export function addMiddles(
  writer: PathWriter,
  kind: PathKind,
  rim: Region,
  w: number,
  narrows = false,
): void {
  const samples = sampled(rim, STEP * w)
  const besideMm = narrows ? distancesAcross(samples, w) : null
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
      flow[n] = besideMm && j < 0 ? (1 + Math.min(1, besideMm[i] / w)) / 2 : 1
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

/** Of each place on a rim, how far it is to another side of it; no more than a distance is looked at. */
function distancesAcross({ x, y, along, ringOf, ringLength }: RingSamples, withinMm: number): Float64Array {
  const { lastIn, placeOf } = cellPlaces(x.length)
  const before = new Int32Array(x.length)
  const across = new Float64Array(x.length).fill(withinMm)
  for (let i = 0; i < x.length; i++) {
    const [cx, cy] = [Math.floor(x[i] / withinMm), Math.floor(y[i] / withinMm)]
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let j = lastIn[placeOf(cx + dx, cy + dy)]; j >= 0; j = before[j]) {
          const far = Math.hypot(x[i] - x[j], y[i] - y[j])
          if (far >= Math.max(across[i], across[j])) continue
          if (ringOf[j] === ringOf[i]) {
            const apart = Math.abs(along[i] - along[j])
            if (Math.min(apart, ringLength[ringOf[i]] - apart) < 2 * withinMm) continue
          }
          across[i] = Math.min(across[i], far)
          across[j] = Math.min(across[j], far)
        }
    const place = placeOf(cx, cy)
    before[i] = lastIn[place]
    lastIn[place] = i
  }
  return across
}
