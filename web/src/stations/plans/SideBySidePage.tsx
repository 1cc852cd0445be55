import type { Part, Plan } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { SectionView } from '../../drawings/SectionView'
import { chance, duration, grams, money } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Sheet, Sideways, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { Empty, Failure } from '../../ui/States'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'
import type { Outcome } from '@tender/core/plan'
import type { ReleaseCheck } from '@tender/core/release'
import { useMesh } from '../../workers/useMesh'
import { VERDICT_WORDS } from './inWords'
import { PlansOfPart } from './PlansOfPart'
import { differingRows, figureRow, type Row } from './sideBySide'
import { length } from '../../theme/measures'

/** More columns than this nobody reads. */
const MOST = 4

/**
 * Plans for one part beside each other: what they decide differently, what that costs, the same cut of each.
 */
export const SideBySidePage = () => (
  <PlansOfPart>{(part, plans) => <Beside part={part} plans={plans} />}</PlansOfPart>
)

type Found = Outcome & { readonly release: ReleaseCheck }
/** A plan that could not be worked out, and why. */
type Refused = { readonly refused: string }

function Beside({ part, plans }: { part: Part; plans: readonly Plan[] }) {
  const shown = plans.slice(0, MOST)
  const mesh = useMesh(part.meshSha256)
  const found = useOutcomes(mesh.data, shown)
  if (shown.length === 0)
    return (
      <Page over={<Link to={`/parts/${part.id}`}>{part.name}</Link>} title="Plans side by side">
        <Empty action={<LinkButton to={`/parts/${part.id}`}>To the part</LinkButton>}>
          There is no plan for this part yet.
        </Empty>
      </Page>
    )
  const outcomeOf = (id: string): Found | null => {
    const one = found[id]
    return one && 'summary' in one ? one : null
  }
  const value = (pick: (outcome: Found) => number | null) =>
    shown.map(({ id }) => {
      const outcome = outcomeOf(id)
      return outcome && pick(outcome)
    })
  const figures: Row[] = [
    figureRow(
      'Filament',
      value(({ summary }) => summary.estimate.massG),
      grams,
      'least',
    ),
    figureRow(
      'Thrown away',
      value(({ summary }) => summary.estimate.wasteG),
      grams,
      'least',
    ),
    figureRow(
      'Money',
      value(({ summary }) => summary.estimate.cost),
      money,
      'least',
    ),
    figureRow(
      'Time',
      value(({ summary }) => summary.timeS),
      duration,
      'least',
    ),
    figureRow(
      'Swaps',
      value(({ summary }) => summary.swaps),
      String,
      'least',
    ),
    figureRow(
      'Comes off clean',
      value(({ summary }) => summary.pTender),
      chance,
      'most',
    ),
    {
      label: 'Supports',
      cells: shown.map(({ id }) => verdictInWords(outcomeOf(id)?.release)),
      best: [],
    },
    figureRow(
      'While it is printed',
      // What rests on the part is asked only what bends it: nothing is said of what is steady.
      value(({ summary, release }) =>
        release.stands.length === 0 ? null : Number(summary.warnings.some(({ code }) => code === 'UNSTEADY')),
      ),
      (unsteady) => (unsteady ? 'a nozzle may push some over' : 'none told unsteady'),
      'least',
    ),
    figureRow(
      'Must be mended',
      value(({ summary }) => summary.warnings.filter(({ severity }) => severity === 'error').length),
      String,
      'least',
    ),
  ]
  const frame = frameOf(shown.flatMap(({ id }) => outcomeOf(id) ?? []))
  // While one is on its way nobody knows which is the best.
  const isKnown = shown.every(({ id }) => found[id] !== undefined)
  return (
    <Page over={<Link to={`/parts/${part.id}`}>{part.name}</Link>} title="Plans side by side">
      {mesh.isError && <Failure error={mesh.error} onRetry={() => void mesh.refetch()} />}
      <Sheet>
        <Sideways>
          <Even style={{ minWidth: `calc(${length.m} * ${shown.length + 1})` }}>
            <thead>
              <tr>
                <th>
                  <Unseen>What</Unseen>
                </th>
                {shown.map(({ id, document }) => (
                  <th key={id} scope="col">
                    {document.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">Cut through the middle</th>
                {shown.map(({ id, document }) => (
                  <Picture key={id}>
                    <Cut found={found[id]} name={document.name} frame={frame} />
                  </Picture>
                ))}
              </tr>
              {[...differingRows(shown), ...figures].map(({ label, cells, best }) => (
                <tr key={label}>
                  <th scope="row">{label}</th>
                  {cells.map((cell, i) => {
                    const isBest = isKnown && best.includes(i)
                    return (
                      <Cell key={i} data-best={isBest || undefined}>
                        {cell}
                        {isBest && <Unseen>, the best</Unseen>}
                      </Cell>
                    )
                  })}
                </tr>
              ))}
              <tr>
                <th>
                  <Unseen>Take one</Unseen>
                </th>
                {shown.map(({ id, document }) => (
                  <td key={id}>
                    <LinkButton to={`/plans/${id}`} aria-label={`Take ${document.name}`}>
                      Take this one
                    </LinkButton>
                  </td>
                ))}
              </tr>
            </tbody>
          </Even>
        </Sideways>
        {plans.length > 1 && (
          <div>
            <LinkButton to={`/parts/${part.id}/bed`}>Print them on one bed</LinkButton>
          </div>
        )}
        {plans.length > MOST && (
          <SoftLine>
            {plans.length - MOST} more are in <Link to="/plans">the list of all plans</Link>.
          </SoftLine>
        )}
      </Sheet>
    </Page>
  )
}

/** The same cut of each plan, or why there is none. */
function Cut({ found, name, frame }: { found: Found | Refused | undefined; name: string; frame: Frame }) {
  if (!found)
    return <Skeleton role="status" style={{ height: length.m }} aria-label={`Working out ${name}`} />
  if ('refused' in found) return <SoftLine role="alert">{found.refused}</SoftLine>
  return <SectionView outcome={{ ...found, ...frame }} directionDeg={0} atMm={0} />
}

/** What all pictures show, so that a millimetre is as long in each of them. */
type Frame = Pick<Outcome, 'bounds' | 'heightMm'>

function frameOf(outcomes: readonly Outcome[]): Frame {
  const all = (pick: (outcome: Outcome) => number) => outcomes.map(pick)
  return {
    bounds: {
      minX: Math.min(...all(({ bounds }) => bounds.minX)),
      minY: Math.min(...all(({ bounds }) => bounds.minY)),
      maxX: Math.max(...all(({ bounds }) => bounds.maxX)),
      maxY: Math.max(...all(({ bounds }) => bounds.maxY)),
    },
    heightMm: Math.max(...all(({ heightMm }) => heightMm)),
  }
}

const verdictInWords = (release: ReleaseCheck | undefined) =>
  !release ? '–' : release.stands.length === 0 ? 'none' : VERDICT_WORDS[release.verdict]

type Outcomes = Readonly<Record<string, Found | Refused>>

/** The plans' results, one after the other. */
function useOutcomes(meshKey: string | undefined, plans: readonly Plan[]): Outcomes {
  const [found, setFound] = useState<Outcomes>({})
  const asked = plans.map(({ id, revision }) => `${id} ${revision}`).join()
  useEffect(() => {
    if (!meshKey) return
    let live = true
    void (async () => {
      for (const { id, document } of plans) {
        if (!live) return
        const outcome = await unwrap(planning().beside(meshKey, document as PlanDocument)).catch(
          (error: Error): Refused => ({ refused: error.message }),
        )
        if (live) setFound((before) => ({ ...before, [id]: outcome }))
      }
    })()
    return () => {
      live = false
    }
    // oxlint-disable-next-line react/exhaustive-deps -- plans are told by their revision
  }, [meshKey, asked])
  return found
}

/** As many columns as plans, all alike, whatever is known of each. */
const Even = styled(Table)`
  table-layout: fixed;
  th:first-child {
    width: ${length.m};
  }
`
const Picture = styled.td`
  vertical-align: top;
  svg {
    width: 100%;
    max-height: ${length.m};
  }
`
const Cell = styled.td`
  &[data-best] {
    font-weight: 600;
    color: ${({ theme }) => theme.color.pine};
  }
`
