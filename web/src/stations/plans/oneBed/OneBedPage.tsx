import type { Part, Plan } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { BED_ORDERS, MOST_VARIANTS, type BedOrder } from '@tender/core/print'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { counted, duration } from '../../../format/numbers'
import { Button, LinkButton } from '../../../ui/Button'
import { Segments, Toggle } from '../../../ui/fields'
import { FormProblem } from '../../../ui/FormProblem'
import { NotOnPaper } from '../../../ui/NotOnPaper'
import { Page } from '../../../ui/Page'
import { Sheet, SheetTitle, SoftLine, Table, Unseen } from '../../../ui/Sheet'
import { Skeleton } from '../../../ui/Skeleton'
import { Empty } from '../../../ui/States'
import { WorkError } from '../../../workers/answer'
import { useMesh } from '../../../workers/useMesh'
import { useNewBed } from '../../takeOffs/useNewTakeOff'
import { DifferingRows, Dots } from '../DifferingRows'
import { PlansOfPart } from '../PlansOfPart'
import { BedMap, type Corner } from './BedMap'
import { useLaidBed } from './useLaidBed'
import { at, length } from '../../../theme/measures'

/** Two to six plans of a part on one bed: where each stands, which is which, and one file of all of them. */
export const OneBedPage = () => (
  <PlansOfPart>{(part, plans) => <Choosing part={part} newest={plans} />}</PlansOfPart>
)

function Choosing({ part, newest }: { part: Part; newest: readonly Plan[] }) {
  const printer = newest[0]?.document.printer.id
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const fitting = newest.filter(({ document }) => document.printer.id === printer)
  const chosen = fitting.filter(({ id }) => !left.has(id)).slice(0, MOST_VARIANTS)
  if (newest.length < 2)
    return (
      <Page over={<Link to={`/parts/${part.id}`}>{part.name}</Link>} title="Several on one bed">
        <Empty action={<LinkButton to={`/parts/${part.id}`}>To the part</LinkButton>}>
          It takes at least two plans of this part, best two that differ in one thing: copy one as a variant.
        </Empty>
      </Page>
    )
  const choose = (plan: Plan, on: boolean) =>
    setLeft(new Set(on ? [...left].filter((id) => id !== plan.id) : [...left, plan.id]))
  return (
    <OnBed part={part} chosen={chosen} printer={newest[0].document.printer as PlanDocument['printer']}>
      <SheetTitle>Which of them</SheetTitle>
      {newest.map((plan) => (
        <Toggle
          key={plan.id}
          value={chosen.includes(plan)}
          isDisabled={!fitting.includes(plan) || (!chosen.includes(plan) && chosen.length === MOST_VARIANTS)}
          onChange={(on) => choose(plan, on)}
        >
          {plan.document.name}
          {!fitting.includes(plan) && `, for ${plan.document.printer.name}`}
        </Toggle>
      ))}
    </OnBed>
  )
}

const ORDER_WORDS: Readonly<Record<BedOrder, string>> = {
  'by layer': 'together, by layer',
  'one by one': 'one by one',
}

