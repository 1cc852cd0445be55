import type { Part, StoredTakeOff, TakeOffInput } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { ask } from '../../api/client'
import { shelves } from '../../api/shelves'
import { allOf } from '../../api/useShelf'
import { today } from '../../format/numbers'
import { newId } from '../../keep/newId'
import { useToasts } from '../../ui/Toasts'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'

/** What was printed: a plan's finished result. */
export type PrintOrder = { readonly planId: string; readonly part: Part; readonly resultId: string }

/** Keeps a plan as it was printed, and goes to where its contacts are read. */
export function useNewTakeOff() {
  const navigate = useNavigate()
  const client = useQueryClient()
  const toasts = useToasts()
  return useMutation({
    mutationFn: async (order: PrintOrder & { document: PlanDocument }): Promise<StoredTakeOff> =>
      keepPrint(order, null, await takenNames()),
    onSuccess: (takeOff) => {
      void client.invalidateQueries({ queryKey: ['takeOffs', 'list'] })
      return navigate(`/take-offs/${takeOff.id}`)
    },
    onError: (error) => toasts.show({ text: error.message }),
  })
}

/**
 * Keeps plans that were printed on one bed, in the order of their dots, and goes to where they stand side by
 * side.
 */
export function useNewBed(meshKey: string | undefined) {
  const navigate = useNavigate()
  const client = useQueryClient()
  return useMutation({
    mutationFn: async (
      orders: readonly (Omit<PrintOrder, 'resultId'> & { document: PlanDocument })[],
    ): Promise<string> => {
      const id = newId()
      const taken = await takenNames()
      for (const [n, order] of orders.entries()) {
        const { id: resultId } = await unwrap(planning().beside(meshKey!, order.document))
        const { name } = await keepPrint({ ...order, resultId }, { id, dots: n + 1 }, taken)
        taken.add(name)
      }
      return id
    },
    onSuccess: (id) => {
      void client.invalidateQueries({ queryKey: ['takeOffs', 'list'] })
      return navigate(`/take-offs/bed/${id}`)
    },
  })
}

export const takenNames = async () => new Set((await allOf('takeOffs')).items.map(({ name }) => name))

/** Keeps one print. @param simulated when no maker prints it */
export async function keepPrint(
  { planId, part, resultId, document }: PrintOrder & { document: PlanDocument },
  bed: TakeOffInput['bed'],
  taken: ReadonlySet<string>,
  simulated = false,
): Promise<StoredTakeOff> {
  const printed = await unwrap(planning().printed(resultId, document))
  if (!printed) throw new Error('The plan was worked out anew meanwhile. Try again in a moment.')
  const input = {
    name: freeName(`${part.name}, ${document.name}`, taken),
    printedOn: today(),
    partId: part.id,
    planId,
    bed,
    damp: false,
    simulated,
    lessonsLeftOut: [],
    document,
    printed,
  } as unknown as TakeOffInput
  return ask(`/take-offs/${newId()}`, shelves.takeOffs.item, { method: 'PUT', body: input })
}

/** A name that no other print has. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  const stem = name.slice(0, 70)
  if (!taken.has(stem)) return stem
  for (let n = 2; ; n++) if (!taken.has(`${stem}, print ${n}`)) return `${stem}, print ${n}`
}
