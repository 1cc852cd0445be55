import { useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import { OrthographicCamera, PerspectiveCamera } from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'

/** Where one can look from: direction of the eye from the part, what it is called, and its key. */
export const STANDPOINTS = {
  corner: { from: [1, -1.35, 0.85], called: 'from a corner', key: '1' },
  front: { from: [0, -1.9, 0.12], called: 'front', key: '2' },
  side: { from: [1.9, 0, 0.12], called: 'side', key: '3' },
  above: { from: [0, -0.02, 1.9], called: 'above', key: '4' },
  below: { from: [0.55, -0.9, -1.15], called: 'from below', key: '5' },
} as const
export type Standpoint = keyof typeof STANDPOINTS

type Props = {
  sizeMm: readonly [number, number, number]
  view: {
    readonly name: Standpoint
    readonly asked: number
    readonly at: readonly [number, number, number] | null
  }
  /** The pointer draws; it is not to turn the view as well. */
  still: boolean
  onStandpoint: (name: Standpoint) => void
  onDepth: () => void
  /** The next marked place. */
  onNext: () => void
}

/** Camera and its controls: pointer, arrow keys, standpoints. */
export function Eye({ sizeMm, view, still, onStandpoint, onDepth, onNext }: Props) {
  const { camera, gl, invalidate, size } = useThree()
  const controls = useRef<OrbitControls>(null)
  const asked = useRef({ onStandpoint, onDepth, onNext })
  asked.current = { onStandpoint, onDepth, onNext }
  useEffect(() => {
    const made = new OrbitControls(camera, gl.domElement)
    made.addEventListener('change', () => invalidate())
    made.addEventListener('start', () => (gl.domElement.dataset.moving = 'yes'))
    made.addEventListener('end', () => {
      delete gl.domElement.dataset.moving
      invalidate()
    })
    gl.domElement.tabIndex = 0
    gl.domElement.setAttribute(
      'aria-label',
      'Part in space; arrow keys turn the view, plus and minus bring it nearer, 1 to 5 look from a side, 0 shows all, N goes to the next island, P takes the depth away',
    )
    gl.domElement.setAttribute('role', 'application')
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return
      const standpoint = (Object.keys(STANDPOINTS) as Standpoint[]).find(
        (name) => STANDPOINTS[name].key === event.key,
      )
      const turn: Record<string, [number, number, number]> = {
        ArrowLeft: [-0.15, 0, 1],
        ArrowRight: [0.15, 0, 1],
        ArrowUp: [0, -0.12, 1],
        ArrowDown: [0, 0.12, 1],
        '+': [0, 0, 0.87],
        '-': [0, 0, 1.15],
      }
      if (standpoint) asked.current.onStandpoint(standpoint)
      else if (event.key === '0') asked.current.onStandpoint('corner')
      else if (event.key === 'p' || event.key === 'P') asked.current.onDepth()
      else if (event.key === 'n' || event.key === 'N') asked.current.onNext()
      else if (event.key in turn) {
        const [around, up, zoom] = turn[event.key]
        const offset = camera.position.clone().sub(made.target)
        const length = offset.length() * (camera instanceof OrthographicCamera ? 1 : zoom)
        const azimuth = Math.atan2(offset.y, offset.x) + around
        const polar = Math.min(3.1, Math.max(0.04, Math.acos(offset.z / offset.length()) + up))
        camera.position.set(
          made.target.x + length * Math.sin(polar) * Math.cos(azimuth),
          made.target.y + length * Math.sin(polar) * Math.sin(azimuth),
          made.target.z + length * Math.cos(polar),
        )
        if (camera instanceof OrthographicCamera) {
          camera.zoom /= zoom
          camera.updateProjectionMatrix()
        }
        made.update()
        invalidate()
      } else return
      event.preventDefault()
    }
    gl.domElement.addEventListener('keydown', onKey)
    controls.current = made
    return () => {
      gl.domElement.removeEventListener('keydown', onKey)
      made.dispose()
    }
  }, [camera, gl, invalidate])
  useEffect(() => {
    if (controls.current) controls.current.enabled = !still
  }, [still, camera])
  const whole = Math.hypot(...sizeMm)
  const middle = sizeMm[2] / 2
  const narrow = size.width < size.height
  useEffect(() => {
    const [x, y, z] = STANDPOINTS[view.name].from
    const target = view.at ?? [0, 0, middle]
    const near = view.at ? 0.45 : 1
    // A place is looked at from a little below: undersides are what one jumps to.
    const from = view.at ? [0.6, -1.2, -0.55] : [x, y, z]
    const reach = (whole * 1.95 * near * (narrow ? 1.4 : 1)) / Math.hypot(from[0], from[1], from[2])
    camera.position.set(target[0] + from[0] * reach, target[1] + from[1] * reach, target[2] + from[2] * reach)
    if (camera instanceof OrthographicCamera) {
      camera.zoom = Math.min(size.width, size.height) / (whole * 1.05 * near)
      camera.updateProjectionMatrix()
    } else if (camera instanceof PerspectiveCamera) camera.updateProjectionMatrix()
    controls.current?.target.set(target[0], target[1], target[2])
    controls.current?.update()
    invalidate()
  }, [camera, invalidate, whole, middle, view, narrow, size.width, size.height])
  return null
}
