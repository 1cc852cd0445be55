import type { Part } from '@tender/contract'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { counted, three } from '../../format/numbers'
import { ListTools } from '../../ui/ListTools'
import { usePortion } from '../../ui/usePortion'
import { Card, Cards } from '../../ui/Cards'
import { Page } from '../../ui/Page'
import { Num, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { Button } from '../../ui/Button'
import { BringIn } from './BringIn'
import { PartPicture } from './PartPicture'
import { newestVersions } from './versions'

const ORDERS = {
  name: (a: Part, b: Part) => a.name.localeCompare(b.name),
  newest: (a: Part, b: Part) => b.updatedAt.localeCompare(a.updatedAt),
} as const

/** Everything that is to be printed. */
export function PartsPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<keyof typeof ORDERS>('name')
  const [tag, setTag] = useState<string | null>(null)
  const parts = useList('parts', { search })
  const tags = [...new Set(parts.data?.items.flatMap((part) => part.tags) ?? [])].toSorted()
  return (
    <Page over="What is to be printed" title="Parts">
      <BringIn />
      <ListTools
        label="Search by name or tag"
        search={search}
        onSearch={setSearch}
        order={order}
        onOrder={setOrder}
        orders={[
          { value: 'name', label: 'by name' },
          { value: 'newest', label: 'last touched first' },
        ]}
      />
      {tags.length > 0 && (
        <TagRow role="group" aria-label="Only with the tag">
          {tags.map((one) => (
            <Button key={one} aria-pressed={tag === one} onPress={() => setTag(tag === one ? null : one)}>
              {one}
            </Button>
          ))}
        </TagRow>
      )}
      <Loaded query={parts}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty>
              {search
                ? 'No part is called or tagged that.'
                : 'No part yet. Drop an STL, OBJ or 3MF file above, and see what of it leans too far.'}
            </Empty>
          ) : (
            <PartCards
              parts={newestVersions(items.filter(({ tags }) => tag === null || tags.includes(tag))).toSorted(
                (a, b) => ORDERS[order](a.part, b.part),
              )}
            />
          )
        }
      </Loaded>
    </Page>
  )
}

function PartCards({ parts }: { parts: ReturnType<typeof newestVersions> }) {
  const { shown, more } = usePortion(parts)
  return (
    <>
      <Cards $widthPx={220}>
        {shown.map(({ part, versions }) => (
          <Pictured as="article" key={part.id}>
            <PartPicture meshSha256={part.meshSha256} pose={part.pose} />
            <h2>
              <Link to={`/parts/${part.id}`}>{part.name}</Link>
            </h2>
            <p>
              <Num>{part.facts.sizeMm.map((side) => three(side * part.pose.scale)).join(' × ')}</Num> mm
            </p>
            <SoftLine>
              {versions > 1 ? `${versions} versions, ` : ''}
              {counted(part.facts.triangles, 'triangle')},{' '}
              {part.facts.watertight ? 'closed' : `open: ${counted(part.facts.openEdges, 'edge')}`}
            </SoftLine>
            {part.tags.length > 0 && <SoftLine>{part.tags.join(' · ')}</SoftLine>}
          </Pictured>
        ))}
      </Cards>
      {more}
    </>
  )
}

const TagRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.sm};
`
const Pictured = styled(Card)`
  h2 {
    margin: ${({ theme }) => `${theme.space.sm} 0 0`};
  }
  p {
    margin: 0;
  }
`
