import type { Family, FamilyBook } from '../bench'
import { knownPairing } from '../pairing'
import { followChance } from '../release'
import type { KnownTrial } from '../trial'
import { trialsOfTakeOffs } from './asTrials'
import { learntFrom } from './learnt'
import type { LessonKind, TakeOff } from './record'

/** Something that a take-off taught: what it is about, and what it moved. */
export type Lesson = {
  readonly kind: LessonKind
  /** What it is about: a pairing, a filament. */
  readonly about: string
  readonly before: string
  readonly after: string
  /** Readings of this take-off behind it. */
  readonly readings: number
  readonly leftOut: boolean
}

export type LessonBench = {
  readonly trials: readonly KnownTrial[]
  readonly takeOffs: readonly TakeOff[]
  /** Family of a filament, undefined when it is not on the bench any more. */
  readonly familyOf: (id: string) => Family | undefined
  readonly book: FamilyBook
}

const percent = (share: number) => `${Math.round(share * 100)}\u202f%`
const factor = (value: number) => `×\u202f${value.toFixed(2)}`

/**
 * What one take-off moved, each value without it and with it, everything else being as it is. Lessons that
 * were left out are told as what they would move.
 */
export function lessonsOf(takeOff: TakeOff, { trials, takeOffs, familyOf, book }: LessonBench): Lesson[] {
  const others = takeOffs.filter(({ id }) => id !== takeOff.id)
  const counted = { ...takeOff, leftOut: [] }
  const nameOf = (id: string) => takeOff.filaments.find((one) => one.id === id)?.name ?? 'a filament'
  const isOut = (kind: LessonKind) => takeOff.leftOut.includes(kind)
  const lessons: Lesson[] = []

  const part = takeOff.conditions.partFilament.id
  for (const own of trialsOfTakeOffs([counted])) {
    const touching = own.conditions.supportFilament.id
    const [family, other] = [familyOf(part), familyOf(touching)]
    if (!family || !other) continue
    const known = (with_: readonly TakeOff[]) =>
      knownPairing(
        { id: part, family },
        { id: touching, family: other },
        [...trials, ...trialsOfTakeOffs(with_)],
        { book },
      ).fit
    const told = ({ suggestedGapMm, windowMm: [low, high] }: ReturnType<typeof known>) =>
      `${suggestedGapMm.toFixed(2)} mm (${low.toFixed(2)} to ${high.toFixed(2)})`
    lessons.push({
      kind: 'gap',
      about:
        touching === part
          ? `Gap of ${nameOf(part)} on itself`
          : `Gap of ${nameOf(part)} over ${nameOf(touching)}`,
      before: told(known(others)),
      after: told(known([...others, counted])),
      readings: own.readings.length,
      leftOut: isOut('gap'),
    })
  }

  const [before, after, alone] = [others, [...others, counted], [counted]].map(learntFrom)
  const guesses = new Map(
    takeOff.printed.contacts.map(({ touching, bulk, guessed }) => [`${touching}\n${bulk}`, guessed]),
  )
  for (const own of alone.followed) {
    const same = (row: (typeof alone.followed)[number]) =>
      row.part === own.part && row.touching === own.touching && row.bulk === own.bulk
    const guess = guesses.get(`${own.touching}\n${own.bulk}`) ?? 'perhaps'
    const chance = (rows: typeof alone.followed) =>
      `${percent(followChance(guess, rows.find(same)))} come along`
    lessons.push({
      kind: 'bond',
      about: `Interface in ${nameOf(own.touching)}${own.touching === own.bulk ? '' : ` on stands of ${nameOf(own.bulk)}`}`,
      before: chance(before.followed),
      after: chance(after.followed),
      readings: own.came + own.stayed,
      leftOut: isOut('bond'),
    })
  }
  if (alone.minutes)
    lessons.push({
      kind: 'minutes',
      about: 'Minutes of taking off',
      before: before.minutes ? factor(before.minutes.factor.median) : 'as guessed',
      after: factor(after.minutes!.factor.median),
      readings: 1,
      leftOut: isOut('minutes'),
    })
  for (const { filament, weighings } of alone.grams) {
    const of = (rows: typeof alone.grams) => rows.find((row) => row.filament === filament)
    lessons.push({
      kind: 'grams',
      about: `Grams of ${nameOf(filament)}`,
      before: of(before.grams) ? factor(of(before.grams)!.factor.median) : 'as planned',
      after: factor(of(after.grams)!.factor.median),
      readings: weighings,
      leftOut: isOut('grams'),
    })
  }
  return lessons
}
