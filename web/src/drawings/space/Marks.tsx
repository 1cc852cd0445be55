import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useRef, type RefObject } from 'react'
import styled from 'styled-components'
import { Vector3 } from 'three'
import { length, space } from '../../theme/measures'

/** A ring at a place of the part, with a number to find it by. */
export type Mark = {
  readonly key: string
  readonly text: string
  readonly label: string
  readonly atMm: readonly [number, number, number]
  readonly strong: boolean
}

/** Keeps the rings where their places are on the picture. */
export function MarkPlacer({
  marks,
  layer,
}: {
  marks: readonly Mark[]
  layer: RefObject<HTMLDivElement | null>
}) {
  const { camera, size, invalidate } = useThree()
  const place = useRef(new Vector3())
  useEffect(() => invalidate(), [marks, invalidate])
  useFrame(() => {
    // The picture is drawn after this: until then the camera only knows where it was.
    camera.updateMatrixWorld()
    marks.forEach(({ atMm }, i) => {
      const ring = layer.current?.children[i] as HTMLElement | undefined
      if (!ring) return
      place.current.set(atMm[0], atMm[1], atMm[2]).project(camera)
      ring.style.left = `${((place.current.x + 1) / 2) * size.width}px`
      ring.style.top = `${((1 - place.current.y) / 2) * size.height}px`
      ring.style.visibility = place.current.z < 1 ? 'visible' : 'hidden'
    })
  })
  return null
}

/** The rings themselves lie over the drawing as buttons, so that keys and screen readers reach them. */
export function MarkRings({
  marks,
  layer,
  onLook,
}: {
  marks: readonly Mark[]
  layer: RefObject<HTMLDivElement | null>
  onLook: (at: Mark['atMm']) => void
}) {
  return (
    <Layer ref={layer}>
      {marks.map(({ key, text, label, atMm, strong }) => (
        <Ring
          key={key}
          type="button"
          aria-label={label}
          title={label}
          data-strong={strong || undefined}
          onClick={() => onLook(atMm)}
        >
          {text}
        </Ring>
      ))}
    </Layer>
  )
}

const Layer = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
`
const Ring = styled.button`
  position: absolute;
  left: -${length.touch};
  width: calc(2 * ${space.m});
  height: calc(2 * ${space.m});
  margin: -${space.m} 0 0 -${space.m};
  padding: 0;
  pointer-events: auto;
  cursor: pointer;
  border-radius: 50%;
  border: ${length.rule} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  color: ${({ theme }) => theme.color.ink};
  font: 500 ${({ theme }) => `${theme.size.tiny} ${theme.font.mono}`};
  &[data-strong] {
    border-color: ${({ theme }) => theme.color.damson};
    border-width: ${length.edge};
    color: ${({ theme }) => theme.color.damson};
  }
  &:focus-visible {
    ${({ theme }) => theme.focus}
  }
`
