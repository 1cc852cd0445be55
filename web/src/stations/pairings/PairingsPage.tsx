import type { StoredFilament } from '@tender/contract'
import { FAMILIES, type Family } from '@tender/core/bench'
import { pairingSentence } from '@tender/core/pairing'
import { useMemo, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { LinkButton } from '../../ui/Button'
import { Choice, Segments, TextInput, Toggle } from '../../ui/fields'
import { usePortion } from '../../ui/usePortion'
import { Page } from '../../ui/Page'
import { Sentence, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { BridgeDrawing } from './BridgeDrawing'
import { PairingMatrix } from './PairingMatrix'
import { usePairings } from './usePairings'
import { WithPairings } from './WithPairings'
import { at, length } from '../../theme/measures'

type Order = 'family' | 'name' | 'tender'
const ORDERS: readonly { readonly value: Order; readonly label: string }[] = [
  { value: 'family', label: 'by family' },
  { value: 'name', label: 'by name' },
  { value: 'tender', label: 'cleanest first' },
]

/** Every filament of the bench against every other: how they cling, and what of it was measured. */
export function PairingsPage() {
  const filaments = useList('filaments')
  return (
    <Page
      over="What clings to what on this bench"
      title="Pairings"
      actions={
        <LinkButton to="/bench" $main={filaments.data?.items.length === 0}>
          Add a filament
        </LinkButton>
      }
    >
      <Loaded query={filaments}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty>
              No filament yet. Two make a pairing: one for the part, one that touches it. Put them on the
              bench first.
            </Empty>
          ) : (
            <WithPairings>
              <PairingsOf filaments={items} />
            </WithPairings>
          )
        }
      </Loaded>
    </Page>
  )
}

function PairingsOf({ filaments }: { filaments: readonly StoredFilament[] }) {
  const [params, setParams] = useSearchParams()
  const [search, setSearch] = useState('')
  const [family, setFamily] = useState<Family | 'all'>('all')
  const [order, setOrder] = useState<Order>('family')
  const [measured, setMeasured] = useState(false)
  const navigate = useNavigate()
  const { knownOf } = usePairings()

  const shown = useMemo(() => {
    const bests = new Map<StoredFilament, number>()
    const best = (one: StoredFilament) => bests.get(one) ?? bests.set(one, bestOf(one)).get(one)!
    const bestOf = (one: StoredFilament) =>
      Math.max(
        ...filaments
          .filter((other) => other.id !== one.id)
          .map((other) => knownOf(one, other))
          .map(({ fit, source }) => fit.pTender + (source === 'measured' ? 1 : 0)),
        0,
      )
    const compare = {
      name: (a: StoredFilament, b: StoredFilament) => a.name.localeCompare(b.name),
      family: (a: StoredFilament, b: StoredFilament) =>
        FAMILIES.indexOf(a.family) - FAMILIES.indexOf(b.family) || a.name.localeCompare(b.name),
      tender: (a: StoredFilament, b: StoredFilament) => best(b) - best(a),
    }[order]
    return filaments
      .filter(
        (one) =>
          one.name.toLowerCase().includes(search.trim().toLowerCase()) &&
          (family === 'all' || one.family === family),
      )
      .filter(
        (one) =>
          !measured ||
          filaments.some(
            (other) => knownOf(one, other).source === 'measured' || knownOf(other, one).source === 'measured',
          ),
      )
      .toSorted(compare)
  }, [filaments, search, family, order, measured, knownOf])

  const find = (id: string | null, otherwise: StoredFilament | undefined) =>
    shown.find((one) => one.id === id) ?? otherwise
  const part = find(params.get('part'), shown[0])
  const touching = find(params.get('touching'), shown[1] ?? shown[0])
  const { shown: portion, more } = usePortion(shown)
  const many = filaments.length > 8
  const families = FAMILIES.filter((name) => filaments.some((one) => one.family === name))
  return (
    <>
      {many && (
        <Tools>
          <TextInput label="Search by name" value={search} onChange={setSearch} />
          <Choice<Family | 'all'>
            label="Family"
            value={family}
            onChange={setFamily}
            options={[
              { value: 'all', label: 'all families' },
              ...families.map((value) => ({ value, label: value })),
            ]}
          />
          <Segments label="Order" value={order} onChange={setOrder} options={ORDERS} />
          <Toggle value={measured} onChange={setMeasured}>
            Only what was measured
          </Toggle>
        </Tools>
      )}
      {!part || !touching ? (
        <Empty>No filament fits. Search for less, or show all families.</Empty>
      ) : (
        <Columns>
          <Sheet aria-label="All pairings">
            {!many && (
              <Tools>
                <Segments label="Order" hideLabel value={order} onChange={setOrder} options={ORDERS} />
                <Toggle value={measured} onChange={setMeasured}>
                  Only what was measured
                </Toggle>
              </Tools>
            )}
            <PairingMatrix
              filaments={portion}
              knownOf={knownOf}
              selected={{ part: part.id, touching: touching.id }}
              onSelect={(partId, touchingId) =>
                setParams({ part: partId, touching: touchingId }, { replace: true })
              }
              onOpen={(partId, touchingId) => void navigate(`/pairings/${partId}/${touchingId}`)}
            />
            {more}
            <SoftLine>
              Threads between two: how strongly they cling. A full frame: measured, with the share of contacts
              that come off clean. Dashed: a starting guess.
            </SoftLine>
          </Sheet>
          <Sheet aria-label="The pairing picked" aria-live="polite">
            <Title>
              {part.id === touching.id
                ? `${part.name} on itself`
                : `${part.name} touched by ${touching.name}`}
            </Title>
            <Picked part={part} touching={touching} />
            <LinkButton to={`/pairings/${part.id}/${touching.id}`}>Look closer</LinkButton>
          </Sheet>
        </Columns>
      )}
    </>
  )
}

function Picked({ part, touching }: { part: StoredFilament; touching: StoredFilament }) {
  const { knownOf, chainOf, bondInWords } = usePairings()
  const known = knownOf(part, touching)
  const chain = chainOf(part, touching, part)
  return (
    <>
      <BridgeDrawing
        chain={chain}
        colours={{ part: part.colour, touching: touching.colour, bulk: part.colour }}
      />
      <Sentence>{pairingSentence(known)}</Sentence>
      <SoftLine>{bondInWords(part, touching, part)}</SoftLine>
    </>
  )
}

const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.l};
  align-items: end;
  margin-bottom: ${({ theme }) => theme.space.s};
  > label {
    min-height: ${length.control};
  }
`
const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(${length.xl}, 3fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
  section:last-child {
    display: grid;
    gap: ${({ theme }) => theme.space.m};
    justify-items: start;
  }
`
const Title = styled(SheetTitle)`
  font-size: ${({ theme }) => theme.size.body};
  color: ${({ theme }) => theme.color.ink};
`
