import type { Learnt } from '../decide'
import type { Interval } from '../trial'
import { fitFactors } from './fitFactors'
import type { TakeOff } from './record'

/** Scales of a kitchen drawer read to a tenth of a gram. */
const SCALE_G = 0.15
/** A filament's grams are planned right within so much; prints scatter by so much around that. */
const GRAMS = { middle: 1, spread: 0.07, scatters: [0.005, 0.01, 0.02, 0.04, 0.08] }
/** Minutes, as logarithms: guessed right within a factor of two; evenings differ. */
const MINUTES = { middle: 0, spread: 0.7, scatters: [0.1, 0.2, 0.35, 0.6] }

/** What take-offs say of bonds, grams and minutes. Gaps they tell as readings, see `trialsOfTakeOffs`. */
export function learntFrom(takeOffs: readonly TakeOff[]): Learnt {
  return { followed: followedIn(takeOffs), grams: gramsIn(takeOffs), minutes: minutesIn(takeOffs) }
}

/** How often the interface came along with its stand, by what touched and what carried it. */
function followedIn(takeOffs: readonly TakeOff[]): Learnt['followed'] {
  const found = new Map<
    string,
    { part: string; touching: string; bulk: string; came: number; stayed: number }
  >()
  for (const { printed, contacts, conditions, leftOut } of takeOffs) {
    if (leftOut.includes('bond')) continue
    const part = conditions.partFilament.id
    const byKey = new Map(printed.contacts.map((contact) => [contact.key, contact]))
    for (const { contact, stayed, leftOut: aside } of contacts) {
      const held = byKey.get(contact)
      if (!held || stayed === null || aside) continue
      const key = [part, held.touching, held.bulk].join('\n')
      const row = found.get(key) ?? { part, touching: held.touching, bulk: held.bulk, came: 0, stayed: 0 }
      if (stayed === 'nothing') row.came++
      else row.stayed++
      found.set(key, row)
    }
  }
  return [...found.values()]
}

/** How much more or less of each filament there is than was planned, by what was weighed. */
function gramsIn(takeOffs: readonly TakeOff[]): Learnt['grams'] {
  const weighed = takeOffs.filter(({ leftOut }) => !leftOut.includes('grams'))
  const filaments = [
    ...new Set(weighed.flatMap(({ printed }) => printed.grams.map(({ filament }) => filament))),
  ]
  const prints = new Map<string, number>()
  const rows = weighed.flatMap(({ printed, whole }) =>
    (['partG', 'wasteG'] as const).flatMap((of) => {
      const measured = whole[of]
      const planned = filaments.map((id) => printed.grams.find(({ filament }) => filament === id)?.[of] ?? 0)
      const sum = planned.reduce((a, b) => a + b, 0)
      // What hardly weighs anything tells the scale rather than the filament.
      if (measured === null || sum < 10 * SCALE_G) return []
      planned.forEach((g, i) => {
        if (g > 0.2 * sum) prints.set(filaments[i], (prints.get(filaments[i]) ?? 0) + 1)
      })
      return [{ shares: planned.map((g) => g / sum), measured: measured / sum }]
    }),
  )
  const factors = fitFactors(rows, filaments.length, GRAMS)
  return filaments.flatMap((filament, i) =>
    prints.has(filament) ? [{ filament, factor: rounded(factors[i]), weighings: prints.get(filament)! }] : [],
  )
}

/** How much longer or shorter taking off takes than guessed; null when nobody looked at the clock. */
function minutesIn(takeOffs: readonly TakeOff[]): Learnt['minutes'] {
  const rows = takeOffs.flatMap(({ printed, whole: { minutes }, leftOut }) =>
    minutes !== null && minutes > 0 && printed.minutes > 0 && !leftOut.includes('minutes')
      ? [{ shares: [1], measured: Math.log(minutes / printed.minutes) }]
      : [],
  )
  if (rows.length === 0) return null
  const [{ median, low, high }] = fitFactors(rows, 1, MINUTES)
  return {
    factor: rounded({ median: Math.exp(median), low: Math.exp(low), high: Math.exp(high) }),
    takeOffs: rows.length,
  }
}

/**
 * Machines differ in the last digits of a logarithm. Plans go by what was learnt: on the next machine it has
 * to be the same.
 */
const rounded = ({ median, low, high }: Interval): Interval => {
  const digits = (value: number) => Number(value.toPrecision(DIGITS))
  return { median: digits(median), low: digits(low), high: digits(high) }
}
const DIGITS = 7
