import {
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { Fragment, useState, type ReactNode } from 'react'
import { Button } from 'react-aria-components'
import styled from 'styled-components'
import { Table } from './Sheet'
import { usePortion } from './usePortion'
import { length } from '../theme/measures'

const SAID = { asc: 'ascending', desc: 'descending' } as const

/**
 * A long table that is sorted by a press on a column's head, and drawn a hundred rows at a time. Columns of
 * numbers say so by `meta.right`.
 */
export function SortedTable<T extends { readonly id: string }>({
  rows,
  columns,
  start = [],
  under,
}: {
  rows: readonly T[]
  columns: ColumnDef<T>[]
  /** How it is sorted at first; as given without. */
  start?: SortingState
  /** Rows of the table that belong to a row and move with it. */
  under?: (row: T) => ReactNode
}) {
  const [sorting, setSorting] = useState(start)
  const table = useReactTable({
    data: rows as T[],
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getRowId: ({ id }) => id,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  })
  const { shown, more } = usePortion(table.getRowModel().rows)
  const side = (meta: unknown) => ((meta as { right?: boolean } | undefined)?.right ? 'right' : undefined)
  return (
    <>
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
          {shown.map((row) => (
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
      {more}
    </>
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
