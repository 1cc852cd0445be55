import { knownTrials, type PartInput } from '@tender/contract'
import { DEFAULT_PLAN, type Decisions, type PlanDocument } from '@tender/core/decide'
import { useMemo, useState } from 'react'
import { useBook } from '../../api/useFamilies'
import { useList } from '../../api/useShelf'
import { bestKnown, firstDocument } from '../plans/firstDocument'

export type Wishes = Partial<
  Pick<Decisions, 'layerHeightMm' | 'freeAngleDeg' | 'freeSpanMm' | 'sideAnglesDeg'>
>

/** What this bench copes with, as a document to judge the part by: from the readings of a filament, and whatever the maker tries instead. */
export function usePartLimits(draft: PartInput) {
  const printers = useList('printers')
  const filaments = useList('filaments')
  const trials = useList('trials')
  const book = useBook()
  const [chosen, choose] = useState<string | null>(null)
  const [wishes, setWishes] = useState<Wishes>({})
  const ready = printers.data !== undefined && filaments.data !== undefined && trials.data !== undefined
  const known = useMemo(() => knownTrials(trials.data?.items ?? []), [trials.data])
  const filament = useMemo(() => {
    const items = filaments.data?.items ?? []
    return items.find(({ id }) => id === chosen) ?? (items.length > 0 ? bestKnown(items, known) : null)
  }, [filaments.data, chosen, known])
  const printer = printers.data?.items[0] ?? null
  const { pose, zones, bodies } = draft
  const base = useMemo<PlanDocument>(
    () =>
      filament && printer
        ? firstDocument({ pose, zones, bodies }, printer, filament, known, book)
        : { ...DEFAULT_PLAN, pose, zones, bodies },
    [filament, printer, known, book, pose, zones, bodies],
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
