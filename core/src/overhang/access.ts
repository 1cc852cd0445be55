import { boundsOf, crossesSides, crossingsOf, headingOf, regionContains, type Region } from '../polygon'
import type { Layer } from '../slice'
import type { Access } from './patches'

/** A tool comes in this far below the underside. */
const BELOW_MM = 1.5
const WAYS = 16
const OPEN_WAYS = 5

/** From how many sides straight ways lead out, just below an underside. */
export function accessTo(layerIndex: number, underside: Region, layers: readonly Layer[]): Access {
  let index = layerIndex - 1
  while (index > 0 && layers[layerIndex].bottomMm - layers[index].bottomMm < BELOW_MM) index--
  const below = layers[Math.max(0, index)].region
  const from = innerPoint(underside)
  if (!from) return 'open'
  const box = boundsOf(below.xyMm)
  const far = Math.hypot(box.maxX - box.minX, box.maxY - box.minY) + Math.hypot(from[0], from[1]) + 1
  let free = 0
  for (let k = 0; k < WAYS; k++) {
    const angle = (2 * Math.PI * (k + 0.5)) / WAYS
    if (!meets(below, from, [from[0] + far * Math.cos(angle), from[1] + far * Math.sin(angle)])) free++
  }
  return free >= OPEN_WAYS ? 'open' : free > 0 ? 'narrow' : 'closed'
}

const LEVEL = headingOf(0)

/** A point inside: the middle of the widest stretch on one of a few level lines. */
function innerPoint(region: Region): [number, number] | null {
  const box = boundsOf(region.xyMm)
  let best: [number, number] | null = null
  let widest = 0
  for (const share of [0.5, 0.27, 0.73, 0.11, 0.89]) {
    const y = box.minY + share * (box.maxY - box.minY)
    const at = crossingsOf(region, LEVEL, y)
    for (let i = 0; i + 1 < at.length; i += 2)
      if (at[i + 1] - at[i] > widest) {
        widest = at[i + 1] - at[i]
        best = [(at[i] + at[i + 1]) / 2, y]
      }
  }
  return best
}

/** Whether a straight way meets a region. */
const meets = (
  region: Region,
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
): boolean => regionContains(region, x0, y0) || crossesSides(region, x0, y0, x1, y1)
