import { usePalette } from '../../theme/useScheme'
import type { Wounds } from '../../workers/partWork'
import { LinesOver } from './LinesOver'
import { Soup } from './PartBody'

/**
 * Where a mesh is open, and which of its triangles were turned round. Drawn over everything: such places hide
 * in corners.
 */
export function WoundLines({ wounds: { openEdges, turned } }: { wounds: Wounds }) {
  const palette = usePalette()
  return (
    <>
      {openEdges.length > 0 && <LinesOver points={openEdges} colour={palette.wine} />}
      {turned.length > 0 && <Soup positions={turned} colour={palette.butter} opacity={0.6} />}
    </>
  )
}

/** Where shells lie in one another, layer by layer. */
export function OverlapLines({ outlines }: { outlines: Float32Array }) {
  return <LinesOver points={outlines} colour={usePalette().clay} />
}
