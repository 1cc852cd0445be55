import { describe, expect, test } from '@jest/globals'
import { aTile, closeTo, seeded, type Random } from '../testing'
import {
  correctedOffsetMm,
  fitGap,
  fitOffset,
  fitPull,
  fitPurge,
  fitSpan,
  gradeChance,
  offsetSentence,
  PURGE_PURPOSES,
  pullAt,
  pullSentence,
  purgeSentence,
  spanSentence,
  STARTING_COUPONS,
  whatIsMissing,
  type GapReading,
  type Grade,
  type OffsetReading,
  type PurgeReading,
  type SpanReading,
} from '.'

const sigmoid = (x: number) => 1 / (1 + Math.exp(-x))
const nineInTen = (inside: number, all: number) => {
  expect(all).toBeGreaterThan(200)
  expect(inside / all).toBeGreaterThan(0.86)
  expect(inside / all).toBeLessThan(0.95)
}

describe('free span', () => {
  const read = (random: Random, limit: number, step: number): SpanReading[] =>
    STARTING_COUPONS.span.spansMm.map((spanMm) => ({
      spanMm,
      grade: random.next() < sigmoid((Math.log(limit) - Math.log(spanMm)) / step) ? 1 : 4,
    }))

  test('over simulated makers, nine intervals in ten hold the truth, and the cautious span is too long one time in ten', () => {
    const random = seeded(31)
    const makers = 400
    let inside = 0
    let tooLong = 0
    for (let i = 0; i < makers; i++) {
      const limit = Math.exp(Math.log(25) + 0.7 * random.normal())
      const { freeSpanMm } = fitSpan(read(random, limit, Math.exp(Math.log(0.12) + 0.6 * random.normal())))
      if (freeSpanMm.low <= limit && limit <= freeSpanMm.high) inside++
      if (freeSpanMm.cautious > limit) tooLong++
    }
    nineInTen(inside, makers)
    closeTo(tooLong / makers, 0.1, 0.04)
  })

  test('says what it found, and what to print when all bridges held', () => {
    const readings = read(seeded(1), 24, 0.01)
    closeTo(fitSpan(readings).freeSpanMm.median, 24, 3)
    expect(spanSentence(fitSpan(readings))).toMatch(/^Bridges up to (1[89]|2[0-3]) mm print well/)
    expect(spanSentence(fitSpan([]))).toContain('starting guess')
    expect(whatIsMissing({ kind: 'span', readings, accept: 2 })).toEqual([])
    expect(whatIsMissing({ kind: 'span', readings: readings.slice(0, 3), accept: 2 })[0]).toContain(
      'print longer ones',
    )
  })
})

describe('purge', () => {
  type Maker = { dead: number; decay: number; noise: number }
  const draw = (random: Random): Maker => ({
    dead: Math.exp(Math.log(35) + 0.6 * random.normal()),
    decay: Math.exp(Math.log(40) + 0.65 * random.normal()),
    noise: Math.exp(Math.log(0.35) + 0.5 * random.normal()),
  })
  const needOf = ({ dead, decay }: Maker, share: number) => dead + decay * Math.log(1 / share)
  const read = (random: Random, { dead, decay, noise }: Maker, swap: 'AB' | 'BA'): PurgeReading[] =>
    STARTING_COUPONS.purge.volumesMm3.map((volumeMm3) => {
      const share = Math.min(0, -(volumeMm3 - dead) / decay)
      let left = random.next()
      let grade: Grade = 5
      for (const one of [1, 2, 3, 4] as const) {
        left -= gradeChance(one, share, noise)
        if (left < 0) {
          grade = one
          break
        }
      }
      return { volumeMm3, swap, grade }
    })

  test('over simulated makers, the interval of each purpose holds the truth nine times in ten, and the volume named is enough as often', () => {
    const random = seeded(8)
    const makers = 250
    const inside = { light: 0, strength: 0, throwAway: 0 }
    let enough = 0
    for (let i = 0; i < makers; i++) {
      const maker = draw(random)
      const [{ volumeMm3 }] = fitPurge(read(random, maker, 'AB')).swaps
      for (const purpose of ['light', 'strength', 'throwAway'] as const) {
        const truth = needOf(maker, PURGE_PURPOSES[purpose])
        if (volumeMm3[purpose].low <= truth && truth <= volumeMm3[purpose].high) inside[purpose]++
      }
      if (volumeMm3.light.cautious >= needOf(maker, PURGE_PURPOSES.light)) enough++
    }
    for (const count of Object.values(inside)) nineInTen(count, makers)
    closeTo(enough / makers, 0.9, 0.045)
  })

  test('grades are chances: they add up to one and get worse with more left over', () => {
    const mean = (share: number) =>
      ([1, 2, 3, 4, 5] as const).reduce(
        (sum, grade) => sum + grade * gradeChance(grade, Math.log(share), 0.35),
        0,
      )
    closeTo(
      ([1, 2, 3, 4, 5] as const).reduce((sum, grade) => sum + gradeChance(grade, Math.log(0.06), 0.35), 0),
      1,
      1e-12,
    )
    expect(mean(0.002)).toBeLessThan(mean(0.02))
    expect(mean(0.02)).toBeLessThan(mean(0.5))
  })

  test('each way has a volume of its own, a stand needs least, and the sentence names the filaments', () => {
    const random = seeded(4)
    const fit = fitPurge([
      ...read(random, { dead: 30, decay: 20, noise: 0.1 }, 'AB'),
      ...read(random, { dead: 40, decay: 60, noise: 0.1 }, 'BA'),
    ])
    const [there, back] = fit.swaps
    closeTo(there.volumeMm3.light.median, 30 + 20 * Math.log(100), 20)
    expect(back.volumeMm3.light.median).toBeGreaterThan(there.volumeMm3.light.high)
    for (const { volumeMm3 } of fit.swaps) {
      expect(volumeMm3.throwAway.median).toBeLessThan(volumeMm3.strength.median)
      expect(volumeMm3.strength.median).toBeLessThan(volumeMm3.light.median)
    }
    expect(purgeSentence(fit, { a: 'Chalk', b: 'Moss' })).toMatch(
      /^From Chalk to Moss purge \d+0 mm³ for a light face, .*; from Moss to Chalk purge/,
    )
    expect(
      whatIsMissing({ kind: 'purge', readings: [{ volumeMm3: 50, swap: 'BA', grade: 4 }] })[0],
    ).toContain('the swap back')
  })
})

