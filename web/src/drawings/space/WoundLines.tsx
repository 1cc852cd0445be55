import { usePalette } from '../../theme/useScheme'
import type { Wounds } from '../../workers/geometry.worker'
import { Soup } from './PartBody'

/** Where a mesh is open, and which of its triangles were turned round. Drawn over everything: such places hide in corners. */
export function WoundLines({ wounds: { openEdges, turned } }: { wounds: Wounds }) {
  const palette = usePalette()
  return (
    <>
      {openEdges.length > 0 && (
        <lineSegments key={openEdges.length} raycast={() => undefined} renderOrder={2}>
          <bufferGeometry>
            <bufferAttribute attach="attributes-position" args={[openEdges, 3]} />
          </bufferGeometry>
          <lineBasicMaterial color={palette.wine} depthTest={false} />
        </lineSegments>
      )}
      {turned.length > 0 && <Soup positions={turned} colour={palette.butter} opacity={0.6} />}
    </>
  )
}
