import { useEffect, useMemo, useState } from 'react'
import { BufferAttribute, BufferGeometry, DoubleSide } from 'three'
import { usePalette } from '../../theme/useScheme'

/** The flat sides of the hull, each to be clicked. Outlines as the part lies, three numbers a corner. */
export function FacePatches({
  outlines,
  onPick,
}: {
  outlines: readonly Float64Array[]
  onPick: (index: number) => void
}) {
  return (
    <>
      {outlines.map((outline, i) => (
        <Patch key={i} outline={outline} onPick={() => onPick(i)} />
      ))}
    </>
  )
}

function Patch({ outline, onPick }: { outline: Float64Array; onPick: () => void }) {
  const palette = usePalette()
  const [over, setOver] = useState(false)
  const geometry = useMemo(() => {
    const corners = outline.length / 3
    const soup: number[] = []
    for (let i = 1; i + 1 < corners; i++)
      for (const c of [0, i, i + 1]) soup.push(outline[3 * c], outline[3 * c + 1], outline[3 * c + 2])
    const made = new BufferGeometry()
    made.setAttribute('position', new BufferAttribute(Float32Array.from(soup), 3))
    return made
  }, [outline])
  useEffect(() => () => geometry.dispose(), [geometry])
  return (
    <mesh
      geometry={geometry}
      onClick={(event) => {
        if (event.delta > 4) return
        event.stopPropagation()
        onPick()
      }}
      onPointerOver={(event) => {
        event.stopPropagation()
        setOver(true)
      }}
      onPointerOut={() => setOver(false)}
    >
      <meshBasicMaterial
        color={palette.damson}
        transparent
        opacity={over ? 0.65 : 0.22}
        side={DoubleSide}
        polygonOffset
        polygonOffsetFactor={-2}
        depthWrite={false}
      />
    </mesh>
  )
}
