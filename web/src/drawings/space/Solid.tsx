import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color, DoubleSide, MeshBasicMaterial, Plane, Vector3 } from 'three'

/** Where the light comes from, as on the part. */
const LIGHT = new Vector3(0.4, -0.7, 0.6).normalize()

/** Triangles in one colour, each as bright as it is lit; nothing of them above a height when there is one. */
export function Solid({
  positions,
  colour,
  topMm = null,
}: {
  positions: Float32Array
  colour: string
  topMm?: number | null
}) {
  const { gl, invalidate } = useThree()
  const geometry = useMemo(() => litGeometry(positions, new Color(colour)), [positions, colour])
  const material = useMemo(() => new MeshBasicMaterial({ vertexColors: true, side: DoubleSide }), [])
  useEffect(() => {
    gl.localClippingEnabled = true
    material.clippingPlanes = topMm === null ? null : [new Plane(new Vector3(0, 0, -1), topMm)]
    material.needsUpdate = true
    invalidate()
  }, [gl, material, topMm, invalidate])
  useEffect(() => () => geometry.dispose(), [geometry])
  useEffect(() => () => material.dispose(), [material])
  return <mesh geometry={geometry} material={material} raycast={() => undefined} />
}

function litGeometry(positions: Float32Array, colour: Color): BufferGeometry {
  const made = new BufferGeometry()
  made.setAttribute('position', new BufferAttribute(positions, 3))
  const colours = new Float32Array(positions.length)
  for (let t = 0; t < positions.length; t += 9) {
    const [ux, uy, uz] = [0, 1, 2].map((axis) => positions[t + 3 + axis] - positions[t + axis])
    const [vx, vy, vz] = [0, 1, 2].map((axis) => positions[t + 6 + axis] - positions[t + axis])
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const far = Math.hypot(nx, ny, nz) || 1
    const lit = 0.7 + 0.3 * Math.abs((nx * LIGHT.x + ny * LIGHT.y + nz * LIGHT.z) / far)
    for (let c = 0; c < 3; c++) colours.set([colour.r * lit, colour.g * lit, colour.b * lit], t + 3 * c)
  }
  made.setAttribute('color', new BufferAttribute(colours, 3))
  made.computeBoundingSphere()
  return made
}
