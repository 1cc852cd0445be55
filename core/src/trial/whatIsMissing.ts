import type { OffsetFit } from './fitOffset'
import type { FanReading, GapReading, PurgeReading, SpanReading } from './readings'
import { SWAPS } from './readings'

/** Why the readings cannot pin a limit down, as sentences that say what to print; empty when they can. */
export function whatIsMissing(
  of:
    | { readonly kind: 'fan'; readonly readings: readonly FanReading[]; readonly accept: number }
    | { readonly kind: 'span'; readonly readings: readonly SpanReading[]; readonly accept: number }
    | { readonly kind: 'gap'; readonly readings: readonly GapReading[] }
    | { readonly kind: 'purge'; readonly readings: readonly PurgeReading[] }
    | { readonly kind: 'offset'; readonly fit: OffsetFit },
): string[] {
  const missing: string[] = []
  const oneSided = (good: number, all: number, allGood: string, noneGood: string) => {
    if (all > 0 && good === all) missing.push(allGood)
    if (all > 0 && good === 0) missing.push(noneGood)
  }
  switch (of.kind) {
    case 'fan':
      oneSided(
        count(of.readings, (one) => one.grade <= of.accept),
        of.readings.length,
        'Every arm was good, so the limit lies beyond them: print steeper arms.',
        'No arm was good, so the limit lies below them: print milder arms.',
      )
      break
    case 'span':
      oneSided(
        count(of.readings, (one) => one.grade <= of.accept),
        of.readings.length,
        'Every bridge held, so the limit lies beyond them: print longer ones.',
        'No bridge held: print shorter ones.',
      )
      break
    case 'gap': {
      const released = of.readings.flatMap(({ release }) => release ?? [])
      const finished = of.readings.flatMap(({ finish }) => finish ?? [])
      oneSided(
        count(released, (grade) => grade <= 2),
        released.length,
        'Every tile let go, so where it begins is not known: print smaller gaps, or let them touch.',
        'No tile let go: print larger gaps.',
      )
      oneSided(
        count(finished, (grade) => grade <= 3),
        finished.length,
        'Every face was fine, so where it ends is not known: print larger gaps.',
        'No face was fine: print smaller gaps.',
      )
      break
    }
    case 'purge':
      for (const swap of SWAPS) {
        const strips = of.readings.filter((one) => one.swap === swap)
        if (strips.length > 0 && !strips.some((one) => one.grade === 1))
          missing.push(
            `No strip ${swap === 'AB' ? 'of the first swap' : 'of the swap back'} came out clean, so the volume for a light face is carried on from the others: print more strips.`,
          )
      }
      break
    case 'offset':
      for (const { axis, atTheEnd } of of.fit.axes)
        if (atTheEnd)
          missing.push(
            `The best tooth along ${axis.toUpperCase()} is the last of its comb; the offset may lie beyond. Print a comb with larger shifts.`,
          )
  }
  return missing
}

const count = <T>(list: readonly T[], is: (one: T) => boolean) => list.filter(is).length
