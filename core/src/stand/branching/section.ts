import { regionFromRings, type Region } from '../../polygon'

/** A branch where a level cuts it, before anything is cut off it. */
export type Section = {
  readonly x: number
  readonly y: number
  /** How far it reaches. */
  readonly radius: number
  /** What it is where it is not round: a convex region. */
  readonly crown: Region | null
  /** Whether it meets nothing: then it is just as it is told here, and in no region. */
  alone: boolean
  /** The same branch one level down. */
  below: Section | null
  stands: boolean
  /** Whether it leads up to something that is held. */
  needed: boolean
}

const CORNERS = 16
const [COS, SIN] = cornersOf(CORNERS)
/** A nozzle slows down at each corner: lines have more of them, and stay within the flat sides. */
const LINE_CORNERS = 2 * CORNERS
const LINE_SHARE = Math.cos(Math.PI / CORNERS)
const [LINE_COS, LINE_SIN] = cornersOf(LINE_CORNERS)

function cornersOf(count: number): [number[], number[]] {
  const turns = Array.from({ length: count }, (_, n) => (2 * Math.PI * n) / count)
  return [turns.map(Math.cos), turns.map(Math.sin)]
}

const known = new Map<string, Region>()
const MOST_KNOWN = 20_000

/** A round shape with so many corners; the same one for the same place and radius. */
export function disc(x: number, y: number, radiusMm: number): Region {
  const key = `${x.toFixed(4)} ${y.toFixed(4)} ${radiusMm.toFixed(4)}`
  let found = known.get(key)
  if (!found) {
    if (known.size >= MOST_KNOWN) known.clear()
    found = regionFromRings([roundRing(x, y, radiusMm)])
    known.set(key, found)
  }
  return found
}

/** All of a section. */
export const regionOf = ({ x, y, radius, crown }: Section): Region => crown ?? disc(x, y, radius)

const joined = new WeakMap<Float64Array, Region>()

/** Round sections, given as x, y, radius by turns, as one region; they must not meet. */
export function discsOf(rounds: Float64Array): Region {
  let region = joined.get(rounds)
  if (!region) {
    const rings: number[][] = []
    for (let i = 0; i < rounds.length; i += 3) rings.push(roundRing(rounds[i], rounds[i + 1], rounds[i + 2]))
    joined.set(rounds, (region = regionFromRings(rings)))
  }
  return region
}

/** Corners of a round shape, x and y by turns. */
export const roundRing = (x: number, y: number, radiusMm: number): number[] =>
  ringOf(x, y, radiusMm, COS, SIN)

/** A line around within a round shape of that radius, so far inside its flat sides. */
export const roundLine = (x: number, y: number, radiusMm: number, insideMm: number): number[] =>
  ringOf(x, y, LINE_SHARE * radiusMm - insideMm, LINE_COS, LINE_SIN)

function ringOf(x: number, y: number, radiusMm: number, cos: number[], sin: number[]): number[] {
  const ring = new Array<number>(2 * cos.length)
  for (let n = 0; n < cos.length; n++) {
    ring[2 * n] = x + radiusMm * cos[n]
    ring[2 * n + 1] = y + radiusMm * sin[n]
  }
  return ring
}
