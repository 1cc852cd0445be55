import { Canvas } from '@react-three/fiber'
import { useRef, useState, type ReactNode } from 'react'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import type { Drawing } from '../../workers/partWork'
import { Bed } from './Bed'
import { Eye, STANDPOINTS, type Standpoint } from './Eye'
import { MarkPlacer, MarkRings, type Mark } from './Marks'
import { PartBody, type Hit } from './PartBody'
import { at, length } from '../../theme/measures'

type Props = {
  drawing: Drawing
  /** Limits of the eight sides, clockwise from north. */
  limitsDeg: readonly number[]
  says: string
  /**
   * What the pointer does on the part: nothing but turning the view, asking for a place, or brushing along.
   */
  pointer?: 'look' | 'pick' | 'brush'
  onPlace?: (hit: Hit) => void
  marks?: readonly Mark[]
  /** Nothing of the part is drawn above this height. */
  topMm?: number | null
  /** Further things in the same space. */
  children?: ReactNode
}

const NO_MARKS: readonly Mark[] = []

/** The part on its bed, to be turned about. */
export function SpaceView({
  drawing,
  limitsDeg,
  says,
  pointer = 'look',
  onPlace,
  marks = NO_MARKS,
  topMm = null,
  children,
}: Props) {
  const [view, setView] = useState<{
    name: Standpoint
    asked: number
    flat: boolean
    at: readonly [number, number, number] | null
  }>({ name: 'corner', asked: 0, flat: false, at: null })
  const rings = useRef<HTMLDivElement>(null)
  const next = useRef(0)
  const lookAt = (at: Mark['atMm']) => setView((before) => ({ ...before, at, asked: before.asked + 1 }))
  const look = (name: Standpoint) =>
    setView((before) => ({ ...before, name, at: null, asked: before.asked + 1 }))
  return (
    <Stage role="group" aria-label={says} data-pointer={pointer}>
      <Canvas
        key={view.flat ? 'flat' : 'deep'}
        orthographic={view.flat}
        frameloop="demand"
        camera={{
          ...(view.flat ? { near: -4000, far: 8000 } : { fov: 32, near: 0.5, far: 8000 }),
          up: [0, 0, 1],
        }}
        dpr={[1, 2]}
        fallback={<p>This browser cannot draw in 3D; sections and layers still show everything.</p>}
      >
        <Bed sizeMm={drawing.sizeMm} />
        <PartBody drawing={drawing} limitsDeg={limitsDeg} pointer={pointer} onPlace={onPlace} topMm={topMm} />
        {children}
        <Eye
          sizeMm={drawing.sizeMm}
          view={view}
          still={pointer === 'brush'}
          onStandpoint={look}
          onDepth={() => setView((before) => ({ ...before, flat: !before.flat, asked: before.asked + 1 }))}
          onNext={() => marks.length > 0 && lookAt(marks[next.current++ % marks.length].atMm)}
        />
        <MarkPlacer marks={marks} layer={rings} />
      </Canvas>
      <MarkRings marks={marks} layer={rings} onLook={lookAt} />
      <Standpoints>
        {(Object.keys(STANDPOINTS) as Standpoint[]).map((name) => (
          <Button key={name} onPress={() => look(name)}>
            {STANDPOINTS[name].called}
          </Button>
        ))}
        <Button
          aria-pressed={view.flat}
          onPress={() => setView((before) => ({ ...before, flat: !before.flat, asked: before.asked + 1 }))}
        >
          {view.flat ? 'with depth' : 'without depth'}
        </Button>
      </Standpoints>
    </Stage>
  )
}

const Stage = styled.div`
  position: relative;
  height: 100%;
  min-height: ${length.xl};
  @media ${at.roomy} {
    min-height: 0;
  }
  overflow: hidden;
  &[data-pointer='pick'] canvas {
    cursor: crosshair;
  }
  &[data-pointer='brush'] canvas {
    cursor: cell;
  }
`
const Standpoints = styled.div`
  position: absolute;
  left: ${({ theme }) => theme.space.m};
  bottom: ${({ theme }) => theme.space.m};
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.sm};
  button {
    min-height: ${length.control};
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.md}`};
  }
`
