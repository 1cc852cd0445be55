import { Canvas, useFrame, useThree, type ThreeEvent } from '@react-three/fiber'
import { useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { BufferAttribute, BufferGeometry, type LineSegments, Mesh, PerspectiveCamera } from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh'
import { usePalette } from '../theme/useScheme'
import { Button } from '../ui/Button'
import type { Drawing } from '../workers/geometry.worker'
import { hachureMaterial } from './hachureMaterial'

const VIEWS = { corner: [1, -1.35, 0.85], front: [0, -1.9, 0.12], side: [1.9, 0, 0.12], below: [0.55, -0.9, -1.15] } as const
type ViewName = keyof typeof VIEWS

type Props = { drawing: Drawing; limitDeg: number; says: string; picking: boolean; onPick: (normal: [number, number, number]) => void }

/** The posed part on its bed, to be turned about. While picking, a click gives the outward normal of the face. */
export function SolidView({ drawing, limitDeg, says, picking, onPick }: Props) {
  const [view, setView] = useState<{ name: ViewName; asked: number }>({ name: 'corner', asked: 0 })
  return (
    <Stage role="group" aria-label={says} data-picking={picking || undefined}>
      <Canvas
        frameloop="demand"
        camera={{ fov: 32, near: 0.5, far: 6000, up: [0, 0, 1] }}
        dpr={[1, 2]}
        fallback={<p>This browser cannot draw in 3D; the plan’s section and layers still show everything.</p>}
      >
        <Bed drawing={drawing} />
        <Body drawing={drawing} limitDeg={limitDeg} picking={picking} onPick={onPick} />
        <View drawing={drawing} view={view} />
      </Canvas>
      <Standpoints>
        {(Object.keys(VIEWS) as ViewName[]).map((name) => (
          <Button key={name} onPress={() => setView((before) => ({ name, asked: before.asked + 1 }))}>
            {name === 'below' ? 'from below' : name === 'corner' ? 'from a corner' : name === 'front' ? 'front' : 'side'}
          </Button>
        ))}
      </Standpoints>
    </Stage>
  )
}

function Body({ drawing, limitDeg, picking, onPick }: Pick<Props, 'drawing' | 'limitDeg' | 'picking' | 'onPick'>) {
  const palette = usePalette()
  const geometry = useMemo(() => {
    const made = new BufferGeometry()
    made.setAttribute('position', new BufferAttribute(drawing.positions, 3))
    made.computeBoundingSphere()
    return made
  }, [drawing])
  const material = useMemo(() => hachureMaterial(palette, 0), [palette])
  const mesh = useMemo(() => {
    const made = new Mesh(geometry, material)
    made.raycast = acceleratedRaycast
    return made
  }, [geometry, material])
  const { invalidate } = useThree()
  useEffect(() => {
    material.uniforms.limit.value = limitDeg
    invalidate()
  }, [material, limitDeg, invalidate, geometry])
  useEffect(() => {
    // The tree is only needed for picking, and costs more than drawing does.
    if (picking && !geometry.boundsTree) geometry.boundsTree = new MeshBVH(geometry)
  }, [picking, geometry])
  useEffect(() => () => geometry.dispose(), [geometry])
  useEffect(() => () => material.dispose(), [material])
  const pick = (event: ThreeEvent<MouseEvent>) => {
    // A drag that turns the view ends in a click too.
    if (!picking || event.delta > 4 || !event.face) return
    event.stopPropagation()
    onPick([event.face.normal.x, event.face.normal.y, event.face.normal.z])
  }
  return <primitive object={mesh} onClick={picking ? pick : undefined} />
}

/** A sheet of paper with a line each centimetre, a little larger than the part. */
function Bed({ drawing }: { drawing: Drawing }) {
  const palette = usePalette()
  const grid = useRef<LineSegments>(null)
  // From below the bed would lie between the eye and the part.
  useFrame(({ camera }) => {
    if (grid.current) grid.current.visible = camera.position.z > 0
  })
  const half = Math.ceil((Math.max(drawing.sizeMm[0], drawing.sizeMm[1]) * 0.8 + 10) / 10) * 10
  const lines = useMemo(() => {
    const points: number[] = []
    for (let at = -half; at <= half; at += 10) points.push(-half, at, 0, half, at, 0, at, -half, 0, at, half, 0)
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

function View({ drawing, view }: { drawing: Drawing; view: { name: ViewName; asked: number } }) {
  const { camera, gl, invalidate } = useThree()
  const controls = useRef<OrbitControls>(null)
  useEffect(() => {
    const made = new OrbitControls(camera, gl.domElement)
    made.addEventListener('change', () => invalidate())
    gl.domElement.tabIndex = 0
    gl.domElement.setAttribute('aria-label', 'Part in space; arrow keys turn the view, plus and minus bring it nearer')
    gl.domElement.setAttribute('role', 'application')
    const onKey = (event: KeyboardEvent) => {
      const turn: Record<string, [number, number, number]> = {
        ArrowLeft: [-0.15, 0, 1],
        ArrowRight: [0.15, 0, 1],
        ArrowUp: [0, -0.12, 1],
        ArrowDown: [0, 0.12, 1],
        '+': [0, 0, 0.87],
        '-': [0, 0, 1.15],
      }
      if (!(event.key in turn)) return
      event.preventDefault()
      const [around, up, zoom] = turn[event.key]
      const offset = camera.position.clone().sub(made.target)
      const length = offset.length() * zoom
      const azimuth = Math.atan2(offset.y, offset.x) + around
      const polar = Math.min(3.1, Math.max(0.04, Math.acos(offset.z / offset.length()) + up))
      camera.position.set(made.target.x + length * Math.sin(polar) * Math.cos(azimuth), made.target.y + length * Math.sin(polar) * Math.sin(azimuth), made.target.z + length * Math.cos(polar))
      made.update()
      invalidate()
    }
    gl.domElement.addEventListener('keydown', onKey)
    controls.current = made
    return () => {
      gl.domElement.removeEventListener('keydown', onKey)
      made.dispose()
    }
  }, [camera, gl, invalidate])
  const size = Math.hypot(...drawing.sizeMm)
  const middle = drawing.sizeMm[2] / 2
  useEffect(() => {
    const [x, y, z] = VIEWS[view.name]
    const reach = (size * (camera instanceof PerspectiveCamera && camera.aspect < 1 ? 1.4 : 1)) / Math.hypot(x, y, z) // prettier-ignore
    camera.position.set(x * reach * 1.95, y * reach * 1.95, middle + z * reach * 1.95)
    controls.current?.target.set(0, 0, middle)
    controls.current?.update()
    invalidate()
  }, [camera, invalidate, size, middle, view])
  return null
}

const Stage = styled.div`
  position: relative;
  height: 100%;
  min-height: 340px;
  &[data-picking] canvas {
    cursor: crosshair;
  }
`
const Standpoints = styled.div`
  position: absolute;
  left: ${({ theme }) => theme.space.m};
  bottom: ${({ theme }) => theme.space.m};
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`
