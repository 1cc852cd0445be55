import type { Trial, TrialInput } from '@tender/contract'
import { COUPON_KINDS, STARTING_COUPONS, type CouponKind } from '@tender/core/trial'
import { useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import styled from 'styled-components'
import { newId } from '../../keep/newId'
import { useOne, useSave } from '../../api/useShelf'
import { today } from '../../format/numbers'
import { Page, WaitingPage } from '../../ui/Page'
import { Sheet, SoftLine } from '../../ui/Sheet'
import { Loaded } from '../../ui/States'
import { TrialForm } from './TrialForm'
import { KINDS } from './trialKinds'
import { trialInputOf } from './useCouponOrder'
import { withSteps } from './withSteps'
import { length } from '../../theme/measures'

type Start = Parameters<typeof TrialForm>[0]['start']

const plain = {
  layerHeightMm: 0.2,
  lineWidthMm: 0.45,
  fanPercent: 100,
  damp: false,
  simulated: false,
  partLot: '',
  supportLot: '',
  note: '',
  leftOut: false,
}

/** Makes a coupon and describes its print, so that it can be read. */
export function NewTrialPage() {
  const { kind: asked } = useParams()
  const [params] = useSearchParams()
  const kind = COUPON_KINDS.find((one) => one === asked)
  const like = params.get('like')
  if (!kind) return <ChooseKind />
  if (like)
    return (
      <Again
        key={like}
        id={like}
        steps={(params.get('steps') ?? '').split(',').filter(Boolean).map(Number)}
      />
    )
  return (
    <Describe
      key={kind}
      kind={kind}
      start={{
        ...plain,
        name: `New ${KINDS[kind].name.toLowerCase()}`,
        coupon: structuredClone(STARTING_COUPONS[kind]) as TrialInput['coupon'],
        tileAreaMm2: kind === 'gap' ? 196 : null,
        printedOn: today(),
        ...named(params),
      }}
    />
  )
}

/** Filaments that the address asks for. */
function named(params: URLSearchParams): Partial<TrialInput> {
  const [part, touching] = [params.get('part'), params.get('touching')]
  return { ...(part ? { partFilamentId: part } : {}), ...(touching ? { supportFilamentId: touching } : {}) }
}

function ChooseKind() {
  return (
    <Page over="Which question to ask the printer" title="A new trial">
      <Cards>
        {COUPON_KINDS.map((kind) => (
          <Sheet key={kind} as="article">
            <h2>
              <Link to={`/trials/new/${kind}`}>{KINDS[kind].name}</Link>
            </h2>
            <SoftLine>{KINDS[kind].about}</SoftLine>
          </Sheet>
        ))}
      </Cards>
    </Page>
  )
}

/** The same print again, with other steps. */
function Again({ id, steps }: { id: string; steps: readonly number[] }) {
  const query = useOne('trials', id)
  return (
    <Loaded query={query} skeleton={<WaitingPage />}>
      {(trial) => <Describe kind={trial.coupon.kind} start={startLike(trial, steps)} />}
    </Loaded>
  )
}

function startLike(trial: Trial, steps: readonly number[]): Start {
  const input = trialInputOf(trial)
  const usable = [...new Set(steps.filter(Number.isFinite))].sort((a, b) => a - b)
  return {
    ...input,
    name: `${trial.name.slice(0, 70)}, more`,
    printedOn: today(),
    note: '',
    leftOut: false,
    coupon: usable.length > 0 ? withSteps(input.coupon, usable) : input.coupon,
  }
}

function Describe({ kind, start }: { kind: CouponKind; start: Start }) {
  const navigate = useNavigate()
  const save = useSave('trials')
  const [id] = useState(newId)
  return (
    <Page over="A test to print and read" title={KINDS[kind].name}>
      <TrialForm
        start={start}
        preview
        submitLabel="Read it"
        error={save.error}
        busy={save.isPending}
        onCancel={() => void navigate('/trials')}
        onSubmit={(input) =>
          save.mutate({ id, revision: null, input }, { onSuccess: () => void navigate(`/trials/${id}`) })
        }
      />
    </Page>
  )
}

const Cards = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${length.xl}, 1fr));
  gap: ${({ theme }) => theme.space.m};
  article {
    position: relative;
    min-height: ${length.xs};
  }
  h2 {
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.serif}`};
    margin-bottom: ${({ theme }) => theme.space.xs};
  }
  a {
    text-decoration: none;
  }
  a::after {
    content: '';
    position: absolute;
    inset: 0;
    border-radius: ${({ theme }) => theme.radius.m};
  }
  article:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
`
