import type { Region } from './region'
import { sideBands } from './sideBands'

type Contains = (x: number, y: number) => boolean

const known = new WeakMap<Region, Contains>()

/** Whether places lie in a region, as `regionContains` tells, for many places of the same one. */
export function containment(region: Region): Contains {
  let contains = known.get(region)
  if (!contains) known.set(region, (contains = byBands(region)))
  return contains
}

function byBands(region: Region): Contains {
  const { xyMm } = region
  const { from, to, bandAt, starts, sides } = sideBands(region, 1)
  return (x, y) => {
    if (!(y >= from && y <= to)) return false
    const band = bandAt(y)
    let inside = false
    for (let i = starts[band]; i < starts[band + 1]; i += 2) {
      const p = sides[i]
      const q = sides[i + 1]
      const py = xyMm[p + 1]
      const qy = xyMm[q + 1]
      if (py > y !== qy > y && x < ((xyMm[q] - xyMm[p]) * (y - py)) / (qy - py) + xyMm[p]) inside = !inside
    }
    return inside
  }
}