describe('offset', () => {
  const { shiftsMm } = STARTING_COUPONS.offset
  /** The maker names the tooth that looks best, wavering a little over each. */
  const comb = (random: Random, error: number, waver: number, name: string): OffsetReading[] => {
    const logs = shiftsMm.map((shift) => -0.5 * ((shift + error) / waver) ** 2)
    const chances = logs.map((log) => Math.exp(log - Math.max(...logs)))
    let left = random.next() * chances.reduce((a, b) => a + b, 0)
    const best = chances.findIndex((chance) => (left -= chance) < 0)
    return shiftsMm.map((shiftMm, i) => ({ axis: 'x', shiftMm, grade: i === best ? 1 : null, comb: name }))
  }

  test('over simulated makers the interval holds the truth nine times in ten, errors past the end of the comb among them', () => {
    const random = seeded(77)
    const makers = 400
    let inside = 0
    for (let i = 0; i < makers; i++) {
      const error = 0.2 * random.normal()
      const waver = Math.exp(Math.log(0.03) + 0.5 * random.normal())
      const [{ errorMm }] = fitOffset(comb(random, error, waver, 'a')).axes
      if (errorMm.low <= error && error <= errorMm.high) inside++
    }
    nineInTen(inside, makers)
  })

  test('a tooth that lines up at +0.10 means the second nozzle lands 0.10 short: that much comes off the stored offset', () => {
    const readings = shiftsMm.map((shiftMm): OffsetReading => ({
      axis: 'y',
      shiftMm,
      grade: shiftMm === 0.1 ? 1 : null,
      comb: 'a',
    }))
    const fit = fitOffset(readings)
    closeTo(fit.axes[0].errorMm.median, -0.1, 0.005)
    expect(correctedOffsetMm(-18.2, fit.axes[0].errorMm.median)).toBe(-18.3)
    expect(offsetSentence(fit, { x: 0, y: -18.2, z: 0 })).toBe(
      'Type in Y −18.30 as the second nozzle’s offset.',
    )
    expect(offsetSentence(fitOffset([]), { x: 0, y: 0, z: 0 })).toContain('Nothing read yet')
  })

  test('prints of one comb pool, two teeth named mean the middle, and the last tooth is no answer', () => {
    const named = (shifts: number[], name: string) =>
      shiftsMm.map((shiftMm): OffsetReading => ({
        axis: 'x',
        shiftMm,
        grade: shifts.includes(shiftMm) ? 1 : null,
        comb: name,
      }))
    const once = fitOffset(named([0.05], 'a')).axes[0]
    const twice = fitOffset([...named([0.05], 'a'), ...named([0.05], 'b')]).axes[0]
    expect(twice.errorMm.high - twice.errorMm.low).toBeLessThan(once.errorMm.high - once.errorMm.low)
    closeTo(fitOffset(named([0.05, 0.1], 'a')).axes[0].errorMm.median, -0.075, 0.003)
    // A nozzle that is off by far more than usual is answered as it is, when the comb reaches there.
    const wide = [-2, -1.75, -1.5, -1.25, -1, 0, 1, 2].map((shiftMm): OffsetReading => ({
      axis: 'x',
      shiftMm,
      grade: shiftMm === -1.5 ? 1 : null,
      comb: 'w',
    }))
    closeTo(fitOffset(wide).axes[0].errorMm.median, 1.5, 0.02)
    const last = fitOffset(named([0.25], 'a'))
    expect(last.axes[0].errorMm.low).toBeLessThan(-0.3)
    expect(whatIsMissing({ kind: 'offset', fit: last })[0]).toContain('larger shifts')
    expect(whatIsMissing({ kind: 'offset', fit: fitOffset(named([0.05], 'a')) })).toEqual([])
  })
})

