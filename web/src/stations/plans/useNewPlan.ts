import {
  familyBook,
  FamilyTable,
  type Part,
  type Plan,
  type PlanFigures,
  type PlanInput,
} from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import type { Family } from '@tender/core/bench'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { newId } from '../../keep/newId'
import { ask } from '../../api/client'
import { shelves } from '../../api/shelves'
import { allOf } from '../../api/useShelf'
import { knownNow } from '../../workers/useKnownTrials'
import { usualPrinter } from '../bench/usualPrinter'
import { bestKnown, firstDocument } from './firstDocument'

/**
 * Makes a first plan for a part from what is on the bench and what the readings say, and goes there. A bench
 * that lacks a printer or a filament lends a plain one, guessed of a family.
 */
export function useNewPlan() {
  const navigate = useNavigate()
  const client = useQueryClient()
  return useMutation({
    mutationFn: async ({ part, family = 'PLA' }: { part: Part; family?: Family }): Promise<Plan> => {
      const [printers, filaments, trials, takeOffs, plans, families] = await Promise.all([
        allOf('printers'),
        allOf('filaments'),
        allOf('trials'),
        allOf('takeOffs'),
        allOf('plans', { part: part.id }),
        ask('/families', FamilyTable),
      ])
      const book = familyBook(families)
      const known = await knownNow(trials.items, takeOffs.items, filaments.items, book)
      const filament = bestKnown(filaments.items, known) ?? family
      const count = plans.total
      const document = firstDocument(part, usualPrinter(printers.items), filament, known, book)
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
      const plans = await allOf('plans', { part: partId })
      const name = variantName(
        document.name,
        plans.items.map((plan) => plan.document.name),
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
