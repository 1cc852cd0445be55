import type { Plan, PlanFigures } from '@tender/contract'
import type { ColumnDef } from '@tanstack/react-table'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { usePages, useRemove } from '../../api/useShelf'
import { chance, duration, grams, money } from '../../format/numbers'
import { Button, LinkButton } from '../../ui/Button'
import { TextInput } from '../../ui/fields'
import { ToolRow } from '../../ui/ListTools'
import { MoreRows } from '../../ui/MoreRows'
import { Page } from '../../ui/Page'
import { Sheet, Sideways, Soft, SoftLine, Unseen } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { SortedTable } from '../../ui/SortedTable'
import { useOutdated } from './useOutdated'

/** All plans with their price, to be compared. */
export function PlansPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState('part')
  const plans = usePages('plans', { search, order })
  return (
    <Page
      over="How parts are held, and what that costs"
      title="Plans"
      actions={<LinkButton to="/parts">Plan another part</LinkButton>}
    >
      <ToolRow>
        <TextInput label="Search by name" value={search} onChange={setSearch} />
      </ToolRow>
      <Loaded query={plans}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty
              action={
                <LinkButton $main to="/parts">
                  Choose a part
                </LinkButton>
              }
            >
              {search
                ? 'No plan is called that.'
                : 'No plan yet. A plan starts from a part: open one and press “Plan how to hold it”.'}
            </Empty>
          ) : (
            <>
              <PlanTable plans={items} order={order} onOrder={setOrder} />
              <MoreRows pages={plans} />
            </>
          )
        }
      </Loaded>
    </Page>
  )
}

const figure = (
  id: string,
  header: string,
  value: (figures: PlanFigures) => number | null,
  show: (value: number) => string,
): ColumnDef<Plan> => ({
  id,
  header,
  meta: { right: true },
  accessorFn: ({ figures }) => (figures && value(figures)) ?? undefined,
  cell: ({ row, getValue }) =>
    row.original.figures === null ? (
      <Soft>–</Soft>
    ) : getValue() === undefined ? (
      '–'
    ) : (
      show(getValue<number>())
    ),
})

function PlanTable({
  plans,
  order,
  onOrder,
}: {
  plans: readonly Plan[]
  order: string
  onOrder: (order: string) => void
}) {
  const remove = useRemove('plans')
  const outdated = useOutdated(plans)
  const columns = useMemo<ColumnDef<Plan>[]>(
    () => [
      {
        id: 'name',
        header: 'Plan',
        accessorFn: ({ document }) => document.name,
        cell: ({ row: { original: plan } }) => (
          <>
            <Link to={`/plans/${plan.id}`}>{plan.document.name}</Link>
            {outdated.has(plan.id) && <SoftLine>Stands on older readings: {outdated.get(plan.id)}.</SoftLine>}
            {plan.figures === null && <SoftLine>not worked out yet</SoftLine>}
          </>
        ),
      },
      { id: 'part', header: 'Part', accessorFn: ({ partName }) => partName },
      figure('mass', 'filament', ({ massG }) => massG, grams),
      figure('waste', 'thrown away', ({ wasteG }) => wasteG, grams),
      figure('cost', 'money', ({ cost }) => cost, money),
      figure('time', 'time', ({ timeS }) => timeS, duration),
      figure('swaps', 'swaps', ({ swaps }) => swaps, String),
      figure('clean', 'comes off clean', ({ pTender }) => pTender, chance),
      {
        id: 'do',
        header: () => <Unseen>What can be done</Unseen>,
        meta: { right: true },
        enableSorting: false,
        cell: ({ row: { original: plan } }) => (
          <Button
            quiet
            onPress={() => remove.mutate({ id: plan.id, name: plan.document.name })}
            aria-label={`Remove ${plan.document.name} of ${plan.partName}`}
          >
            Remove
          </Button>
        ),
      },
    ],
    [outdated, remove],
  )
  return (
    <Sheet>
      <Sideways>
        <SortedTable rows={plans} columns={columns} order={order} onOrder={onOrder} />
      </Sideways>
    </Sheet>
  )
}
