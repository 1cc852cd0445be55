import { boxMesh, cylinderMesh, type Zone, type ZoneShape } from '@tender/core/overhang'
import { applyPlacing, type Placing } from '@tender/core/mesh'

const MOST_DABS = 3000

/** The zones with one more dab of a brush; dabs nearer than half a radius to the last add nothing. */
export function withDab(
  zones: readonly Zone[],
  zoneId: string,
  at: readonly [number, number, number],
): readonly Zone[] {
  return zones.map((zone) => {
    if (zone.id !== zoneId || zone.shape.kind !== 'brush' || zone.shape.atMm.length >= 3 * MOST_DABS)
      return zone
    const { radiusMm, atMm } = zone.shape
    const first = atMm.length === 3 && atMm.every((value) => value === FAR)
    const n = atMm.length
    if (
      !first &&
      n >= 3 &&
      Math.hypot(atMm[n - 3] - at[0], atMm[n - 2] - at[1], atMm[n - 1] - at[2]) < radiusMm / 2
    )
      return zone
    return { ...zone, shape: { ...zone.shape, atMm: first ? [...at] : [...atMm, ...at] } }
  })
}

/** A brush that has not touched the part yet has its one dab where no part is. */
const FAR = -90_000
export const NO_DAB = [FAR, FAR, FAR]

export const isUntouched = (shape: ZoneShape): boolean => shape.kind === 'brush' && shape.atMm[0] === FAR

/** A zone's surface as it lies, to be drawn; brushes and bodies are drawn otherwise. */
export function zoneSoup(shape: ZoneShape, placing: Placing): Float32Array | null {
  if (shape.kind !== 'box' && shape.kind !== 'cylinder') return null
  const { positionsMm, corners } = applyPlacing(
    shape.kind === 'box' ? boxMesh(shape.minMm, shape.maxMm) : cylinderMesh(shape),
    placing,
  )
  const soup = new Float32Array(corners.length * 3)
  corners.forEach((v, c) => soup.set(positionsMm.subarray(3 * v, 3 * v + 3), 3 * c))
  return soup
}
