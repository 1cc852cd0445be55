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
    mutationFn: async ({
      planId,
      part,
      resultId,
      document,
    }: PrintOrder & { document: PlanDocument }): Promise<StoredTakeOff> => {
      const printed = await unwrap(planning.printed(resultId, document))
      if (!printed) throw new Error('The plan was worked out anew meanwhile. Try again in a moment.')
      const taken = new Set((await allOf('takeOffs')).items.map(({ name }) => name))
      const input = {
        name: freeName(`${part.name}, ${document.name}`, taken),
        printedOn: today(),
        partId: part.id,
        planId,
        damp: false,
        lessonsLeftOut: [],
        document,
        printed,
      } as unknown as TakeOffInput
      return ask(`/take-offs/${newId()}`, shelves.takeOffs.item, { method: 'PUT', body: input })
    },
    onSuccess: (takeOff) => {
      void client.invalidateQueries({ queryKey: ['takeOffs', 'list'] })
      return navigate(`/take-offs/${takeOff.id}`)
    },
    onError: (error) => toasts.show({ text: error.message }),
  })
}

/** A name that no other print has. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  const stem = name.slice(0, 70)
  if (!taken.has(stem)) return stem
  for (let n = 2; ; n++) if (!taken.has(`${stem}, print ${n}`)) return `${stem}, print ${n}`
}
