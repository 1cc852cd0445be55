import type { Part } from '@tender/contract'
import { composeTurns, turnAbout, turnFaceDown, UPRIGHT, type Pose } from '@tender/core/mesh'
import { DEFAULT_DECISIONS } from '@tender/core/plan'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import styled from 'styled-components'
import { useList, useOne, useRemove, useSave } from '../../api/useShelf'
import { SolidView } from '../../drawings/SolidView'
import { counted, duration, grams, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons } from '../../ui/Dialog'
import { AngleInput, NumberInput, Segments } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { Page } from '../../ui/Page'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Failure, Loaded, Skeleton } from '../../ui/States'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'
import { useMesh } from '../../workers/useMesh'
import { useNewPlan } from '../plans/useNewPlan'

/** One part: how it lies, what leans too far, the plans for it. */
export function PartPage() {
  const { id = '' } = useParams()
  const query = useOne('parts', id)
  return <Loaded query={query}>{(part) => <Laying key={part.id} part={part} />}</Loaded>
}

const SAVE_AFTER_MS = 500

function Laying({ part }: { part: Part }) {
  const [pose, setPose] = useState<Pose>(part.pose)
  const [before, setBefore] = useState<readonly Pose[]>([])
  const [limit, setLimit] = useState(DEFAULT_DECISIONS.freeAngleDeg)
  const [picking, setPicking] = useState(false)
  const mesh = useMesh(part.meshSha256)
  const save = useSave('parts')
  const remove = useRemove('parts')
  const navigate = useNavigate()
  const newPlan = useNewPlan()
  const revision = useRef(part.revision)

  const drawing = useQuery({
    queryKey: ['drawing', part.meshSha256, pose],
    enabled: mesh.data !== undefined,
    placeholderData: (known) => known,
    gcTime: 0,
    queryFn: () => unwrap(planning.drawing(part.meshSha256, pose)),
  })
  // How it lies is saved by itself, a moment after the last turn.
  const { mutate } = save
  useEffect(() => {
    if (before.length === 0) return
    const timer = setTimeout(() => mutate({ id: part.id, revision: revision.current, input: { name: part.name, pose: { scale: pose.scale, turn: [...pose.turn] } } }, { onSuccess: (saved) => (revision.current = saved.revision) }), SAVE_AFTER_MS) // prettier-ignore
    return () => clearTimeout(timer)
  }, [pose, before.length, mutate, part.id, part.name])

  const lay = (next: Pose) => {
    setBefore((all) => [...all, pose])
    setPose(next)
    setPicking(false)
  }
  const turn = (by: Pose['turn']) => lay({ ...pose, turn: composeTurns(by, pose.turn) })
  const undo = () => {
    const last = before.at(-1)
    if (!last) return
    // Putting back is a change too, so that it is saved.
    setBefore((all) => [...all.slice(0, -1), ...(all.length === 1 ? [last] : [])])
    setPose(last)
  }
  const size = drawing.data?.sizeMm
  return (
    <Page
      over={part.fileName}
      title={part.name}
      actions={
        <>
          <Button
            quiet
            onPress={() => {
              remove.mutate({ id: part.id, name: part.name })
              void navigate('/parts')
            }}
          >
            Remove
          </Button>
          <Button main isDisabled={newPlan.isPending} onPress={() => newPlan.mutate({ part: { ...part, pose: { scale: pose.scale, turn: [...pose.turn] } } })}>
            Plan how to hold it
          </Button>
        </>
      }
    >
      <FormProblem error={newPlan.error} />
      <Columns>
        <Stage aria-label="The part as it lies">
          {mesh.isError || drawing.isError ? (
            <Failure error={(mesh.error ?? drawing.error)!} onRetry={() => void (mesh.isError ? mesh.refetch() : drawing.refetch())} />
          ) : drawing.data ? (
            <SolidView
              drawing={drawing.data}
              limitDeg={limit}
              picking={picking}
              onPick={(normal) => turn(turnFaceDown(normal))}
              says={`${part.name}; strokes mark what leans more than ${limit}° from vertical.`}
            />
          ) : (
            <Skeleton style={{ height: '100%' }} />
          )}
          {picking && <Hint role="status">Click the face that should lie on the bed.</Hint>}
        </Stage>
        <Side>
          <Sheet aria-label="Facts">
            <SheetTitle>What it is</SheetTitle>
            <p>
              {size ? (
                <>
                  <Num>{size.map(three).join(' × ')}</Num> mm as it lies
                </>
              ) : (
                'Measuring ...'
              )}
            </p>
            <p>
              {part.facts.watertight ? (
                <>
                  <Num>{three((part.facts.volumeMm3 * pose.scale ** 3) / 1000)}</Num> cm³, closed
                </>
              ) : (
                `Not closed: ${counted(part.facts.openEdges, 'open edge')}. It is sliced as well as can be; look through its layers.`
              )}
            </p>
            <SoftLine>
              {counted(part.facts.triangles, 'triangle')} in {counted(part.facts.shells, 'shell')}
            </SoftLine>
            {part.notes.map((note) => (
              <SoftLine key={note}>{note}</SoftLine>
            ))}
          </Sheet>
          <Sheet aria-label="How it lies">
            <SheetTitle>How it lies</SheetTitle>
            <TurnControls turn={turn} />
            <Buttons>
              <Button onPress={() => setPicking((on) => !on)}>{picking ? 'Leave it as it lies' : 'Put a face on the bed'}</Button>
              <Button isDisabled={before.length === 0} onPress={undo}>
                Undo
              </Button>
              <Button isDisabled={pose.turn.every((value, i) => value === UPRIGHT.turn[i])} onPress={() => lay({ ...pose, turn: UPRIGHT.turn })}>
                As drawn
              </Button>
            </Buttons>
            <NumberInput label="Scale" value={pose.scale} onChange={(scale) => scale > 0 && lay({ ...pose, scale })} min={0.0001} max={100_000} />
            <FormProblem error={save.error} />
            <ConflictNote error={save.error} />
          </Sheet>
          <Sheet aria-label="What leans too far">
            <SheetTitle>Strokes mark what leans past</SheetTitle>
            <AngleInput label="Free angle" value={limit} onChange={setLimit} min={5} max={89} />
          </Sheet>
          <PlansOfPart partId={part.id} />
        </Side>
      </Columns>
    </Page>
  )
}

