import type { Plan } from '@tender/contract'
import { useState } from 'react'
import { Link } from 'react-router'
import { useList, useRemove } from '../../api/useShelf'
import { chance, duration, grams, money } from '../../format/numbers'
import { Button, LinkButton } from '../../ui/Button'
import { ListTools } from '../../ui/ListTools'
import { Page } from '../../ui/Page'
import { Sheet, Soft, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { usePortion } from '../../ui/usePortion'
import { useOutdated } from './useOutdated'

const ORDERS = {
  part: (a: Plan, b: Plan) => a.partName.localeCompare(b.partName),
  mass: (a: Plan, b: Plan) => (a.figures?.massG ?? Infinity) - (b.figures?.massG ?? Infinity),
  time: (a: Plan, b: Plan) => (a.figures?.timeS ?? Infinity) - (b.figures?.timeS ?? Infinity),
} as const

/** All plans with their price, to be compared. */
export function PlansPage() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<keyof typeof ORDERS>('part')
  const plans = useList('plans', search)
  return (
    <Page
      over="How parts are held, and what that costs"
      title="Plans"
      actions={<LinkButton to="/parts">Plan another part</LinkButton>}
    >
      <ListTools
        search={search}
        onSearch={setSearch}
        order={order}
        onOrder={setOrder}
        orders={[
          { value: 'part', label: 'by part' },
          { value: 'mass', label: 'lightest first' },
          { value: 'time', label: 'quickest first' },
        ]}
      />
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
            <PlanTable plans={items.toSorted(ORDERS[order])} />
          )
        }
      </Loaded>
    </Page>
  )
}

function PlanTable({ plans }: { plans: readonly Plan[] }) {
  const remove = useRemove('plans')
  const { shown, more } = usePortion(plans)
  const outdated = useOutdated(shown)
  return (
    <Sheet style={{ overflowX: 'auto' }}>
      <Table>
        <thead>
          <tr>
            <th>Plan</th>
            <th>Part</th>
            <th className="right">filament</th>
            <th className="right">thrown away</th>
            <th className="right">money</th>
            <th className="right">time</th>
            <th className="right">swaps</th>
            <th className="right">comes off clean</th>
            <th>
              <Unseen>What can be done</Unseen>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((plan) => (
            <tr key={plan.id}>
              <td>
                <Link to={`/plans/${plan.id}`}>{plan.document.name}</Link>
                {outdated.has(plan.id) && (
                  <SoftLine>Stands on older readings: {outdated.get(plan.id)}.</SoftLine>
                )}
              </td>
              <td>{plan.partName}</td>
              {plan.figures ? (
                <>
                  <td className="right">{grams(plan.figures.massG)}</td>
                  <td className="right">{grams(plan.figures.wasteG)}</td>
                  <td className="right">{money(plan.figures.cost)}</td>
                  <td className="right">{duration(plan.figures.timeS)}</td>
                  <td className="right">{plan.figures.swaps}</td>
                  <td className="right">
                    {plan.figures.pTender === null ? '–' : chance(plan.figures.pTender)}
                  </td>
                </>
              ) : (
                <td colSpan={6} className="right">
                  <Soft>not worked out yet</Soft>
                </td>
              )}
              <td className="right">
                <Button
                  quiet
                  onPress={() => remove.mutate({ id: plan.id, name: plan.document.name })}
                  aria-label={`Remove ${plan.document.name} of ${plan.partName}`}
                >
                  Remove
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {more}
    </Sheet>
  )
}
