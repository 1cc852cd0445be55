import type { Region } from '../polygon'
import { cellPlaces } from './cellPlaces'

/** Places along rings. */
export type RingSamples = {
  readonly x: Float64Array
  readonly y: Float64Array
  /** How far each lies along its ring, and which ring that is. */
  readonly along: Float64Array
  readonly ringOf: Uint32Array
  /** Per ring. */
  readonly ringLength: Float64Array
  readonly starts: Uint32Array
}

/** Points along rings at even steps. */
export function sampled({ xyMm, starts }: Region, stepMm: number): RingSamples {
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

/**
 * Tells how far inside a rim a place lies that is nearer to it than half a cell; below zero when it lies
 * outside.
 */
export function roomWithin(
  { x, y, starts }: Pick<RingSamples, 'x' | 'y' | 'starts'>,
  cell: number,
): (px: number, py: number) => number {
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
    const cx = Math.floor(px / cell)
    const cy = Math.floor(py / cell)
    let best = Infinity
    let aside = 0
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let i = lastIn[placeOf(cx + dx, cy + dy)]; i >= 0; i = before[i]) {
          const ax = x[i]
          const ay = y[i]
          const ux = x[next[i]] - ax
          const uy = y[next[i]] - ay
          const vx = px - ax
          const vy = py - ay
          const l2 = ux * ux + uy * uy || 1
          const t = Math.max(0, Math.min(1, (vx * ux + vy * uy) / l2))
          const ox = vx - t * ux
          const oy = vy - t * uy
          const d = ox * ox + oy * oy
          if (d > best + 1e-12) continue
          // Rims run with their inside to the left; at a corner the side that is farther away tells.
          const left = (ux * vy - uy * vx) / Math.sqrt(l2)
          if (d > best - 1e-12 && Math.abs(left) <= Math.abs(aside)) continue
          best = d
          aside = left
        }
    return aside < 0 ? -Math.sqrt(best) : Math.sqrt(best)
  }
}
