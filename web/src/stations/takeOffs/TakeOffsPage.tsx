import { WHOLE, type StoredTakeOff } from '@tender/contract'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { ContactMap } from '../../drawings/ContactMap'
import { day, duration } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { ListTools } from '../../ui/ListTools'
import { Page } from '../../ui/Page'
import { Num, Sheet, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { usePortion } from '../../ui/usePortion'
import { recordSentence } from './words'

const ORDERS = {
  newest: (a: StoredTakeOff, b: StoredTakeOff) => b.printedOn.localeCompare(a.printedOn),
  name: (a: StoredTakeOff, b: StoredTakeOff) => a.name.localeCompare(b.name),
} as const

/** All prints that were made, with how their supports came off. */
export function TakeOffsPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<keyof typeof ORDERS>('newest')
  const takeOffs = useList('takeOffs', search)
  return (
    <Page
      over="What came off, and what it teaches"
      title="Take-offs"
      actions={<LinkButton to="/plans">From a plan</LinkButton>}
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
      <Loaded query={takeOffs}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty
              action={
                <LinkButton $main to="/plans">
                  Choose a plan
                </LinkButton>
              }
            >
              {search
                ? 'No take-off is called that.'
                : 'No print taken off yet. When a plan has been printed, open it and press “It is printed”: its contacts are then read here one by one.'}
            </Empty>
          ) : (
            <TakeOffCards takeOffs={items.toSorted(ORDERS[order])} />
          )
        }
      </Loaded>
    </Page>
  )
}

function TakeOffCards({ takeOffs }: { takeOffs: readonly StoredTakeOff[] }) {
  const { shown, more } = usePortion(takeOffs)
  return (
    <>
      <Cards>
        {shown.map((takeOff) => (
          <TakeOffCard key={takeOff.id} takeOff={takeOff} />
        ))}
      </Cards>
      {more}
    </>
  )
}

function TakeOffCard({ takeOff }: { takeOff: StoredTakeOff }) {
  const { id, name, partName, printedOn, printed, notes } = takeOff
  const byKey = new Map(notes.map((note) => [note.at, note]))
  const minutes = byKey.get(WHOLE)?.minutes ?? null
  return (
    <Card as="article">
      <div>
        <SoftLine>
          {partName}, printed {day(printedOn)}
        </SoftLine>
        <h2>
          <Link to={`/take-offs/${id}`}>{name}</Link>
        </h2>
        <p>{recordSentence(takeOff)}</p>
        <SoftLine>
          {minutes === null ? 'Nobody looked at the clock' : <>Taken off in {duration(60 * minutes)}</>},
          guessed <Num>{duration(60 * printed.minutes)}</Num>
        </SoftLine>
      </div>
      <ContactMap printed={printed} markOf={(key) => byKey.get(key)} />
    </Card>
  )
}

const Cards = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
  gap: ${({ theme }) => theme.space.m};
  @media (max-width: 640px) {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Card = styled(Sheet)`
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 128px;
  gap: ${({ theme }) => theme.space.m};
  align-items: center;
  h2 {
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.serif}`};
    margin-bottom: ${({ theme }) => theme.space.xs};
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
    margin-bottom: ${({ theme }) => theme.space.sm};
  }
  svg {
    max-height: 128px;
  }
`