type Axis = 'x' | 'y' | 'z'
const AXES: Record<Axis, [number, number, number]> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }

function TurnControls({ turn }: { turn: (by: Pose['turn']) => void }) {
  const [axis, setAxis] = useState<Axis>('x')
  const [angle, setAngle] = useState(90)
  return (
    <>
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
      <TurnRow>
        <NumberInput label="By" unit="°" value={angle} onChange={(value) => Number.isFinite(value) && setAngle(value)} min={0.1} max={180} />
        <Button onPress={() => turn(turnAbout(AXES[axis], angle))} aria-label={`Turn ${angle}° anticlockwise`}>
          ↺
        </Button>
        <Button onPress={() => turn(turnAbout(AXES[axis], -angle))} aria-label={`Turn ${angle}° clockwise`}>
          ↻
        </Button>
      </TurnRow>
    </>
  )
}

function PlansOfPart({ partId }: { partId: string }) {
  const plans = useList('plans')
  const mine = plans.data?.items.filter((plan) => plan.partId === partId) ?? []
  if (mine.length === 0) return null
  return (
    <Sheet aria-label="Plans">
      <SheetTitle>Plans for it</SheetTitle>
      {mine.map((plan) => (
        <p key={plan.id}>
          <Link to={`/plans/${plan.id}`}>{plan.document.name}</Link>{' '}
          {plan.figures && (
            <SoftLine as="span">
              {grams(plan.figures.massG)}, {duration(plan.figures.timeS)}
            </SoftLine>
          )}
        </p>
      ))}
    </Sheet>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: ${({ theme }) => theme.space.m};
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Stage = styled(Sheet)`
  position: relative;
  padding: 0;
  overflow: hidden;
  height: calc(100vh - 150px);
  min-height: 420px;
  @media (max-width: 1000px) {
    height: 60vh;
  }
`
const Hint = styled.div`
  position: absolute;
  left: 12px;
  top: 12px;
  padding: 6px 12px;
  border-radius: ${({ theme }) => theme.radius.s};
  background: ${({ theme }) => theme.color.damson};
  color: ${({ theme }) => theme.color.onDamson};
`
const Side = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  align-content: start;
  > section {
    display: grid;
    gap: ${({ theme }) => theme.space.s};
  }
`
const TurnRow = styled.div`
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: ${({ theme }) => theme.space.s};
  align-items: end;
`
