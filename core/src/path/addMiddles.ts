import type { Region } from '../polygon'
import { addVarying } from './addVarying'
import { cellPlaces } from './cellPlaces'
import { roomWithin, sampled, type RingSamples } from './ringSamples'
import type { PathKind, PathWriter } from './toolPaths'

/** Two lines nearer than this share of a width are one. */
const SAME_LINE = 0.7
/** Steps in which rings are walked, in widths. */
const STEP = 0.3
/** The other side lies beside a line where so much of the way there goes straight across. */
const BESIDE = 0.8
/** A line shorter than this many widths is a dot. */
const SHORTEST = 0.5

/**
 * Adds the rings of a rim, each line once: where two sides run so near that their lines would lie on each
 * other, one line runs between them, wider by the distance.
 * @param shareTo two lines without quite enough room for both are narrower by what is missing, and wider by
 *   what is left between them, up to so many widths; undefined where they stay as they are
 */
export function addMiddles(
  writer: PathWriter,
  kind: PathKind,
  rim: Region,
  w: number,
  shareTo?: number,
): void {
  const samples = sampled(rim, STEP * w)
  const facing = shareTo === undefined ? null : sidesAcross(samples, STEP * w, (1 + shareTo) * w)
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
      const other = j < 0 && facing ? facing[i] : j
      if (other < 0) return
      // Straight across the line: samples of the two sides do not lie right opposite each other.
      const [from, to] = [points[Math.max(0, n - 1)], points[Math.min(points.length - 1, n + 1)]]
      const [ux, uy] = [x[to] - x[from], y[to] - y[from]]
      const length = Math.sqrt(ux * ux + uy * uy) || 1
      const across = ((y[other] - y[i]) * ux - (x[other] - x[i]) * uy) / length
      if (j < 0) {
        const farMm = Math.hypot(x[other] - x[i], y[other] - y[i])
        if (across < BESIDE * farMm) {
          // What lies ahead takes no room from beside it, unless it is very near.
          flow[n] = (1 + Math.min(1, farMm / w)) / 2
          return
        }
        // Its outer edge stays where it is.
        const moreMm = across - w
        flow[n] += moreMm / (2 * w)
        xy[2 * n] -= (uy / length) * (moreMm / 4)
        xy[2 * n + 1] += (ux / length) * (moreMm / 4)
        return
      }
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

/** Of each place on a rim, the nearest one of another side of what it goes round, or -1. */
function sidesAcross(
  { x, y, along, ringOf, ringLength, starts }: RingSamples,
  stepMm: number,
  withinMm: number,
): Int32Array {
  const { lastIn, placeOf } = cellPlaces(x.length)
  const before = new Int32Array(x.length)
  const facing = new Int32Array(x.length).fill(-1)
  /** So few samples before one are no other side of its ring. */
  const same = Math.floor((2 * withinMm) / stepMm)
  /** Squared. */
  const across = new Float64Array(x.length).fill(withinMm * withinMm)
  for (let i = 0; i < x.length; i++) {
    const [cx, cy] = [Math.floor(x[i] / withinMm), Math.floor(y[i] / withinMm)]
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let j = lastIn[placeOf(cx + dx, cy + dy)]; j >= 0; j = before[j]) {
          if (i - j < same && ringOf[j] === ringOf[i]) continue
          const ux = x[i] - x[j]
          const uy = y[i] - y[j]
          const far = ux * ux + uy * uy
          if (far >= across[i] && far >= across[j]) continue
          if (ringOf[j] === ringOf[i]) {
            const apart = Math.abs(along[i] - along[j])
            if (Math.min(apart, ringLength[ringOf[i]] - apart) < 2 * withinMm) continue
          }
          if (far < across[i] && isWithin(i, j)) {
            across[i] = far
            facing[i] = j
          }
          if (far < across[j] && isWithin(j, i)) {
            across[j] = far
            facing[j] = i
          }
        }
    const place = placeOf(cx, cy)
    before[i] = lastIn[place]
    lastIn[place] = i
  }
  return facing

  /** Whether one place lies on the inner side of a rim at another: to its left, not across a slot. */
  function isWithin(i: number, j: number): boolean {
    const from = i + 1 < starts[ringOf[i] + 1] ? i : i - 1
    return (x[from + 1] - x[from]) * (y[j] - y[i]) > (y[from + 1] - y[from]) * (x[j] - x[i])
  }
}
