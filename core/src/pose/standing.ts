import { meshBounds, type Mesh } from '../mesh'
import { degrees } from '../units'
import { massCentre } from './massCentre'

/** How a part stands on the bed by itself. */
export type Standing = {
  /** Of the outline around everything that touches the bed. */
  readonly footprintMm2: number
  /** From below the centre of mass to the nearest edge of the footprint; negative when it lies outside. */
  readonly leverMm: number
  /** How far it can be tilted before it falls. */
  readonly tipDeg: number
  readonly verdict: 'stands' | 'wobbly' | 'falls'
}

/** Vertices lower than this touch the bed: a part of a first layer. */
export const TOUCHES_MM = 0.05
/** Below this tilt the push of a nozzle over a curled edge may throw it. */
const WOBBLY_DEG = 12

/** @param mesh as it lies, its lowest point at z = 0 */
export function standingOf(mesh: Mesh): Standing {
  const { positionsMm: p, corners } = mesh
  const touching: [number, number][] = []
  const seen = new Uint8Array(p.length / 3)
  for (const v of corners) {
    if (seen[v]) continue
    seen[v] = 1
    if (p[3 * v + 2] <= TOUCHES_MM) touching.push([p[3 * v], p[3 * v + 1]])
  }
  const { centre } = massCentre(mesh)
  return standingOn(touching, centre, centre[2] - meshBounds(mesh).min[2])
}

/** The same from the points on the bed, and where the centre of mass is. */
export function standingOn(
  touching: readonly (readonly [number, number])[],
  centre: readonly number[],
  centreHeightMm: number,
): Standing {
  const outline = hullOutline(touching)
  const footprintMm2 = areaOf(outline)
  let leverMm = Infinity
  for (let i = 0; i < outline.length; i++) {
    const [ax, ay] = outline[i]
    const [bx, by] = outline[(i + 1) % outline.length]
    const length = Math.hypot(bx - ax, by - ay)
    // Left of a counter-clockwise side is inside.
    if (length > 0)
      leverMm = Math.min(leverMm, ((bx - ax) * (centre[1] - ay) - (by - ay) * (centre[0] - ax)) / length)
  }
  if (outline.length < 3) leverMm = 0
  const tipDeg = degrees(Math.atan2(leverMm, Math.max(1e-9, centreHeightMm)))
  const verdict = leverMm <= 0 || footprintMm2 < 1 ? 'falls' : tipDeg < WOBBLY_DEG ? 'wobbly' : 'stands'
  return { footprintMm2, leverMm, tipDeg, verdict }
}

/** What a maker should know of how it stands. */
export function standingSentence({ verdict, tipDeg, footprintMm2, leverMm }: Standing): string {
  const foot = `${footprintMm2 < 100 ? footprintMm2.toPrecision(2) : Math.round(footprintMm2)} mm² on the bed`
  if (footprintMm2 < 1)
    return 'It touches the bed in points or a line only, and needs holding to stand at all.'
  if (verdict === 'falls')
    return `${foot}, but its weight lies ${Math.abs(leverMm).toFixed(1)} mm beside them: alone it falls over.`
  if (verdict === 'wobbly')
    return `${foot}; a tilt of ${tipDeg.toFixed(0)}° throws it. A brim, a footing or another pose makes it safe.`
  return `${foot}; it stands until tilted by ${tipDeg.toFixed(0)}°.`
}

/** Convex outline, counter-clockwise. Source: monotone chain. */
function hullOutline(points: readonly (readonly [number, number])[]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  const half = (list: readonly (readonly [number, number])[]) => {
    const chain: [number, number][] = []
    for (const [x, y] of list) {
      while (chain.length >= 2) {
        const [a, b] = [chain[chain.length - 2], chain[chain.length - 1]]
        if ((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]) > 0) break
        chain.pop()
      }
      chain.push([x, y])
    }
    chain.pop()
    return chain
  }
  return [...half(sorted), ...half([...sorted].reverse())]
}

const areaOf = (outline: readonly (readonly [number, number])[]) =>
  outline.reduce((sum, [x, y], i) => {
    const [nx, ny] = outline[(i + 1) % outline.length]
    return sum + (x * ny - nx * y) / 2
  }, 0)
