import type { Part, Plan } from '@tender/contract'
import type { ReactNode } from 'react'
import { useParams } from 'react-router'
import { useList, useOne } from '../../api/useShelf'
import { Loaded } from '../../ui/States'

/** The part that the address names, with its plans: what was worked on last comes first. */
export function PlansOfPart({ children }: { children: (part: Part, plans: readonly Plan[]) => ReactNode }) {
  const { id = '' } = useParams()
  const part = useOne('parts', id)
  const plans = useList('plans', { part: id, order: '-touched' })
  return (
    <Loaded query={part}>
      {(found) => <Loaded query={plans}>{({ items }) => children(found, items)}</Loaded>}
    </Loaded>
  )
}
