import { useMemo } from 'react'
import { three } from '../../format/numbers'
import { usePalette } from '../../theme/useScheme'
import type { Hit } from './PartBody'

/** Points that were measured, and the way between them. */
export function Measured({ hits }: { hits: readonly Hit[] }) {
  const palette = usePalette()
  const line = useMemo(
    () => (hits.length === 2 ? Float32Array.from(hits.flatMap(({ atMm }) => [...atMm])) : null),
    [hits],
  )
  return (
    <>
      {hits.map(({ atMm }, i) => (
        <mesh key={i} position={[atMm[0], atMm[1], atMm[2]]} raycast={() => undefined}>
          <sphereGeometry args={[0.6, 12, 8]} />
          <meshBasicMaterial color={palette.damson} depthTest={false} />
        </mesh>
      ))}
      {line && (
        <lineSegments key={line.join()}>
          <bufferGeometry>
            <bufferAttribute attach="attributes-position" args={[line, 3]} />
          </bufferGeometry>
          <lineBasicMaterial color={palette.damson} depthTest={false} />
        </lineSegments>
      )}
    </>
  )
}

/** What was measured, in words. */
export function measuredSentence(hits: readonly Hit[]): string {
  if (hits.length === 0)
    return 'Click a place on the part; a second one gives the distance and the angle between.'
  const [a, b] = hits
  const thick = (hit: Hit) =>
    hit.thicknessMm === null ? 'open behind' : `${three(hit.thicknessMm)} mm thick`
  if (!b)
    return `${a.atMm[2].toFixed(2)} mm up, ${thick(a)} here, leaning ${leanOf(a)}° from vertical. Click a second place.`
  const distance = Math.hypot(...a.atMm.map((value, axis) => value - b.atMm[axis]))
  const cosine = a.normal.reduce((sum, value, axis) => sum + value * b.normal[axis], 0)
  return `${three(distance)} mm apart (${a.atMm.map((value, axis) => three(Math.abs(value - b.atMm[axis]))).join(', ')} along x, y, z); the faces turn by ${Math.round((Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI)}°; ${thick(b)} there.`
}

/** Negative where the face looks up. */
const leanOf = ({ normal }: Hit) =>
  Math.round((Math.asin(Math.min(1, Math.max(-1, -normal[2]))) * 180) / Math.PI)
