/** Straight lines between pairs of points; drawn over everything, unless only where they are seen. */
export function LinesOver({
  points,
  colour,
  onlySeen = false,
}: {
  points: Float32Array
  colour: string
  onlySeen?: boolean
}) {
  return (
    <lineSegments key={points.length} raycast={() => undefined} renderOrder={2}>
      <bufferGeometry>
        <bufferAttribute attach="attributes-position" args={[points, 3]} />
      </bufferGeometry>
      <lineBasicMaterial color={colour} depthTest={onlySeen} />
    </lineSegments>
  )
}
