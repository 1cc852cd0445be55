/** Straight lines between pairs of points, drawn over everything. */
export function LinesOver({ points, colour }: { points: Float32Array; colour: string }) {
  return (
    <lineSegments key={points.length} raycast={() => undefined} renderOrder={2}>
      <bufferGeometry>
        <bufferAttribute attach="attributes-position" args={[points, 3]} />
      </bufferGeometry>
      <lineBasicMaterial color={colour} depthTest={false} />
    </lineSegments>
  )
}
