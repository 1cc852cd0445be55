import { FAN_DEFAULTS } from './fitFan'
import type { OffsetFit } from './fitOffset'
import type { FanReading, GapReading, PurgeReading, SpanReading } from './readings'
import { SWAPS } from './readings'

/** Fewer readings than this pin nothing down. */
const FEW = 3
/** Share of pairs of readings that are the wrong way round from which on they contradict each other. */
const CONTRADICTED = 0.25

type Judged = { readonly x: number; readonly good: boolean }

/**
 * Why the readings cannot pin a limit down, as sentences that say what to print; empty when they can.
 * Readings that are few, all alike or against each other are told.
 */
export function whatIsMissing(
  of:
    | { readonly kind: 'fan'; readonly readings: readonly FanReading[]; readonly accept?: number }
    | { readonly kind: 'span'; readonly readings: readonly SpanReading[]; readonly accept?: number }
    | { readonly kind: 'gap'; readonly readings: readonly GapReading[] }
    | { readonly kind: 'purge'; readonly readings: readonly PurgeReading[] }
    | { readonly kind: 'offset'; readonly fit: OffsetFit },
): string[] {
  const missing: string[] = []
  const few = (count: number, what: string) => {
    if (count > 0 && count < FEW)
      missing.push(`${count === 1 ? `One ${what} says` : `Two ${what}s say`} little: print more of them.`)
  }
  const oneSided = (rows: readonly Judged[], allGood: string, noneGood: string) => {
    const good = rows.filter((row) => row.good).length
    if (rows.length > 0 && good === rows.length) missing.push(allGood)
    if (rows.length > 0 && good === 0) missing.push(noneGood)
  }
  const against = (rows: readonly Judged[], better: 'smaller' | 'larger', says: string) => {
    if (contradict(rows, better)) missing.push(`${says} Print it again before you trust the limit.`)
  }
  switch (of.kind) {
    case 'fan': {
      const { accept = FAN_DEFAULTS.accept } = of
      const rows = of.readings.map(({ angleDeg, grade }) => ({ x: angleDeg, good: grade <= accept }))
      few(rows.length, 'arm')
      oneSided(
        rows,
        'Every arm was good, so the limit lies beyond them: print steeper arms.',
        'No arm was good, so the limit lies below them: print milder arms.',
      )
      against(
        rows,
        'smaller',
        'Readings contradict each other: steep arms were good where milder ones were not.',
      )
      break
    }
    case 'span': {
      const { accept = FAN_DEFAULTS.accept } = of
      const rows = of.readings.map(({ spanMm, grade }) => ({ x: spanMm, good: grade <= accept }))
      few(rows.length, 'bridge')
      oneSided(
        rows,
        'Every bridge held, so the limit lies beyond them: print longer ones.',
        'No bridge held: print shorter ones.',
      )
      against(
        rows,
        'smaller',
        'Readings contradict each other: long bridges held where shorter ones did not.',
      )
      break
    }
    case 'gap': {
      const released = of.readings.flatMap(({ gapMm, release }) =>
        release === null ? [] : [{ x: gapMm, good: release <= 2 }],
      )
      const finished = of.readings.flatMap(({ gapMm, finish }) =>
        finish === null ? [] : [{ x: gapMm, good: finish <= 3 }],
      )
      few(of.readings.length, 'tile')
      oneSided(
        released,
        'Every tile let go, so where it begins is not known: print smaller gaps, or let them touch.',
        'No tile let go: print larger gaps.',
      )
      oneSided(
        finished,
        'Every face was fine, so where it ends is not known: print larger gaps.',
        'No face was fine: print smaller gaps.',
      )
      against(
        released,
        'larger',
        'Readings contradict each other: tiles let go at gaps where wider ones did not.',
      )
      against(
        finished,
        'smaller',
        'Readings contradict each other: faces were fine at gaps where narrower ones were not.',
      )
      break
    }
    case 'purge':
      for (const swap of SWAPS) {
        const strips = of.readings.filter((one) => one.swap === swap)
        const way = swap === 'AB' ? 'of the first swap' : 'of the swap back'
        if (strips.length > 0 && strips.length < FEW)
          missing.push(`So few strips ${way} say little: print more of them.`)
        if (strips.length > 0 && !strips.some((one) => one.grade === 1))
          missing.push(
            `No strip ${way} came out clean, so the volume for a light face is carried on from the others: print more strips.`,
          )
        if (strips.length >= FEW && strips.every((one) => one.grade === 1))
          missing.push(`Every strip ${way} came out clean, so less may do: print smaller volumes.`)
        // A strip counts as good against each other one that is graded worse.
        if (
          contradict(
            strips.map(({ volumeMm3, grade }) => ({ x: volumeMm3, good: grade <= 2 })),
            'larger',
          )
        )
          missing.push(
            `Readings contradict each other: strips ${way} were clean at volumes where larger ones were not. Print it again before you trust the volume.`,
          )
      }
      break
    case 'offset':
      for (const { axis, atTheEnd, readings, errorMm } of of.fit.axes) {
        if (atTheEnd)
          missing.push(
            `The best tooth along ${axis.toUpperCase()} is the last of its comb; the offset may lie beyond. Print a comb with larger shifts.`,
          )
        if (readings > 1 && errorMm.high - errorMm.low > WIDE_MM)
          missing.push(
            `The teeth named along ${axis.toUpperCase()} lie far apart; name the one that lines up best, or print the comb again.`,
          )
      }
  }
  return missing
}

/** An offset known no better than this is not known. */
const WIDE_MM = 0.25

/** Whether too many pairs are the wrong way round: good on the harder side of one that was not. */
function contradict(rows: readonly Judged[], better: 'smaller' | 'larger'): boolean {
  const sign = better === 'larger' ? 1 : -1
  // Ascending from the hardest: a good one should have no bad one after it.
  const sorted = rows.map(({ x, good }) => ({ x: sign * x, good })).sort((a, b) => a.x - b.x)
  let [wrong, pairs] = [0, 0]
  let [goods, bads] = [0, 0]
  let at = 0
  while (at < sorted.length) {
    let end = at
    let [good, bad] = [0, 0]
    for (; end < sorted.length && sorted[end].x - sorted[at].x < 1e-9; end++)
      if (sorted[end].good) good++
      else bad++
    wrong += goods * bad
    pairs += goods * bad + bads * good
    goods += good
    bads += bad
    at = end
  }
  return wrong > 1 && wrong > CONTRADICTED * pairs
}
