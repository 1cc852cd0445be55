import { knownTrials, type Part, type Plan, type PlanFigures, type PlanInput } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { newId } from '../../keep/newId'
import { ask } from '../../api/client'
import { shelves } from '../../api/shelves'
import { bestKnown, firstDocument } from './firstDocument'

/** Makes a first plan for a part from what is on the bench and what the readings say, and goes there. */
export function useNewPlan() {
  const navigate = useNavigate()
  const client = useQueryClient()
  return useMutation({
    mutationFn: async ({ part }: { part: Part }): Promise<Plan> => {
      const [printers, filaments, trials, plans] = await Promise.all([
        ask('/printers', shelves.printers.page),
        ask('/filaments', shelves.filaments.page),
        ask('/trials?limit=500', shelves.trials.page),
        ask('/plans?limit=500', shelves.plans.page),
      ])
      if (printers.items.length === 0 || filaments.items.length === 0)
        throw new Error('A plan needs a printer and a filament. Put them on the bench first.')
      const known = knownTrials(trials.items)
      const filament = bestKnown(filaments.items, known)
      const count = plans.items.filter((plan) => plan.partId === part.id).length
      const document = firstDocument(part, printers.items[0], filament, known)
      return savePlan(
        newId(),
        null,
        part.id,
        count === 0 ? document : { ...document, name: `${document.name}, ${count + 1}` },
        null,
      )
    },
    onSuccess: (plan) => {
      void client.invalidateQueries({ queryKey: ['plans', 'list'] })
      return navigate(`/plans/${plan.id}`)
    },
  })
}

/** Puts a copy of a plan beside it under a name of its own, and goes there. */
export function useCopyPlan(partId: string) {
  const navigate = useNavigate()
  const client = useQueryClient()
  return useMutation({
    mutationFn: async ({ document, figures }: { document: PlanDocument; figures: Plan['figures'] }) => {
      const plans = await ask('/plans?limit=500', shelves.plans.page)
      const name = variantName(
        document.name,
        plans.items.filter((plan) => plan.partId === partId).map((plan) => plan.document.name),
      )
      return savePlan(newId(), null, partId, { ...document, name }, figures)
    },
    onSuccess: (plan) => {
      void client.invalidateQueries({ queryKey: ['plans', 'list'] })
      return navigate(`/plans/${plan.id}`)
    },
  })
}

/** The name with the first free number behind it. */
function variantName(name: string, taken: readonly string[]): string {
  const stem = name.replace(/, \d+$/, '').slice(0, 74)
  for (let n = 2; ; n++) if (!taken.includes(`${stem}, ${n}`)) return `${stem}, ${n}`
}

/** Puts a plan's document on the shelf. */
export function savePlan(
  id: string,
  revision: number | null,
  partId: string,
  document: PlanDocument,
  figures: PlanFigures | null,
): Promise<Plan> {
  const input: PlanInput = { partId, document: document as unknown as PlanInput['document'], figures }
  return ask(`/plans/${id}${revision === null ? '' : `?revision=${revision}`}`, shelves.plans.item, {
    method: 'PUT',
    body: input,
  })
}
