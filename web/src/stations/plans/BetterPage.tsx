import { BetterSearch, planFilament, type BetterFound, type Plan } from '@tender/contract'
import { variationsOf, type PlanDocument } from '@tender/core/decide'
import { Link, useParams } from 'react-router'
import styled from 'styled-components'
import { useJob } from '../../api/useJob'
import { useList } from '../../api/useShelf'
import { One } from '../../frame/One'
import { chance, counted, duration, grams, money, signed, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { FormProblem } from '../../ui/FormProblem'
import { Page } from '../../ui/Page'
import { Num, Sentence, Sheet, Soft, SoftLine, Table } from '../../ui/Sheet'
import { useKnownTrials } from '../../workers/useKnownTrials'
import { useCopyPlan } from './useNewPlan'
import { length } from '../../theme/measures'

/** A plan changed in one thing, and in two, worked out for real: those that nothing beats. */
export function BetterPage() {
  const { id = '' } = useParams()
  return (
    <One name="plans" id={id}>
      {(found) => <Better key={found.id} plan={found} />}
    </One>
  )
}

function Better({ plan }: { plan: Plan }) {
  const { job, start, stop, starting, error } = useJob('better', plan.partId, BetterSearch)
  const known = useKnownTrials()
  const filaments = useList('filaments').data?.items
  const printers = useList('printers').data?.items
  const copy = useCopyPlan(plan.partId)
  // A search of another plan of this part is not this one's.
  const search = job?.planId === plan.id ? job : null
  const begin = () => {
    if (!known || !filaments) return
    const document = plan.document as unknown as PlanDocument
    const printer = printers?.find(({ id }) => id === document.printer.id)
    const variations = variationsOf(document, {
      trials: known.trials,
      book: known.book,
      filaments: filaments.map((one) => planFilament(one, printer)),
    })
    start({ planId: plan.id, variations })
  }
  const working = search?.state === 'working'
  return (
    <Page
      over={
        <>
          <Link to={`/plans/${plan.id}`}>{plan.document.name}</Link> of{' '}
          <Link to={`/parts/${plan.partId}`}>{plan.partName}</Link>
        </>
      }
      title="Find a better plan"
      actions={
        working ? (
          <>
            <Working role="status">
              <progress value={search.progress} aria-label="Working out variations" />
              {counted(search.tried, 'plan')} worked out
            </Working>
            <Button onPress={stop}>Stop</Button>
          </>
        ) : (
          <Button main isDisabled={!known || !filaments || starting} onPress={begin}>
            {search ? 'Search again' : 'Search'}
          </Button>
        )
      }
    >
      <FormProblem error={error ?? copy.error} />
      {job && job.planId !== plan.id && job.state === 'working' && (
        <SoftLine>Another plan of this part is being searched just now.</SoftLine>
      )}
      {!search || !search.asItIs ? (
        <Sentence style={{ maxWidth: length.wide }}>
          {working
            ? 'Working out the plan as it is …'
            : 'Changes one thing at a time, then two: kind of stand, everywhere or under one kind of underside, slim or thick branches, what touches, gap within its window, layers, number, density, where stands stand. Each is worked out for real. Shown is what nothing beats in grams, time, chance of coming off clean, how it comes off and whether a nozzle may push it over, while it holds as much.'}
        </Sentence>
      ) : (
        <Sheet>
          <Table>
            <thead>
              <tr>
                <th scope="col">What differs</th>
                {['filament', 'money', 'time', 'swaps', 'clean', 'left free'].map((figure) => (
                  <th key={figure} scope="col" className="right">
                    {figure}
                  </th>
                ))}
                <th scope="col">comes off</th>
                <th>
                  <Soft>take one</Soft>
                </th>
              </tr>
            </thead>
            <tbody>
              <Row found={search.asItIs} base={null} />
              {search.found
                .filter(({ words }) => words !== search.asItIs!.words)
                .map((found) => (
                  <Row
                    key={found.words}
                    found={found}
                    base={search.asItIs}
                    onTake={() =>
                      copy.mutate({
                        document: found.document as unknown as PlanDocument,
                        figures: found.figures,
                      })
                    }
                  />
                ))}
            </tbody>
          </Table>
          <SoftLine>
            {saysOf(search)}
            {search.refused > 0 && ` ${counted(search.refused, 'variation')} cannot be.`}
          </SoftLine>
          {search.message && <SoftLine role="alert">{search.message}</SoftLine>}
        </Sheet>
      )}
    </Page>
  )
}

function saysOf({ found, asItIs, tried, state }: BetterSearch): string {
  const others = found.filter(({ words }) => words !== asItIs?.words)
  const stands = found.length > others.length
  const of = `Of ${counted(tried, 'plan')} worked out${state === 'working' ? ' so far' : ''}`
  if (others.length === 0) return `${of}, nothing beats the plan as it is in anything.`
  return stands
    ? `${of}, these are better in something, and nothing beats the plan as it is in everything.`
    : `${of}, these are better than the plan as it is.`
}

function Row({ found, base, onTake }: { found: BetterFound; base: BetterFound | null; onTake?: () => void }) {
  const { figures, words, release, unsteady, unheldMm2 } = found
  const by = (pick: (figures: BetterFound['figures']) => number, show: (value: number) => string) => {
    const value = pick(figures)
    if (base === null) return show(value)
    const apart = value - pick(base.figures)
    const text = signed(apart, show)
    return /[1-9]/.test(text) ? <Num data-better={apart < 0}>{text}</Num> : <Soft>same</Soft>
  }
  const clean = figures.pTender
  const before = base?.figures.pTender ?? null
  return (
    <Line>
      <th scope="row">{words}</th>
      <td className="right">{by(({ massG }) => massG, grams)}</td>
      <td className="right">{by(({ cost }) => cost, money)}</td>
      <td className="right">{by(({ timeS }) => timeS, duration)}</td>
      <td className="right">{by(({ swaps }) => swaps, String)}</td>
      <td className="right">
        {clean === null ? (
          '–'
        ) : (
          <Num data-better={before === null || Math.abs(clean - before) < 0.005 ? undefined : clean > before}>
            {chance(clean)}
          </Num>
        )}
      </td>
      <td className="right">
        <Num
          data-better={
            base && Math.abs(unheldMm2 - base.unheldMm2) > 1 ? unheldMm2 < base.unheldMm2 : undefined
          }
        >
          {three(unheldMm2)}&thinsp;mm²
        </Num>
      </td>
      <td>
        {figures.errors > 0 ? `${counted(figures.errors, 'thing')} to mend` : release}
        {unsteady && ', unsteady while it is printed'}
      </td>
      <td>
        {onTake && (
          <Buttons>
            <Button onPress={onTake} aria-label={`Take ${words}`}>
              Take it
            </Button>
          </Buttons>
        )}
      </td>
    </Line>
  )
}

const Line = styled.tr`
  th {
    font-weight: 500;
    color: ${({ theme }) => theme.color.ink};
    font-size: ${({ theme }) => theme.size.body};
    border-top: ${({ theme }) => theme.border.faint};
  }
  th::first-letter {
    text-transform: uppercase;
  }
  [data-better='true'] {
    color: ${({ theme }) => theme.color.pine};
  }
  [data-better='false'] {
    color: ${({ theme }) => theme.color.wine};
  }
`
const Working = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  font-size: ${({ theme }) => theme.size.note};
  progress {
    width: ${length.s};
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
