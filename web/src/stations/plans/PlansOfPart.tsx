import type { Part, Plan } from '@tender/contract'
import type { ReactNode } from 'react'
import { useParams } from 'react-router'
import { useList, useOne } from '../../api/useShelf'
import { WaitingPage } from '../../ui/Page'
import { Loaded } from '../../ui/States'

/** The part that the address names, with its plans: what was worked on last comes first. */
export function PlansOfPart({ children }: { children: (part: Part, plans: readonly Plan[]) => ReactNode }) {
  const { id = '' } = useParams()
  const part = useOne('parts', id)
  const plans = useList('plans', { part: id, order: '-touched' })
  return (
    <Loaded query={part} skeleton={<WaitingPage />}>
      {(found) => (
        <Loaded query={plans} skeleton={<WaitingPage />}>
          {({ items }) => children(found, items)}
        </Loaded>
      )}
    </Loaded>
  )
}
