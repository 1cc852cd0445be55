import { useFrame } from '@react-three/fiber'
import { useMemo, useRef } from 'react'
import type { LineSegments } from 'three'
import { usePalette } from '../../theme/useScheme'

/** A sheet of paper with a line each centimetre, a little larger than the part. */
export function Bed({ sizeMm }: { sizeMm: readonly number[] }) {
  const palette = usePalette()
  const grid = useRef<LineSegments>(null)
  // From below the bed would lie between the eye and the part.
  useFrame(({ camera }) => {
    if (grid.current) grid.current.visible = camera.position.z > 0
  })
  const half = Math.ceil((Math.max(sizeMm[0], sizeMm[1]) * 0.8 + 10) / 10) * 10
  const lines = useMemo(() => {
    const points: number[] = []
    for (let at = -half; at <= half; at += 10)
      points.push(-half, at, 0, half, at, 0, at, -half, 0, at, half, 0)
    return new Float32Array(points)
  }, [half])
  return (
    <lineSegments key={half} ref={grid} position={[0, 0, -0.02]}>
      <bufferGeometry>
        <bufferAttribute attach="attributes-position" args={[lines, 3]} />
      </bufferGeometry>
      <lineBasicMaterial color={palette.line} />
    </lineSegments>
  )
}
