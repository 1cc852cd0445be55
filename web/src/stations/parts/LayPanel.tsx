import { composeTurns, turnAbout, turnFaceDown, UPRIGHT, type Pose } from '@tender/core/mesh'
import { standingSentence, type HullFace } from '@tender/core/pose'
import { useState } from 'react'
import styled from 'styled-components'
import { three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { NumberInput, Segments } from '../../ui/fields'
import { Num, Sentence, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { usePartSetting } from './PartContext'
import { SearchSheet } from './SearchSheet'

/** How the part lies on the bed. */
export function LayPanel() {
  const { drawing, draft, change } = usePartSetting()
  return (
    <>
      <Sheet aria-label="How it stands">
        {drawing ? (
          <Sentence>{standingSentence(drawing.standing)}</Sentence>
        ) : (
          <SoftLine>Measuring ...</SoftLine>
        )}
        {drawing && (
          <SoftLine>
            <Num>{drawing.sizeMm.map(three).join(' × ')}</Num> mm as it lies
          </SoftLine>
        )}
      </Sheet>
      <Sides />
      <TurnSheet />
      <SearchSheet />
      <Sheet aria-label="Size">
        <NumberInput
          label="Scale"
          value={draft.pose.scale}
          onChange={(scale) => scale > 0 && change({ pose: { ...draft.pose, scale } })}
          min={0.0001}
          max={100_000}
        />
      </Sheet>
    </>
  )
}

const MOST_SIDES = 6

/** The flat sides it can be stood on, from its hull. */
function Sides() {
  const { faces, tool, setTool, draft, change } = usePartSetting()
  const lay = (normal: readonly [number, number, number]) =>
    change({ pose: { ...draft.pose, turn: [...turnFaceDown(normal)] } })
  return (
    <Sheet aria-label="Sides to stand on">
      <SheetTitle>Stand it on a side</SheetTitle>
      {faces.length === 0 && <SoftLine>No flat side found yet.</SoftLine>}
      <SideList>
        {alike(faces).map(({ face: { normal, areaMm2, verdict, tipDeg }, count }, i) => (
          <li key={i}>
            <Button
              onPress={() => lay(normal)}
              aria-label={`Stand it on side ${i + 1}, ${three(areaMm2)} mm², ${VERDICTS[verdict]}`}
            >
              <span>
                <Num>{three(areaMm2)}</Num>&thinsp;mm²{count > 1 && ` × ${count}`}
              </span>
              <small>
                {VERDICTS[verdict]}
                {verdict !== 'falls' && `, ${Math.round(tipDeg)}°`}
              </small>
            </Button>
          </li>
        ))}
      </SideList>
      {faces.length > 0 && (
        <Button
          aria-pressed={tool.kind === 'face'}
          onPress={() => setTool(tool.kind === 'face' ? { kind: 'look' } : { kind: 'face' })}
        >
          {tool.kind === 'face' ? 'Leave it as it lies' : 'Put a face on the bed'}
        </Button>
      )}
    </Sheet>
  )
}

/** Sides of one size that stand alike are one choice: a round part has dozens. */
function alike(faces: readonly HullFace[]): { face: HullFace; count: number }[] {
  const groups = new Map<string, { face: HullFace; count: number }>()
  for (const face of faces) {
    const key = `${three(face.areaMm2)} ${face.verdict} ${Math.round(face.tipDeg)}`
    const known = groups.get(key)
    if (known) known.count++
    else groups.set(key, { face, count: 1 })
  }
  return [...groups.values()].slice(0, MOST_SIDES)
}

const VERDICTS = { stands: 'stands', wobbly: 'wobbly', falls: 'falls over' } as const

type Axis = 'x' | 'y' | 'z'
const AXES: Record<Axis, [number, number, number]> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }
const SNAPS = ['1', '5', '15', '45', '90'] as const

function TurnSheet() {
  const { draft, change } = usePartSetting()
  const [axis, setAxis] = useState<Axis>('x')
  const [angle, setAngle] = useState(90)
  const { pose } = draft
  const turn = (by: Pose['turn']) =>
    change({ pose: { ...pose, turn: [...composeTurns(by, pose.turn as Pose['turn'])] } })
  return (
    <Sheet aria-label="How it lies">
      <SheetTitle>Turn it</SheetTitle>
      <Segments
        label="Turn about"
        value={axis}
        onChange={setAxis}
        options={[
          { value: 'x', label: 'left to right' },
          { value: 'y', label: 'front to back' },
          { value: 'z', label: 'upright' },
        ]}
      />
      <Segments
        label="In steps of"
        value={SNAPS.find((snap) => Number(snap) === angle) ?? ('' as '90')}
        onChange={(snap) => setAngle(Number(snap))}
        options={SNAPS.map((value) => ({ value, label: `${value}°` }))}
      />
      <TurnRow>
        <NumberInput
          label="By"
          unit="°"
          value={angle}
          onChange={(value) => Number.isFinite(value) && setAngle(value)}
          min={0.1}
          max={180}
        />
        <Button
          onPress={() => turn(turnAbout(AXES[axis], angle))}
          aria-label={`Turn ${angle}° anticlockwise`}
        >
          ↺
        </Button>
        <Button onPress={() => turn(turnAbout(AXES[axis], -angle))} aria-label={`Turn ${angle}° clockwise`}>
          ↻
        </Button>
      </TurnRow>
      <Buttons>
        <Button
          isDisabled={pose.turn.every((value, i) => value === UPRIGHT.turn[i])}
          onPress={() => change({ pose: { ...pose, turn: [...UPRIGHT.turn] } })}
        >
          As drawn
        </Button>
      </Buttons>
    </Sheet>
  )
}

const TurnRow = styled.div`
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: ${({ theme }) => theme.space.s};
  align-items: end;
`
const SideList = styled.ul`
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: ${({ theme }) => theme.space.sm};
  button {
    width: 100%;
    display: grid;
    justify-items: start;
    padding: ${({ theme }) => `${theme.space.xs} ${theme.space.s}`};
    line-height: 1.25;
  }
  small {
    font-size: ${({ theme }) => theme.size.tiny};
    color: ${({ theme }) => theme.color.soft};
  }
`