function OnBed({
  part,
  chosen,
  printer,
  children,
}: {
  part: Part
  chosen: readonly Plan[]
  printer: PlanDocument['printer']
  children: React.ReactNode
}) {
  const [order, setOrder] = useState<BedOrder>('by layer')
  const [byHand, setByHand] = useState<{ readonly of: string; readonly corners: readonly Corner[] } | null>(
    null,
  )
  const [dragged, setDragged] = useState<{ readonly n: number; readonly to: Corner } | null>(null)
  // Another choice, or another order, is laid out anew.
  const of = [order, ...chosen.map(({ id }) => id)].join()
  const put = byHand?.of === of ? byHand.corners : null
  const bed = useLaidBed(part, chosen, { order, ...(put && { atMm: put }) })
  const { isReady, file } = bed
  const mesh = useMesh(part.meshSha256)
  const printed = useNewBed(mesh.data)
  // Until it is laid anew, and where it cannot go so, each is shown where it was put.
  const places = (bed.laid?.places ?? []).map((place, n) => ({
    ...place,
    atMm: dragged?.n === n ? dragged.to : isReady ? place.atMm : (put?.[n] ?? place.atMm),
  }))
  const facts = isReady ? bed.laid?.facts : undefined
  const stopped = (error: Error | null) =>
    error instanceof WorkError && error.code === 'STOPPED' ? null : error
  return (
    <Page
      over={<Link to={`/parts/${part.id}`}>{part.name}</Link>}
      title="Several on one bed"
      actions={
        <NotOnPaper>
          <LinkButton to={`/parts/${part.id}/plans`}>Side by side</LinkButton>{' '}
          <Button isDisabled={!isReady} onPress={() => window.print()}>
            Sheet to print
          </Button>{' '}
          <Button isDisabled={!isReady || file.isPending} onPress={() => file.mutate('3mf')}>
            Bodies as 3MF
          </Button>{' '}
          <Button main isDisabled={!isReady || file.isPending} onPress={() => file.mutate('gcode')}>
            G-code of all
          </Button>
        </NotOnPaper>
      }
    >
      <Columns>
        <Sheet>
          {chosen.length < 2 ? (
            <p>Choose two at least.</p>
          ) : places.length === 0 && bed.isWorking ? (
            <Skeleton role="status" aria-label="Working them out" style={{ height: 400 }} />
          ) : (
            <BedMap
              places={places}
              bedMm={printer.bedMm}
              lineWidthMm={chosen[0].document.decisions.lineWidthMm}
              onMove={(n, to) => setDragged({ n, to })}
              onPut={(n, to) => {
                setDragged(null)
                setByHand({ of, corners: places.map(({ atMm }, m) => (m === n ? to : atMm)) })
              }}
            />
          )}
          {(bed.isWorking || file.isPending) && (
            <Working role="status">
              <progress value={bed.share} aria-label={file.isPending ? 'Writing' : 'Working them out'} />
              {file.isPending ? 'Writing' : 'Working them out'}
              <Button onPress={bed.stop}>Stop</Button>
            </Working>
          )}
          <FormProblem error={stopped(bed.error) ?? stopped(file.error) ?? printed.error} />
        </Sheet>
        <NotOnPaper>
          <Side>
            {children}
            <Segments
              label="Printed"
              value={order}
              onChange={(next) => setOrder(next)}
              options={BED_ORDERS.map((value) => ({ value, label: ORDER_WORDS[value] }))}
            />
            <SoftLine>
              {order === 'by layer'
                ? 'All of them grow together.'
                : `Each is done before the next, the tallest last. The head takes ${printer.headAroundMm} mm around its nozzle, and the bar passes ${printer.barAboveMm} mm above it: change that with the printer.`}
            </SoftLine>
            {put && (
              <div>
                <Button onPress={() => setByHand(null)}>Lay them out again</Button>
              </div>
            )}
            <div>
              <Button
                isDisabled={!isReady || printed.isPending || !mesh.data}
                onPress={() =>
                  printed.mutate(
                    chosen.map(({ id, document }) => ({
                      planId: id,
                      part,
                      document: document as unknown as PlanDocument,
                    })),
                  )
                }
              >
                They are printed
              </Button>
            </div>
          </Side>
        </NotOnPaper>
      </Columns>
      {facts && (
        <Sheet>
          <SheetTitle>Which is which</SheetTitle>
          <SoftLine role="status">
            {duration(facts.timeS)}, {counted(facts.swaps, 'swap')}, in{' '}
            {facts.filaments.filter(Boolean).join(' and ')}.
            {facts.leavesPurge && ` Its swaps do not purge: let the swap block of ${printer.name} do it.`}
          </SoftLine>
          <WhichIsWhich plans={chosen} places={places} />
        </Sheet>
      )}
    </Page>
  )
}

/** The dots of each, and what differs between them. */
function WhichIsWhich({
  plans,
  places,
}: {
  plans: readonly Plan[]
  places: readonly { readonly dots: number; readonly atMm: Corner }[]
}) {
  return (
    <Table>
      <thead>
        <tr>
          <th>
            <Unseen>What</Unseen>
          </th>
          {plans.map(({ id, document }, n) => (
            <th key={id} scope="col">
              <Dots count={places[n]?.dots ?? n + 1} /> {document.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <DifferingRows plans={plans} />
        <tr>
          <th scope="row">Corner on the bed</th>
          {places.map(({ atMm: [x, y], dots }) => (
            <td key={dots}>
              {x.toFixed(0)}, {y.toFixed(0)} mm
            </td>
          ))}
        </tr>
      </tbody>
    </Table>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(${length.m}, ${length.l});
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media ${at.narrow}, print {
    grid-template-columns: 1fr;
  }
`
const Side = styled(Sheet)`
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  justify-items: start;
`
const Working = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  progress {
    width: ${length.s};
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
