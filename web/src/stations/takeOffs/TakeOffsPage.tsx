import { WHOLE, type StoredTakeOff } from '@tender/contract'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { usePages } from '../../api/useShelf'
import { ContactMap } from '../../drawings/ContactMap'
import { day, duration } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { Card, Cards } from '../../ui/Cards'
import { ListTools } from '../../ui/ListTools'
import { MoreRows } from '../../ui/MoreRows'
import { Page } from '../../ui/Page'
import { Num, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { recordSentence } from './words'
import { length } from '../../theme/measures'

const ORDERS = [
  { value: '-printed', label: 'newest first' },
  { value: 'name', label: 'by name' },
] as const

/** All prints that were made, with how their supports came off. */
export function TakeOffsPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<(typeof ORDERS)[number]['value']>('-printed')
  const takeOffs = usePages('takeOffs', { search, order })
  return (
    <Page
      over="What came off, and what it teaches"
      title="Take-offs"
      actions={<LinkButton to="/plans">From a plan</LinkButton>}
    >
      <ListTools search={search} onSearch={setSearch} order={order} onOrder={setOrder} orders={ORDERS} />
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
                : 'No print taken off yet. When a plan has been printed, open it and choose “It is printed” under “Take to printer”: its contacts are then read here one by one.'}
            </Empty>
          ) : (
            <>
              <Cards $widthPx={360}>
                {items.map((takeOff) => (
                  <TakeOffCard key={takeOff.id} takeOff={takeOff} />
                ))}
              </Cards>
              <MoreRows pages={takeOffs} />
            </>
          )
        }
      </Loaded>
    </Page>
  )
}

function TakeOffCard({ takeOff }: { takeOff: StoredTakeOff }) {
  const { id, name, partName, printedOn, printed, notes } = takeOff
  const byKey = new Map(notes.map((note) => [note.at, note]))
  const minutes = byKey.get(WHOLE)?.minutes ?? null
  return (
    <WithPicture as="article">
      <div>
        <SoftLine>
          {partName}, printed {day(printedOn)}
          {takeOff.simulated && ', simulated'}
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
    </WithPicture>
  )
}

const WithPicture = styled(Card)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) ${length.s};
  gap: ${({ theme }) => theme.space.m};
  align-items: center;
  svg {
    max-height: ${length.s};
  }
`
