import {
  knownTrial,
  leanTakeOff,
  takeOffOf,
  type StoredFilament,
  type StoredTakeOff,
  type Trial,
} from '@tender/contract'
import type { FamilyBook } from '@tender/core/bench'
import type { Learnt } from '@tender/core/decide'
import { trialsOfTakeOffs, type TakeOff } from '@tender/core/takeOff'
import { adoptFits, type KnownTrial, type RememberedFit } from '@tender/core/trial'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useBook, useFamilies } from '../api/useFamilies'
import { useList } from '../api/useShelf'
import { fitting } from './fitting'
import { keepAnswer, keptAnswer, keyOf } from './keptAnswers'
import type { Families, NumberedTrial } from './fittingWork'

/** The same as the hook, for whoever cannot wait for a view to be drawn anew. */
export async function knownNow(
  trials: readonly Trial[],
  takeOffs: readonly StoredTakeOff[],
  filaments: readonly StoredFilament[],
  book: FamilyBook,
): Promise<readonly KnownTrial[]> {
  const own = allEvidence(trials, takeOffs)
  const known = own.map(({ trial }) => trial)
  const families = Object.fromEntries(filaments.map(({ id, family }) => [id, family]))
  adoptFits(await fitting().ahead(own, families, book), known)
  return known
}

/**
 * The same stored trial or take-off is always the same evidence, under the same numbers, so that its fits are
 * found again.
 */
const evidence = new WeakMap<Trial | StoredTakeOff, readonly NumberedTrial[]>()
let numbered = 0
function evidenceOf<T extends Trial | StoredTakeOff>(
  stored: T,
  trialsOf: (stored: T) => readonly KnownTrial[],
): readonly NumberedTrial[] {
  let known = evidence.get(stored)
  if (!known) evidence.set(stored, (known = trialsOf(stored).map((trial) => ({ number: ++numbered, trial }))))
  return known
}
/** The same stored take-off is always the same lean one. */
const lean = new WeakMap<StoredTakeOff, { readonly number: number; readonly takeOff: TakeOff }>()
function leanOf(stored: StoredTakeOff) {
  let known = lean.get(stored)
  if (!known) {
    lean.set(stored, (known = { number: ++numbered, takeOff: leanTakeOff(stored) }))
  }
  return known
}

const allEvidence = (trials: readonly Trial[], takeOffs: readonly StoredTakeOff[]): NumberedTrial[] => [
  ...trials
    .filter(({ leftOut }) => !leftOut)
    .flatMap((trial) => evidenceOf(trial, (one) => [knownTrial(one)])),
  ...takeOffs.flatMap((takeOff) => evidenceOf(takeOff, (one) => trialsOfTakeOffs([takeOffOf(one)]))),
]

let versions = 0

export type KnownTrials = {
  /** Trials, and what take-offs say of gaps. */
  readonly trials: readonly KnownTrial[]
  /** The same trials as the thread that fits knows them again. */
  readonly numbered: readonly NumberedTrial[]
  readonly takeOffs: readonly TakeOff[]
  readonly learnt: Learnt
  /** Another one whenever anything of this is another. */
  readonly version: number
  readonly book: FamilyBook
  readonly families: Families
}

/** All take-offs as views go by them, each under a number of its own; undefined until they are there. */
export function useLeanTakeOffs() {
  const printed = useList('takeOffs').data?.items
  return useMemo(() => printed?.map(leanOf), [printed])
}

/** What all that is known is worked out from. */
export const useWhatIsRead = () => [useList('trials'), useList('takeOffs'), useList('filaments')] as const

/**
 * All that was read and not left out, with its fits made ahead in a thread of their own; undefined until they
 * are there. While they are made anew, what was known before goes on.
 */
export function useKnownTrials(): KnownTrials | undefined {
  const [trialsRead, takeOffsRead, filamentsRead] = useWhatIsRead()
  const stored = trialsRead.data?.items
  const printed = takeOffsRead.data?.items
  const filaments = filamentsRead.data?.items
  const book = useBook()
  // Fits by our numbers, while the maker's are on the way, would be made for nothing.
  const knowsBook = !useFamilies().isPending
  const families = useMemo<Families | undefined>(
    () => filaments && Object.fromEntries(filaments.map(({ id, family }) => [id, family])),
    [filaments],
  )
  const own = useMemo(() => stored && printed && allEvidence(stored, printed), [stored, printed])
  const takeOffs = useLeanTakeOffs()
  return useQuery({
    queryKey: [
      'fits',
      own?.map(({ number }) => number),
      takeOffs?.map(({ number }) => number),
      families,
      book,
    ],
    enabled: own !== undefined && families !== undefined && knowsBook,
    staleTime: Infinity,
    // Trials keep their identity, by which their fits are found.
    structuralSharing: false,
    queryFn: async (): Promise<KnownTrials> => {
      const numbered = own!
      const trials = numbered.map(({ trial }) => trial)
      const all = takeOffs!.map(({ takeOff }) => takeOff)
      const { fits, learnt } = await fitsOf(numbered, all, families!, book)
      adoptFits(fits, trials)
      return { trials, numbered, takeOffs: all, learnt, version: ++versions, book, families: families! }
    },
    placeholderData: keepPreviousData,
  }).data
}

type Fits = { readonly fits: RememberedFit[]; readonly learnt: Learnt }
/** Of more than this, saying what was asked takes as long as answering it. */
const MOST_TO_KEEP = 400

/** All fits over some trials: as they were made the last time the same was asked, or made now. */
async function fitsOf(
  own: readonly NumberedTrial[],
  takeOffs: readonly TakeOff[],
  families: Families,
  book: FamilyBook,
): Promise<Fits> {
  const isMuch = own.length + takeOffs.length > MOST_TO_KEEP
  const key = isMuch
    ? null
    : keyOf(`fits ${JSON.stringify([own.map(({ trial }) => trial), takeOffs, families, book])}`)
  const kept = key === null ? null : await keptAnswer<Fits>(key)
  if (kept) return kept
  const [fits, learnt] = await Promise.all([fitting().ahead(own, families, book), fitting().learnt(takeOffs)])
  if (key !== null) void keepAnswer(key, { fits, learnt })
  return { fits, learnt }
}
