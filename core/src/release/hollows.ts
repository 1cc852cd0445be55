import { groups } from '../groups'
import {
  boundsOf,
  boxRegion,
  containment,
  isEmptyRegion,
  regionFromRings,
  ringOf,
  splitPieces,
  wereApart,
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

const RIM_MM = 1

/**
 * Rooms that are shut on all sides, told by layers alone: what one layer leaves free is one with what the
 * next one does where both overlap. They are open where the part lay on the bed.
 * @param layers from the bed up
 */
export function hollowsOf(layers: readonly Filled[]): Hollows {
  const frees = freesOf(layers)
  const { add, unite, areOne, rootOf } = groups()
  const outside = add()
  const numbers = frees.map(({ inside }) => inside.map(add))
  for (let k = 0; k <= layers.length; k++) {
    const [below, above] = [frees[k - 1], frees[k]]
    const [own, others] = [numbers[k - 1] ?? [], numbers[k] ?? []]
    if (below === above) own.forEach((one, n) => unite(one, others[n]))
    else {
      own.forEach((one, n) => join(one, outside, below.inside[n], above?.around))
      others.forEach((other, n) => join(other, outside, above.inside[n], below?.around))
      own.forEach((one, n) =>
        others.forEach((other, m) => join(one, other, below.inside[n], above.inside[m])),
      )
    }
  }
  const isOpen = numbers.every((own) => own.every((one) => areOne(one, outside)))
  return {
    isShut(x, y, z) {
      const k = isOpen ? -1 : layers.findIndex(({ topMm }) => topMm > z)
      if (k < 0) return false
      const n = frees[k].inside.findIndex((region) => containment(region)(x, y))
      return n >= 0 && rootOf(numbers[k][n]) !== rootOf(outside)
    },
  }

  /** @param other nothing where no layer is: all is free there */
  function join(a: number, b: number, one: Region, other: Region | undefined): void {
    if (!areOne(a, b) && !(other && wereApart(one, other))) unite(a, b)
  }
}

/** What each layer leaves free; one and the same for layers that are alike. */
function freesOf(layers: readonly Filled[]): Free[] {
  const { fromMm, toMm } = extentOf(layers)
  const [[minX, minY], [maxX, maxY]] = [fromMm, toMm]
  const all = boxRegion({ minX, minY, maxX, maxY }, RIM_MM)
  const known = new Map<Region, Free>()
  return layers.map(({ region }) => {
    const free = known.get(region) ?? freeOf(region, all)
    known.set(region, free)
    return free
  })
}

function freeOf(region: Region, all: Region): Free {
  if (isEmptyRegion(region)) return { around: all, inside: [] }
  const rings = region.starts.length - 1
  const turned = Array.from({ length: rings }, (_, r) => backwards(ringOf(region, r)))
  const left = boundsOf(all.xyMm).minX
  const pieces = splitPieces(regionFromRings([all.xyMm, ...turned]))
  const isAround = ({ xyMm }: Region) => boundsOf(xyMm).minX === left
  return { around: pieces.find(isAround)!, inside: pieces.filter((piece) => !isAround(piece)) }
}

function backwards(ring: ArrayLike<number>): Float64Array {
  const turned = new Float64Array(ring.length)
  for (let p = 0; p < ring.length; p += 2) turned.set([ring[p], ring[p + 1]], ring.length - 2 - p)
  return turned
}
