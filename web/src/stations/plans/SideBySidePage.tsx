import type { Part, Plan } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { SectionView } from '../../drawings/SectionView'
import { chance, duration, grams, money } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Sheet, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { Empty } from '../../ui/States'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'
import type { Outcome } from '../../workers/geometry/planCalls'
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
  const value = (pick: (outcome: Found) => number | null) =>
    shown.map(({ id }) => (found[id] ? pick(found[id]) : null))
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
      cells: shown.map(({ id }) => (found[id] ? verdictInWords(found[id].release) : '–')),
      best: [],
    },
    figureRow(
      'Must be mended',
      value(({ summary }) => summary.warnings.filter(({ severity }) => severity === 'error').length),
      String,
      'least',
    ),
  ]
  return (
    <Page over={<Link to={`/parts/${part.id}`}>{part.name}</Link>} title="Plans side by side">
      <Sheet>
        <Table>
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
                  {found[id] ? (
                    <SectionView
                      outcome={found[id]}
                      directionDeg={0}
                      atMm={0}
                      zMm={found[id].summary.contacts[0]?.zMm ?? 0}
                      onCut={() => undefined}
                    />
                  ) : (
                    <Skeleton
                      role="status"
                      style={{ height: 150 }}
                      aria-label={`Working out ${document.name}`}
                    />
                  )}
                </Picture>
              ))}
            </tr>
            {[...differingRows(shown), ...figures].map(({ label, cells, best }) => (
              <tr key={label}>
                <th scope="row">{label}</th>
                {cells.map((cell, i) => (
                  <Cell key={i} data-best={best.includes(i) || undefined}>
                    {cell}
                    {best.includes(i) && <Unseen>, the best</Unseen>}
                  </Cell>
                ))}
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
        </Table>
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

const verdictInWords = ({ verdict, stands }: ReleaseCheck) =>
  stands.length === 0 ? 'none' : VERDICT_WORDS[verdict]

/** The plans' results, one after the other. */
function useOutcomes(meshKey: string | undefined, plans: readonly Plan[]): Readonly<Record<string, Found>> {
  const [found, setFound] = useState<Readonly<Record<string, Found>>>({})
  const asked = plans.map(({ id, revision }) => `${id} ${revision}`).join()
  useEffect(() => {
    if (!meshKey) return
    let live = true
    void (async () => {
      for (const { id, document } of plans) {
        if (!live) return
        // A plan that cannot be worked out stays without numbers.
        const outcome = await unwrap(planning.beside(meshKey, document as PlanDocument)).catch(() => null)
        if (live && outcome) setFound((before) => ({ ...before, [id]: outcome }))
      }
    })()
    return () => {
      live = false
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- plans are told by their revision
  }, [meshKey, asked])
  return found
}

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
