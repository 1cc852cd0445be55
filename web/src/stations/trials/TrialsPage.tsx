import { knownTrial, type Trial } from '@tender/contract'
import { stepsOf } from '@tender/core/trial'
import { useState } from 'react'
import { Link } from 'react-router'
import { usePages } from '../../api/useShelf'
import { day } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { Card, Cards } from '../../ui/Cards'
import { ListTools } from '../../ui/ListTools'
import { MoreRows } from '../../ui/MoreRows'
import { Page } from '../../ui/Page'
import { Num, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { GradeStrip } from './GradeStrip'
import { NextPrints } from './NextPrints'
import { useFit } from '../../workers/useFit'
import { KINDS } from './trialKinds'
import { saidOf } from './trialSentence'

const ORDERS = [
  { value: '-printed', label: 'newest first' },
  { value: 'name', label: 'by name' },
] as const

/** All printed tests with what they say. */
export function TrialsPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<(typeof ORDERS)[number]['value']>('-printed')
  const trials = usePages('trials', { search, order })
  return (
    <Page
      over="Printed tests and what they say"
      title="Trials"
      actions={
        <LinkButton $main to="/trials/new">
          A new trial
        </LinkButton>
      }
    >
      <ListTools search={search} onSearch={setSearch} order={order} onOrder={setOrder} orders={ORDERS} />
      <Loaded query={trials}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty>
              {search
                ? 'No trial is called that.'
                : 'No trial yet. Print an overhang fan or a gap ladder, then read it here arm by arm, tile by tile: “A new trial” makes the coupon.'}
            </Empty>
          ) : (
            <>
              {!search && <NextPrints />}
              <Cards>
                {items.map((trial) => (
                  <TrialCard key={trial.id} trial={trial} />
                ))}
              </Cards>
              <MoreRows pages={trials} />
            </>
          )
        }
      </Loaded>
    </Page>
  )
}

/** Which filaments a trial is about. */
const filamentsOf = ({ coupon, partFilamentName: part, supportFilamentName: other }: Trial) =>
  coupon.kind === 'gap'
    ? part === other
      ? `${part} on itself`
      : `${other} under ${part}`
    : part === other
      ? part
      : `${part} and ${other}`

function TrialCard({ trial }: { trial: Trial }) {
  const { coupon, readings } = trial
  const says = useFit(['says', trial.id, trial.updatedAt, trial.readings], (api) =>
    api.sentence(knownTrial(trial), saidOf(trial)),
  )
  return (
    <Card as="article">
      <SoftLine>
        {KINDS[coupon.kind].name}, {day(trial.printedOn)}
      </SoftLine>
      <h2>
        <Link to={`/trials/${trial.id}`}>{trial.name}</Link>
      </h2>
      <p>{says ?? '…'}</p>
      <GradeStrip coupon={coupon} readings={readings} />
      <SoftLine>
        {filamentsOf(trial)}, <Num>{readings.length}</Num> of <Num>{stepsOf(coupon).length}</Num> steps read
        {trial.damp ? ', damp spool' : ''}
        {trial.leftOut ? ', left out' : ''}
        {trial.simulated ? ', simulated' : ''}
      </SoftLine>
    </Card>
  )
}
