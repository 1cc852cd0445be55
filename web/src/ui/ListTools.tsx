import styled from 'styled-components'
import { Segments, TextInput, type Option } from './fields'

type Props<T extends string> = {
  label?: string
  search: string
  onSearch: (text: string) => void
  order: T
  onOrder: (order: T) => void
  orders: readonly Option<T>[]
}

/** What every list has above it: search, by name unless it says more, and its orders. */
export function ListTools<T extends string>({
  label = 'Search by name',
  search,
  onSearch,
  order,
  onOrder,
  orders,
}: Props<T>) {
  return (
    <ToolRow>
      <TextInput label={label} value={search} onChange={onSearch} />
      <Segments label="Order" value={order} onChange={onOrder} options={orders} />
    </ToolRow>
  )
}

/** Above a list, one beside the other. */
export const ToolRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.l};
  align-items: end;
`
