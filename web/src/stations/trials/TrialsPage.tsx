import type { Trial } from '@tender/contract'
import { fanReadings, fanSentence, fitFan, fitGap, gapReadings, gapSentence, stepsOf } from '@tender/core/trial'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { day } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { ListTools } from '../../ui/ListTools'
import { Page } from '../../ui/Page'
import { Num, Sheet, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { GradeStrip } from './GradeStrip'
import { KIND_NAMES } from './TrialPage'

const ORDERS = {
  newest: (a: Trial, b: Trial) => b.printedOn.localeCompare(a.printedOn),
  name: (a: Trial, b: Trial) => a.name.localeCompare(b.name),
} as const

/** All printed tests with what they say. */
export function TrialsPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<keyof typeof ORDERS>('newest')
  const trials = useList('trials', search)
  return (
    <Page
      over="Printed tests and what they say"
      title="Trials"
      actions={
        <>
          <LinkButton to="/trials/new/fan">Read an overhang fan</LinkButton>
          <LinkButton $main to="/trials/new/gap">
            Read a gap ladder
          </LinkButton>
        </>
      }
    >
      <ListTools
        search={search}
        onSearch={setSearch}
        order={order}
        onOrder={setOrder}
        orders={[
          { value: 'newest', label: 'newest first' },
          { value: 'name', label: 'by name' },
        ]}
      />
      <Loaded query={trials}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty>{search ? 'No trial is called that.' : 'No trial yet. Print an overhang fan or a gap ladder, then read it here arm by arm, tile by tile.'}</Empty>
          ) : (
            <Cards>
              {items.toSorted(ORDERS[order]).map((trial) => (
                <TrialCard key={trial.id} trial={trial} />
              ))}
            </Cards>
          )
        }
      </Loaded>
    </Page>
  )
}

const pairing = ({ partFilamentName: part, supportFilamentName: touching }: Trial) => (part === touching ? `${part} on itself` : `${touching} under ${part}`)

function TrialCard({ trial }: { trial: Trial }) {
  const { coupon, readings } = trial
  const says = useMemo(
    () =>
      coupon.kind === 'fan'
        ? fanSentence(fitFan(fanReadings(coupon, readings, trial.layerHeightMm, trial.lineWidthMm)))
        : gapSentence(fitGap(gapReadings(coupon, readings), { lineWidthMm: trial.lineWidthMm })),
    [coupon, readings, trial.layerHeightMm, trial.lineWidthMm],
  )
  return (
    <Card as="article">
      <SoftLine>
        {KIND_NAMES[coupon.kind]}, {day(trial.printedOn)}
      </SoftLine>
      <h2>
        <Link to={`/trials/${trial.id}`}>{trial.name}</Link>
      </h2>
      <p>{says}</p>
      <GradeStrip coupon={coupon} readings={readings} />
      <SoftLine>
        {coupon.kind === 'fan' ? trial.partFilamentName : pairing(trial)}, <Num>{readings.length}</Num> of <Num>{stepsOf(coupon).length}</Num> steps read
        {trial.damp ? ', damp spool' : ''}
      </SoftLine>
    </Card>
  )
}

const Cards = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: ${({ theme }) => theme.space.m};
`
const Card = styled(Sheet)`
  position: relative;
  h2 {
    font: 500 19px ${({ theme }) => theme.font.serif};
    margin-bottom: 4px;
  }
  h2 a {
    text-decoration: none;
  }
  h2 a::after {
    content: '';
    position: absolute;
    inset: 0;
    border-radius: ${({ theme }) => theme.radius.m};
  }
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
  p {
    margin-bottom: 6px;
  }
`
