import type { SpoolFields, StoredFilament } from '@tender/contract'
import type { ColumnDef } from '@tanstack/react-table'
import { useState } from 'react'
import styled from 'styled-components'
import { usePages, useRemove } from '../../api/useShelf'
import { day, grams, money, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Swatch } from '../../ui/fields'
import { MoreRows } from '../../ui/MoreRows'
import { Sentence, Sideways, Soft, SoftLine, Unseen } from '../../ui/Sheet'
import { SortedTable } from '../../ui/SortedTable'
import { Loaded } from '../../ui/States'
import { WeighDialog } from './WeighDialog'
import { length } from '../../theme/measures'

/** Filaments, each with its spools under it. */
export function FilamentTable({ onEdit }: { onEdit: (id: string) => void }) {
  const [order, setOrder] = useState('name')
  const filaments = usePages('filaments', { order })
  const remove = useRemove('filaments')
  const [weighing, setWeighing] = useState<{ filament: StoredFilament; spool: SpoolFields } | null>(null)
  const columns: ColumnDef<StoredFilament>[] = [
    {
      id: 'name',
      header: 'Name',
      accessorFn: ({ name }) => name,
      cell: ({ row: { original } }) => (
        <Named>
          <Swatch style={{ background: original.colour }} /> {original.name}
        </Named>
      ),
    },
    { id: 'family', header: 'Family', accessorFn: ({ family }) => family },
    {
      id: 'left',
      header: 'left',
      meta: { right: true },
      accessorFn: ({ spools }) => (spools.length > 0 ? leftOf(spools) : undefined),
      cell: ({ row: { original } }) =>
        original.spools.length === 0 ? <Soft>not weighed</Soft> : grams(leftOf(original.spools)),
    },
    {
      id: 'price',
      header: 'per kg',
      meta: { right: true },
      accessorFn: ({ pricePerKg }) => pricePerKg,
      cell: ({ row: { original } }) => money(original.pricePerKg),
    },
    {
      id: 'heat',
      header: 'nozzle, bed',
      meta: { right: true },
      accessorFn: ({ nozzleC }) => nozzleC,
      cell: ({ row: { original } }) => `${three(original.nozzleC)}, ${three(original.bedC)} °C`,
    },
    {
      id: 'done',
      header: () => <Unseen>What can be done</Unseen>,
      meta: { right: true },
      enableSorting: false,
      cell: ({ row: { original } }) => (
        <>
          <Button onPress={() => onEdit(original.id)} aria-label={`Change ${original.name}`}>
            Change
          </Button>{' '}
          <Button
            quiet
            onPress={() => remove.mutate({ id: original.id, name: original.name })}
            aria-label={`Remove ${original.name}`}
          >
            Remove
          </Button>
        </>
      ),
    },
  ]
  return (
    <Loaded query={filaments}>
      {({ items }) =>
        items.length === 0 ? (
          <Sentence>No filament yet. Two make a pairing: one for the part, one that touches it.</Sentence>
        ) : (
          <Scroll>
            <SortedTable
              rows={items}
              columns={columns}
              order={order}
              onOrder={setOrder}
              under={(one) =>
                one.spools.map((spool, i) => (
                  <SpoolRow key={spool.id}>
                    <td colSpan={2}>
                      <SoftLine as="span">{about(spool)}</SoftLine>
                    </td>
                    <td className="right">{grams(spool.gramsLeft)}</td>
                    <td className="right">{spool.pricePerKg !== null && money(spool.pricePerKg)}</td>
                    <td />
                    <td className="right">
                      <Button
                        quiet
                        onPress={() => setWeighing({ filament: one, spool })}
                        aria-label={`Weigh spool ${i + 1} of ${one.name}`}
                      >
                        Weigh
                      </Button>
                    </td>
                  </SpoolRow>
                ))
              }
            />
            <MoreRows pages={filaments} />
            {weighing && <WeighDialog {...weighing} onClose={() => setWeighing(null)} />}
          </Scroll>
        )
      }
    </Loaded>
  )
}

/** What is left on all spools of a filament, g. */
const leftOf = (spools: readonly SpoolFields[]) => spools.reduce((sum, { gramsLeft }) => sum + gramsLeft, 0)

/** A spool in a line: what is written on it, when it was opened and dried, whether it is damp. */
function about({ label, lot, openedOn, driedOn, damp }: SpoolFields): string {
  const parts = [
    label,
    lot && `lot ${lot}`,
    openedOn && `opened ${day(openedOn)}`,
    driedOn && `dried ${day(driedOn)}`,
    damp && 'damp',
  ].filter(Boolean)
  return parts.length > 0 ? parts.join(', ') : 'a spool'
}

const Named = styled.span`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  font-weight: 500;
`
const SpoolRow = styled.tr`
  td {
    border-top: 0;
    padding-top: 0;
    padding-bottom: ${({ theme }) => theme.space.sm};
  }
  td:first-child {
    padding-left: ${({ theme }) => theme.space.xl};
  }
  button {
    min-height: ${length.small};
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.md}`};
  }
`
const Scroll = styled(Sideways)`
  margin-bottom: ${({ theme }) => theme.space.m};
`
