import type { Placing } from '@tender/core/mesh'
import { applyPlacing } from '@tender/core/mesh'
import type { Zone, ZoneShape } from '@tender/core/overhang'
import { useLayoutEffect, useMemo, useRef } from 'react'
import { Matrix4, type InstancedMesh } from 'three'
import { usePalette } from '../../theme/useScheme'
import { isUntouched, zoneSoup } from './zoneShapes'
import { Soup } from './PartBody'

/** The maker's zones, seen through. */
export function ZoneShapes({ zones, placing }: { zones: readonly Zone[]; placing: Placing }) {
  const palette = usePalette()
  const colours = { hold: palette.stand, keepOff: palette.wine, show: palette.pine }
  return (
    <>
      {zones.map(({ id, kind, shape }) =>
        shape.kind === 'brush' ? (
          !isUntouched(shape) && <Dabs key={id} shape={shape} placing={placing} colour={colours[kind]} />
        ) : (
          <Solid key={id} shape={shape} placing={placing} colour={colours[kind]} />
        ),
      )}
    </>
  )
}

function Solid({ shape, placing, colour }: { shape: ZoneShape; placing: Placing; colour: string }) {
  const soup = useMemo(() => zoneSoup(shape, placing), [shape, placing])
  return soup && <Soup positions={soup} colour={colour} opacity={0.3} />
}

function Dabs({
  shape,
  placing,
  colour,
}: {
  shape: Extract<ZoneShape, { kind: 'brush' }>
  placing: Placing
  colour: string
}) {
  const mesh = useRef<InstancedMesh>(null)
  const count = shape.atMm.length / 3
  useLayoutEffect(() => {
    if (!mesh.current) return
    const at = applyPlacing(
      { positionsMm: Float64Array.from(shape.atMm), corners: new Uint32Array(0) },
      placing,
    ).positionsMm
    const radius = shape.radiusMm * placing.scale
    const matrix = new Matrix4()
    for (let i = 0; i < count; i++)
      mesh.current.setMatrixAt(
        i,
        matrix.makeScale(radius, radius, radius).setPosition(at[3 * i], at[3 * i + 1], at[3 * i + 2]),
      )
    mesh.current.instanceMatrix.needsUpdate = true
  }, [shape, placing, count])
  return (
    <instancedMesh
      key={count}
      ref={mesh}
      args={[undefined, undefined, count]}
      raycast={() => undefined}
      frustumCulled={false}
    >
      <sphereGeometry args={[1, 14, 10]} />
      <meshBasicMaterial color={colour} transparent opacity={0.35} depthWrite={false} />
    </instancedMesh>
  )
}
