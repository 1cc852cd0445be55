import type { PartInput } from '@tender/contract'
import { DEFAULT_PLAN, type Decisions, type PlanDocument } from '@tender/core/decide'
import { useMemo, useState } from 'react'
import { lostOf, useList } from '../../api/useShelf'
import { useKnownTrials, useWhatIsRead } from '../../workers/useKnownTrials'
import { usualPrinter } from '../bench/usualPrinter'
import { bestKnown, firstDocument } from '../plans/firstDocument'

export type Wishes = Partial<
  Pick<Decisions, 'layerHeightMm' | 'freeAngleDeg' | 'freeSpanMm' | 'sideAnglesDeg'>
>

/**
 * What this bench copes with, as a document to judge the part by: from the readings of a filament, and
 * whatever the maker tries instead.
 */
export function usePartLimits(draft: PartInput) {
  const printers = useList('printers')
  const filaments = useList('filaments')
  const lost = lostOf([printers, ...useWhatIsRead()])
  const evidence = useKnownTrials()
  const [chosen, choose] = useState<string | null>(null)
  const [wishes, setWishes] = useState<Wishes>({})
  const ready = printers.data !== undefined && filaments.data !== undefined && evidence !== undefined
  const filament = useMemo(() => {
    const items = filaments.data?.items ?? []
    return items.find(({ id }) => id === chosen) ?? bestKnown(items, evidence?.trials ?? []) ?? null
  }, [filaments.data, chosen, evidence])
  const printer = usualPrinter(printers.data?.items ?? [])
  const { pose, zones, bodies } = draft
  const base = useMemo<PlanDocument>(
    () =>
      filament && printer && evidence
        ? firstDocument({ pose, zones, bodies }, printer, filament, evidence.trials, evidence.book)
        : { ...DEFAULT_PLAN, pose, zones, bodies },
    [filament, printer, evidence, pose, zones, bodies],
  )
  const document = useMemo<PlanDocument>(() => {
    const decisions = { ...base.decisions, ...wishes }
    return {
      ...base,
      decisions: { ...decisions, firstLayerHeightMm: decisions.layerHeightMm, placement: 'anywhere' },
    }
  }, [base, wishes])
  return {
    ready,
    /** What of the bench did not arrive; until it does, the limits are starting guesses. */
    lost,
    document,
    evidence: base.evidence,
    filament,
    filaments: filaments.data?.items ?? [],
    choose,
    wishes,
    wish: (changes: Wishes) => setWishes((before) => ({ ...before, ...changes })),
    forget: () => setWishes({}),
  }
}
export type PartLimits = ReturnType<typeof usePartLimits>

/** The limit of each of the eight sides. */
export const limitsOf = ({ decisions: { sideAnglesDeg, freeAngleDeg } }: PlanDocument): readonly number[] =>
  sideAnglesDeg ?? new Array<number>(8).fill(freeAngleDeg)
