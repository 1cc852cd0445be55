import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber'
import { useEffect, useMemo, useRef } from 'react'
import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Mesh,
  Raycaster,
  type Vector3,
  type Material,
} from 'three'
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh'
import { usePalette } from '../../theme/useScheme'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import type { Drawing } from '../../workers/partWork'
import { hachureMaterial } from './hachureMaterial'

/**
 * A place on the part: on the bed's coordinates, the way its face looks, and how much material lies behind
 * it.
 */
export type Hit = {
  readonly atMm: readonly [number, number, number]
  readonly normal: readonly [number, number, number]
  readonly thicknessMm: number | null
  readonly first: boolean
}

type Props = {
  drawing: Drawing
  limitsDeg: readonly number[]
  pointer: 'look' | 'pick' | 'brush'
  onPlace?: (hit: Hit) => void
  /** Nothing of it is drawn above this height. */
  topMm?: number | null
}

const geometryOf = (positions: Float32Array): BufferGeometry => {
  const made = new BufferGeometry()
  made.setAttribute('position', new BufferAttribute(positions, 3))
  made.computeBoundingSphere()
  return made
}

/** The part's surface. A heavy one is drawn roughly while the view moves. */
export function PartBody({ drawing, limitsDeg, pointer, onPlace, topMm = null }: Props) {
  const palette = usePalette()
  const { invalidate, gl } = useThree()
  const geometry = useMemo(() => geometryOf(drawing.positions), [drawing])
  const rough = useMemo(() => (drawing.rough ? geometryOf(drawing.rough) : null), [drawing])
  const material = useMemo(() => hachureMaterial(palette), [palette])
  const mesh = useMemo(() => {
    const made = new Mesh(geometry, material)
    made.raycast = acceleratedRaycast
    return made
  }, [geometry, material])
  const roughMesh = useMemo(() => {
    const made = rough && new Mesh(rough, material)
    if (made) made.raycast = () => undefined
    return made
  }, [rough, material])
  useFrame(() => {
    if (!roughMesh) return
    const moving = gl.domElement.dataset.moving === 'yes'
    roughMesh.visible = moving
    mesh.visible = !moving
  })
  useEffect(() => {
    material.uniforms.top.value = topMm ?? 1e9
    invalidate()
  }, [material, topMm, invalidate])
  useEffect(() => {
    material.uniforms.limits.value = [...limitsDeg]
    invalidate()
  }, [material, limitsDeg, invalidate, geometry])
  // The tree is only needed where places are asked for, and grows beside the page.
  useEffect(() => {
    if (pointer === 'look' || geometry.boundsTree) return
    let live = true
    void unwrap(filing().tree(drawing.positions)).then((tree) => {
      if (live) geometry.boundsTree = MeshBVH.deserialize(tree as never, geometry, { setIndex: false })
    })
    return () => {
      live = false
    }
  }, [pointer, geometry, drawing])
  useEffect(() => () => geometry.dispose(), [geometry])
  useEffect(() => () => rough?.dispose(), [rough])
  useEffect(() => () => material.dispose(), [material])
  const brushing = useRef(false)
  const tell = (event: ThreeEvent<PointerEvent | MouseEvent>, first: boolean) => {
    if (!event.face) return
    event.stopPropagation()
    const { point, face } = event
    onPlace?.({
      atMm: [point.x, point.y, point.z],
      normal: [face.normal.x, face.normal.y, face.normal.z],
      thicknessMm: thicknessAt(mesh, point, face.normal),
      first,
    })
  }
  if (pointer === 'look') return <Bodies mesh={mesh} rough={roughMesh} others={drawing.others} />
  return (
    <group
      // A drag that turns the view ends in a click too.
      onClick={pointer === 'pick' ? (event) => event.delta <= 4 && tell(event, true) : undefined}
      onPointerDown={
        pointer === 'brush'
          ? (event) => {
              brushing.current = true
              tell(event, true)
            }
          : undefined
      }
      onPointerMove={
        pointer === 'brush'
          ? (event) => brushing.current && event.buttons === 1 && tell(event, false)
          : undefined
      }
      onPointerUp={pointer === 'brush' ? () => (brushing.current = false) : undefined}
    >
      <Bodies mesh={mesh} rough={roughMesh} others={drawing.others} />
    </group>
  )
}

function Bodies({ mesh, rough, others }: { mesh: Mesh; rough: Mesh | null; others: Float32Array | null }) {
  const palette = usePalette()
  return (
    <>
      <primitive object={mesh} />
      {rough && <primitive object={rough} />}
      {others && <Soup positions={others} colour={palette.stand} opacity={0.55} />}
    </>
  )
}

/** Triangles in one quiet colour, seen through. */
export function Soup({
  positions,
  colour,
  opacity = 1,
}: {
  positions: Float32Array
  colour: string
  opacity?: number
}) {
  const geometry = useMemo(() => {
    const made = geometryOf(positions)
    made.computeVertexNormals()
    return made
  }, [positions])
  useEffect(() => () => geometry.dispose(), [geometry])
  return (
    <mesh geometry={geometry} raycast={() => undefined}>
      <meshBasicMaterial
        color={colour}
        transparent={opacity < 1}
        opacity={opacity}
        depthWrite={opacity === 1}
        side={DoubleSide}
      />
    </mesh>
  )
}

/** Material behind a place: from just inside it straight through to where the part ends. */
function thicknessAt(mesh: Mesh, point: Vector3, normal: Vector3): number | null {
  const inwards = normal.clone().negate()
  const ray = new Raycaster(point.clone().addScaledVector(inwards, 1e-3), inwards)
  const material = mesh.material as Material
  const before = material.side
  material.side = DoubleSide
  const [hit] = ray.intersectObject(mesh, false)
  material.side = before
  return hit ? hit.distance + 1e-3 : null
}
