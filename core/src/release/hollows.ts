import {
  areApart,
  boundsOf,
  boundsOverlap,
  boxOf,
  boxRegion,
  isEmptyRegion,
  regionContains,
  regionFromRings,
  ringCount,
  ringOf,
  splitPieces,
  type Region,
} from '../polygon'
import { extentOf } from './extent'
import type { Filled } from './standCells'

/** Room inside a part that no way leads to, however narrow. */
export type Hollows = {
  /** Whether a place lies in such a room; not in the part itself. */
  isShut(x: number, y: number, z: number): boolean
}

/** What a layer leaves free: all around it, and inside it. */
type Free = { readonly around: Region; readonly inside: readonly Region[] }
/** Something free inside a layer, by the numbers of both. */
type Spot = readonly [layer: number, inside: number]

const RIM_MM = 1

/**
 * Rooms that are shut on all sides, told by layers alone: what one layer leaves free is one with what the
 * next one does where both overlap. They are open where the part lay on the bed.
 * @param layers from the bed up
 */
export function hollowsOf(layers: readonly Filled[]): Hollows {
  const freeAt = freesOf(layers)
  /** Of what was looked through whether it is shut. */
  const known = layers.map((): (boolean | undefined)[] => [])
  return {
    isShut(x, y, z) {
      const k = layers.findIndex(({ topMm }) => topMm > z)
      if (k < 0) return false
      const n = freeAt(k).inside.findIndex((region) => {
        const { minX, minY, maxX, maxY } = boxOf(region)
        return x >= minX && x <= maxX && y >= minY && y <= maxY && regionContains(region, x, y)
      })
      return n >= 0 && (known[k][n] ?? lookedThrough([k, n]))
    },
  }

  /** Goes through all that is one with something, until that is open. */
  function lookedThrough(start: Spot): boolean {
    const seen = [start]
    known[start[0]][start[1]] = true
    let isShut = true
    for (let q = 0; q < seen.length && isShut; q++)
      for (const k of [seen[q][0] - 1, seen[q][0] + 1]) isShut &&= !leadsOutside(seen[q], k, seen)
    for (const [k, n] of seen) known[k][n] = isShut
    return isShut
  }

  /** Whether something is open towards a layer beside it; what is one with it there is put to the rest. */
  function leadsOutside([from, n]: Spot, k: number, seen: Spot[]): boolean {
    if (k < 0 || k >= layers.length) return true
    const [own, beside] = [freeAt(from), freeAt(k)]
    const region = own.inside[n]
    if (own !== beside && !areApart(region, beside.around)) return true
    const box = boxOf(region)
    return beside.inside.some((other, m) => {
      const isOne = own === beside ? m === n : boundsOverlap(box, boxOf(other), 0) && !areApart(region, other)
      if (!isOne) return false
      const before = known[k][m]
      if (before === undefined) {
        known[k][m] = true
        seen.push([k, m])
      }
      return before === false
    })
  }
}

/** What a layer leaves free; one and the same for layers that are alike. */
function freesOf(layers: readonly Filled[]): (k: number) => Free {
  const { fromMm, toMm } = extentOf(layers)
  const [[minX, minY], [maxX, maxY]] = [fromMm, toMm]
  const all = boxRegion({ minX, minY, maxX, maxY }, RIM_MM)
  const known = new Map<Region, Free>()
  return (k) => {
    const { region } = layers[k]
    const free = known.get(region) ?? freeOf(region, all)
    known.set(region, free)
    return free
  }
}

function freeOf(region: Region, all: Region): Free {
  if (isEmptyRegion(region)) return { around: all, inside: [] }
  const turned = Array.from({ length: ringCount(region) }, (_, r) => backwards(ringOf(region, r)))
  const left = boundsOf(all.xyMm).minX
  const pieces = splitPieces(regionFromRings([all.xyMm, ...turned]))
  const isAround = (piece: Region) => boxOf(piece).minX === left
  return { around: pieces.find(isAround)!, inside: pieces.filter((piece) => !isAround(piece)) }
}

function backwards(ring: ArrayLike<number>): Float64Array {
  const turned = new Float64Array(ring.length)
  for (let p = 0; p < ring.length; p += 2) turned.set([ring[p], ring[p + 1]], ring.length - 2 - p)
  return turned
}