test('a window far beyond the usual gaps is found, and equal readings count as often as they were made', () => {
  const far = [0.8, 1, 1.2, 1.4, 1.6, 1.8].map((gap) => aTile(gap, gap > 1.3 ? 1 : 5, gap > 1.7 ? 5 : 1))
  const { suggestedGapMm } = fitGap(far)
  expect(suggestedGapMm).toBeGreaterThan(1.2)
  expect(suggestedGapMm).toBeLessThan(1.8)
  const usual = [0, 0.1, 0.2, 0.3].map((gap) => aTile(gap, gap > 0.05 ? 1 : 5, gap > 0.25 ? 5 : 1))
  const width = (readings: readonly GapReading[]) => {
    const { low, high } = fitGap(readings).releaseThresholdMm
    return high - low
  }
  expect(width([...usual, ...usual, ...usual])).toBeLessThan(width(usual))
  const many = Array.from({ length: 100_000 }, (_, i) => usual[i % 4])
  expect(fitGap(many).readings).toBe(100_000)
})

test('two thousand prints are fitted while somebody waits: in whatever order they come, and each by itself', () => {
  const random = seeded(11)
  const prints = Array.from({ length: 2000 }, (_, n) =>
    [0.05, 0.15].map((gapMm) => ({
      ...aTile(gapMm, random.next() < 5 * gapMm ? 1 : 5, random.next() < 0.8 ? 2 : 5),
      print: `print ${n}`,
    })),
  )
  const fit = fitGap(prints.flat())
  const turned = fitGap(
    prints.toReversed().flatMap((own, n) => own.map((one) => ({ ...one, print: `${n}` }))),
  )
  expect(fit.readings).toBe(4000)
  closeTo(turned.releaseThresholdMm.median, fit.releaseThresholdMm.median, 1e-9)
  closeTo(turned.pTender, fit.pTender, 1e-9)
  // As many readings of one print would tell its own threshold alone.
  const alone = fitGap(prints.flat().map(({ print: _, ...one }) => one))
  expect(alone.curve.releases).not.toEqual(fit.curve.releases)
})

describe('pull', () => {
  test('forces fall with the gap, count per area that lines cover, and are silent without any', () => {
    const at = (gapMm: number, spacingMm = 0): GapReading => ({
      gapMm,
      spacingMm,
      release: 1,
      finish: 1,
      forceN: 0.08 * Math.exp(-gapMm / 0.1) * 196 * (0.45 / (0.45 + spacingMm)),
      areaMm2: 196,
    })
    const fit = fitPull(
      [0, 0.05, 0.1, 0.15, 0.2].map((gap) => at(gap, gap > 0.1 ? 0.45 : 0)),
      0.45,
    )!
    // F / A = 0.08 exp(-0.1 / 0.1) = 0.0294 N/mm2.
    closeTo(pullAt(fit, 0.1).median, 0.0294, 0.003)
    closeTo(pullAt(fit, 0.3).median, 0.08 * Math.exp(-3), 0.0016)
    expect(pullAt(fit, 0.3).high / pullAt(fit, 0.3).low).toBeGreaterThan(
      pullAt(fit, 0.1).high / pullAt(fit, 0.1).low,
    )
    expect(pullSentence(fit, 0.1)).toContain('about 2.9 N')
    expect(fitPull([{ ...at(0.1), forceN: null }], 0.45)).toBeNull()
    expect(fitPull([{ ...at(0.1), areaMm2: null }], 0.45)).toBeNull()
  })
})
