import { useMemo } from 'react'
import { usePalette } from '../../theme/useScheme'
import type { NeedsReport } from '../../workers/partWork'
import { LinesOver } from './LinesOver'

/**
 * Every bridge as its span, from carrier to carrier: those that stay free in green, those that are held in
 * red.
 */
export function BridgeLines({ bridges }: { bridges: NeedsReport['bridges'] }) {
  const palette = usePalette()
  const [free, held] = useMemo(
    () => [true, false].map((wanted) => spansOf(bridges.filter((bridge) => bridge.free === wanted))),
    [bridges],
  )
  return (
    <>
      {free.length > 0 && <LinesOver points={free} colour={palette.pine} onlySeen />}
      {held.length > 0 && <LinesOver points={held} colour={palette.wine} onlySeen />}
    </>
  )
}

/** Lines lie this far below what they run along, so that it does not swallow them. */
const BELOW_MM = 0.15

function spansOf(bridges: NeedsReport['bridges']): Float32Array {
  return Float32Array.from(
    bridges.flatMap(({ atMm: [x, y, z], spanMm, directionDeg }) => {
      const [dx, dy] = [
        (Math.cos((directionDeg * Math.PI) / 180) * spanMm) / 2,
        (Math.sin((directionDeg * Math.PI) / 180) * spanMm) / 2,
      ]
      return [x - dx, y - dy, z - BELOW_MM, x + dx, y + dy, z - BELOW_MM]
    }),
  )
}
