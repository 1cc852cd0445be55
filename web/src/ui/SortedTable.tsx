import { flexRender, getCoreRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { Fragment, type ReactNode } from 'react'
import { Button } from 'react-aria-components'
import styled from 'styled-components'
import { Table } from './Sheet'
import { length } from '../theme/measures'

const SAID = { asc: 'ascending', desc: 'descending' } as const

/**
 * The rows of a list that comes in pages, ordered by a press on a column's head: the server orders them, as
 * only it has them all. A column that can be ordered by has the name of that order. Columns of numbers say so
 * by `meta.right`.
 */
export function SortedTable<T extends { readonly id: string }>({
  rows,
  columns,
  order,
  onOrder,
  under,
}: {
  rows: readonly T[]
  columns: ColumnDef<T>[]
  /** Name of a column, with - before it downwards. */
  order: string
  onOrder: (order: string) => void
  /** Rows of the table that belong to a row and move with it. */
  under?: (row: T) => ReactNode
}) {
  const sorting = order === '' ? [] : [{ id: order.replace('-', ''), desc: order.startsWith('-') }]
  const table = useReactTable({
    data: rows as T[],
    columns,
    state: { sorting },
    manualSorting: true,
    onSortingChange: (change) => {
      const [next] = typeof change === 'function' ? change(sorting) : change
      onOrder(next ? `${next.desc ? '-' : ''}${next.id}` : '')
    },
    getRowId: ({ id }) => id,
    getCoreRowModel: getCoreRowModel(),
  })
  const side = (meta: unknown) => ((meta as { right?: boolean } | undefined)?.right ? 'right' : undefined)
  return (
    <Table>
      <thead>
        <tr>
          {table.getFlatHeaders().map(({ id, column, getContext }) => {
            const sorted = column.getIsSorted()
            const head = flexRender(column.columnDef.header, getContext())
            return (
              <th
                key={id}
                className={side(column.columnDef.meta)}
                aria-sort={sorted ? SAID[sorted] : undefined}
              >
                {column.getCanSort() ? (
                  <Head onPress={() => column.toggleSorting()}>
                    {head}
                    {sorted === 'asc' && <ArrowUp size={13} aria-hidden />}
                    {sorted === 'desc' && <ArrowDown size={13} aria-hidden />}
                  </Head>
                ) : (
                  head
                )}
              </th>
            )
          })}
        </tr>
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <Fragment key={row.id}>
            <tr>
              {row.getVisibleCells().map(({ id, column, getContext }) => (
                <td key={id} className={side(column.columnDef.meta)}>
                  {flexRender(column.columnDef.cell, getContext())}
                </td>
              ))}
            </tr>
            {under?.(row.original)}
          </Fragment>
        ))}
      </tbody>
    </Table>
  )
}

const Head = styled(Button)`
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  display: inline-flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.xs};
  min-height: ${length.small};
  &[data-hovered] {
    color: ${({ theme }) => theme.color.damson};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
`
