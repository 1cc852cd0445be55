import { knownTrials, planFilament, type Part, type Plan, type PlanFigures, type PlanInput } from '@tender/contract'
import { DEFAULT_DECISIONS, startFromEvidence, type PlanDocument } from '@tender/core/plan'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { ask } from '../../api/client'
import { shelves } from '../../api/shelves'

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
      if (printers.items.length === 0 || filaments.items.length === 0) throw new Error('A plan needs a printer and a filament. Put them on the bench first.')
      const { id: _, revision: __, updatedAt: ___, loaded, ...printer } = printers.items[0]
      const known = knownTrials(trials.items)
      // The filament that most is known about comes first.
      const readings = (name: string) => known.filter((trial) => trial.conditions.partFilament === name).reduce((sum, trial) => sum + trial.readings.length, 0)
      const [filament] = filaments.items.toSorted((a, b) => readings(b.name) - readings(a.name))
      const name = filament.name
      const count = plans.items.filter((plan) => plan.partId === part.id).length
      const document = startFromEvidence(
        {
          format: 'tender-plan',
          version: 1,
          name: count === 0 ? `${name} only` : `${name} only, ${count + 1}`,
          pose: part.pose,
          printer,
          filaments: [planFilament(filament, { loaded })],
          evidence: {},
          zones: part.zones,
          bodies: part.bodies,
          decisions: { ...DEFAULT_DECISIONS, partFilament: name, standFilament: name, interfaceFilament: name },
        },
        known,
      )
      return savePlan(crypto.randomUUID(), null, part.id, document, null)
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
      const name = variantName(document.name, plans.items.filter((plan) => plan.partId === partId).map((plan) => plan.document.name)) // prettier-ignore
      return savePlan(crypto.randomUUID(), null, partId, { ...document, name }, figures)
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
export function savePlan(id: string, revision: number | null, partId: string, document: PlanDocument, figures: PlanFigures | null): Promise<Plan> {
  const input: PlanInput = { partId, document: document as PlanInput['document'], figures }
  return ask(`/plans/${id}${revision === null ? '' : `?revision=${revision}`}`, shelves.plans.item, { method: 'PUT', body: input })
}
