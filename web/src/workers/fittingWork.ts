import { clingGuess, type Family, type FamilyBook } from '@tender/core/bench'
import { fitsAhead } from '@tender/core/decide'
import {
  adviseNext,
  fitFan,
  fitGap,
  fitOffset,
  fitPull,
  fitPurge,
  fitSpan,
  purgeCurve,
  takeOffBehind,
  type FanOptions,
  type FanReading,
  type GapOptions,
  type GapReading,
  type KnownTrial,
  type OffsetReading,
  type PurgeReading,
  type Readings,
  type SpanOptions,
  type SpanReading,
} from '@tender/core/trial'
import {
  causesOf,
  learntFrom,
  lessonsOf,
  storyOf,
  type ComplaintInput,
  type TakeOff,
} from '@tender/core/takeOff'
import { breathe } from './breathe'
import { trialSentence, type SaidOf } from '../stations/trials/trialSentence'

/** Families of the filaments on the bench, by their identity. */
export type Families = Readonly<Record<string, Family>>

/** A trial under a number that changes whenever it is read further. */
export type NumberedTrial = { readonly number: number; readonly trial: KnownTrial }

/** Trials as they came the first time under their number: by them fits are remembered here. */
const kept = new Map<number, KnownTrial>()

function knownHere(trials: readonly NumberedTrial[]): KnownTrial[] {
  return trials.map(({ number, trial }) => {
    if (!kept.has(number)) kept.set(number, trial)
    return kept.get(number)!
  })
}

/** Statistics: never on the thread that draws and listens. */
export const fittingWork = {
  fan: (readings: readonly FanReading[], options: FanOptions) => fitFan(readings, options),
  span: (readings: readonly SpanReading[], options: SpanOptions) => fitSpan(readings, options),
  gap: (readings: readonly GapReading[], options: Partial<GapOptions>) => fitGap(readings, options),
  pull: (readings: readonly GapReading[], lineWidthMm: number) => fitPull(readings, lineWidthMm),
  purge: (readings: readonly PurgeReading[]) => {
    const fit = fitPurge(readings)
    return { fit, curves: fit.swaps.map(({ belief }) => purgeCurve(belief)) }
  },
  offset: (readings: readonly OffsetReading[]) => fitOffset(readings),

  /** What a trial says, in one sentence. */
  sentence: (known: Readings, trial: SaidOf) => trialSentence(known, trial),

  /** The steps that would tell most if printed next. Other questions are answered in between. */
  advice: async (
    trials: readonly NumberedTrial[],
    steps: number,
    shown: number,
    families: Families,
    book: FamilyBook,
  ) => {
    const clingOf = ({ conditions }: KnownTrial) => {
      const [part, other] = [families[conditions.partFilament.id], families[conditions.supportFilament.id]]
      return part && other ? clingGuess(part, other, book).cling : null
    }
    const advice = await adviseNext(knownHere(trials), steps, clingOf, breathe)
    return advice.slice(0, shown).map(({ like, ...next }) => ({ ...next, likeId: like.id }))
  },

  /** What a take-off moved, all else being as it is. */
  lessons: (
    takeOff: TakeOff,
    trials: readonly KnownTrial[],
    takeOffs: readonly TakeOff[],
    families: Families,
    book: FamilyBook,
  ) =>
    lessonsOf(takeOff, {
      // Take-offs bring their readings themselves.
      trials: trials.filter(({ id }) => takeOffBehind(id) === null),
      takeOffs,
      familyOf: (id) => families[id],
      book,
    }),
  /** What take-offs say beyond gaps. */
  learnt: (takeOffs: readonly TakeOff[]) => learntFrom(takeOffs),
  /** Why something went wrong, the likeliest cause first. */
  causes: (input: ComplaintInput) => causesOf(input),
  /** How a pairing came to be known. */
  story: (
    part: string,
    touching: string,
    trials: readonly KnownTrial[],
    families: Families,
    book: FamilyBook,
  ) =>
    storyOf({ id: part, family: families[part] }, { id: touching, family: families[touching] }, trials, book),

  /** Every fit that suggestions over these trials will ask for. Other questions are answered in between. */
  ahead: (trials: readonly NumberedTrial[], families: Families, book: FamilyBook) => {
    const known = knownHere(trials)
    const numbers = new Set(trials.map(({ number }) => number))
    for (const number of kept.keys()) if (!numbers.has(number)) kept.delete(number)
    return fitsAhead(known, (id) => families[id], book, breathe)
  },
}
export type FittingApi = typeof fittingWork
