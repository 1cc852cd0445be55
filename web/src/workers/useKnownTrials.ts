import { knownTrial, type StoredFilament, type Trial } from '@tender/contract'
import type { FamilyBook } from '@tender/core/bench'
import { adoptFits, type KnownTrial } from '@tender/core/trial'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useBook } from '../api/useFamilies'
import { useList } from '../api/useShelf'
import { fitting } from './fitting'
import type { Families, NumberedTrial } from './fittingWork'

/** The same as the hook, for whoever cannot wait for a view to be drawn anew. */
export async function knownNow(
  trials: readonly Trial[],
  filaments: readonly StoredFilament[],
  book: FamilyBook,
): Promise<readonly KnownTrial[]> {
  const own = trials.filter(({ leftOut }) => !leftOut).map(evidenceOf)
  const known = own.map(({ trial }) => trial)
  const families = Object.fromEntries(filaments.map(({ id, family }) => [id, family]))
  adoptFits(await fitting().ahead(own, families, book, USUAL_WIDTHS_MM), known)
  return known
}

/** The same stored trial is always the same evidence, under the same number, so that its fits are found again. */
const evidence = new WeakMap<Trial, NumberedTrial>()
let numbered = 0
function evidenceOf(trial: Trial): NumberedTrial {
  let known = evidence.get(trial)
  if (!known) evidence.set(trial, (known = { number: ++numbered, trial: knownTrial(trial) }))
  return known
}

const USUAL_WIDTHS_MM = [0.45]

export type KnownTrials = {
  readonly trials: readonly KnownTrial[]
  readonly book: FamilyBook
  readonly families: Families
}

/**
 * All that was read and not left out, with its fits made ahead in a thread of their own; undefined until they are there. While they are
 * made anew, what was known before goes on.
 * @param lineWidthMm of the plan that asks, when there is one
 */
export function useKnownTrials(lineWidthMm?: number): KnownTrials | undefined {
  const stored = useList('trials').data?.items
  const filaments = useList('filaments').data?.items
  const book = useBook()
  const families = useMemo<Families | undefined>(
    () => filaments && Object.fromEntries(filaments.map(({ id, family }) => [id, family])),
    [filaments],
  )
  const own = useMemo(() => stored?.filter(({ leftOut }) => !leftOut).map(evidenceOf), [stored])
  const widths = lineWidthMm === undefined ? USUAL_WIDTHS_MM : [...new Set([...USUAL_WIDTHS_MM, lineWidthMm])]
  return useQuery({
    queryKey: ['fits', own?.map(({ number }) => number), families, book, widths],
    enabled: own !== undefined && families !== undefined,
    staleTime: Infinity,
    // Trials keep their identity, by which their fits are found.
    structuralSharing: false,
    queryFn: async (): Promise<KnownTrials> => {
      const trials = own!.map(({ trial }) => trial)
      adoptFits(await fitting().ahead(own!, families!, book, widths), trials)
      return { trials, book, families: families! }
    },
    placeholderData: keepPreviousData,
  }).data
}
