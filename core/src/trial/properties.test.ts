import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { closeTo } from '../testing'
import {
  fitFan,
  fitGap,
  fitOffset,
  fitPurge,
  fitSpan,
  readTrialCsv,
  writeTrialCsv,
  type CsvTrial,
  type FanReading,
  type GapReading,
  type Grade,
  type OffsetReading,
  type PurgeReading,
  type SpanReading,
} from '.'

const grade = fc.constantFrom<Grade>(1, 2, 3, 4, 5)
const number = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true }).map((value) => Number(value.toFixed(4)) + 0)
const name = fc
  .string({ minLength: 1, maxLength: 30 })
  .map((text) => text.replace(/[\r\n]/g, ' ').trim())
  .filter((text) => text !== '' && !text.startsWith("'"))
const fan = fc.record({
  angleDeg: number(0, 89),
  direction: fc.constantFrom('any', 'north', 'south, left', '"east"'),
  layerHeightMm: number(0.05, 0.6),
  lineWidthMm: number(0.2, 1),
  grade,
})
const span = fc.record({ spanMm: number(1, 200), grade })
const gap = fc.record(
  {
    gapMm: number(0, 1),
    spacingMm: fc.constantFrom(0, 0.4),
    release: grade,
    finish: fc.option(grade),
    forceN: fc.option(number(0, 100)),
    areaMm2: fc.option(number(1, 500)),
    print: fc.constantFrom('Monday', 'a "bad" one'),
  },
  { requiredKeys: ['gapMm', 'spacingMm', 'release', 'finish', 'forceN', 'areaMm2'] },
)
const purge = fc.record({
  volumeMm3: number(0, 800),
  swap: fc.constantFrom('AB' as const, 'BA' as const),
  grade,
})
const tooth = fc.record({
  shiftMm: number(-0.5, 0.5),
  axis: fc.constantFrom('x' as const, 'y' as const, 'z' as const),
  grade: fc.option(grade),
})

describe('readings as CSV, whatever they are', () => {
  const some = <T>(one: fc.Arbitrary<T>) => fc.array(one, { minLength: 1, maxLength: 6 })
  const trials = fc.uniqueArray(name, { minLength: 1, maxLength: 3 }).chain((names) =>
    fc.oneof(
      fc
        .tuple(...names.map(() => some(fan)))
        .map((lists) => lists.map((readings, i): CsvTrial => ({ trial: names[i], kind: 'fan', readings }))),
      fc
        .tuple(...names.map(() => some(span)))
        .map((lists) => lists.map((readings, i): CsvTrial => ({ trial: names[i], kind: 'span', readings }))),
      fc
        .tuple(...names.map(() => some(gap)))
        .map((lists) => lists.map((readings, i): CsvTrial => ({ trial: names[i], kind: 'gap', readings }))),
      fc
        .tuple(...names.map(() => some(purge)))
        .map((lists) => lists.map((readings, i): CsvTrial => ({ trial: names[i], kind: 'purge', readings }))),
      fc.tuple(...names.map(() => some(tooth))).map((lists) =>
        lists.map((readings, i): CsvTrial => ({
          trial: names[i],
          kind: 'offset',
          readings: readings.map((one) => ({ ...one, comb: `${names[i]}:${one.axis}` })),
        })),
      ),
    ),
  )

  test('what is written is read back the same, names of any letters among them', () => {
    fc.assert(
      fc.property(trials, (written) => {
        expect(readTrialCsv(writeTrialCsv(written))).toEqual({ trials: written, refused: [] })
      }),
      { numRuns: 150, seed: 3 },
    )
  })

  test('any text is read or refused in words, and no row is lost without a line that says so', () => {
    const header = fc.constantFrom(
      'trial,spanMm,grade',
      'trial,volumeMm3,swap,grade',
      'trial,angleDeg,direction,layerHeightMm,lineWidthMm,grade',
    )
    const cell = fc.oneof(
      fc.constantFrom('A', '1', '0.2', 'AB', '', '-1', '1e9', 'NaN', '"'),
      fc.string({ maxLength: 6 }).map((text) => text.replace(/[\r\n",]/g, '')),
    )
    fc.assert(
      fc.property(
        header,
        fc.array(fc.array(cell, { minLength: 1, maxLength: 7 }), { maxLength: 8 }),
        (head, rows) => {
          const lines = rows.map((row) => row.join(','))
          const { trials: read, refused } = readTrialCsv([head, ...lines].join('\n'))
          const told = read.reduce((sum, trial) => sum + trial.readings.length, 0) + refused.length
          // A quote may swallow the lines behind it; nothing else may.
          if (!lines.some((line) => line.includes('"')))
            expect(told).toBe(rows.filter((row) => row.some((value) => value.trim() !== '')).length)
          for (const { message } of refused) expect(message).toMatch(/^Line \d+ .*\.$/)
        },
      ),
      { numRuns: 200, seed: 4 },
    )
  })
})

describe('fits', () => {
  const turned = <T>(list: readonly T[]) => [...list].reverse()

  test('the order of readings changes nothing', () => {
    fc.assert(
      fc.property(
        fc.array(span, { maxLength: 12 }),
        fc.array(gap, { maxLength: 12 }),
        fc.array(purge, { minLength: 1, maxLength: 8 }),
        (spans, gaps, strips) => {
          closeTo(
            fitSpan(turned<SpanReading>(spans)).freeSpanMm.median,
            fitSpan(spans).freeSpanMm.median,
            1e-6,
          )
          // With as many readings at either spacing the answer is for the one read first, so it is named.
          const at = { spacingMm: 0 }
          closeTo(
            fitGap(turned<GapReading>(gaps), at).releaseThresholdMm.median,
            fitGap(gaps, at).releaseThresholdMm.median,
            1e-9,
          )
          const light = (readings: readonly PurgeReading[]) =>
            fitPurge(readings).swaps[0].volumeMm3.light.median
          closeTo(light(turned<PurgeReading>(strips)), light(strips), 1e-6)
        },
      ),
      { numRuns: 6, seed: 5 },
    )
    const arms: FanReading[] = [40, 50, 60, 70].flatMap((angleDeg) =>
      ['east', 'west'].map((direction) => ({
        angleDeg,
        direction,
        layerHeightMm: 0.2,
        lineWidthMm: 0.45,
        grade: (angleDeg < (direction === 'east' ? 55 : 65) ? 1 : 5) as Grade,
      })),
    )
    const side = (readings: readonly FanReading[], direction: string) =>
      fitFan(readings).directions.find((one) => one.direction === direction)!.freeAngle.medianDeg
    for (const direction of ['east', 'west'])
      closeTo(side(turned(arms), direction), side(arms, direction), 1e-6)
  })

  test('a better grade of a bridge never makes the free span shorter', () => {
    const readings = (grades: readonly Grade[]): SpanReading[] =>
      grades.map((one, i) => ({ spanMm: 10 * (i + 1), grade: one }))
    fc.assert(
      fc.property(fc.array(grade, { minLength: 3, maxLength: 7 }), fc.nat(6), (grades, at) => {
        const better = grades.map((one, i) => (i === at % grades.length ? 1 : one))
        expect(fitSpan(readings(better)).freeSpanMm.cautious).toBeGreaterThanOrEqual(
          fitSpan(readings(grades)).freeSpanMm.cautious - 1e-9,
        )
      }),
      { numRuns: 15, seed: 6 },
    )
  })

  test('moving a comb moves its answer: with all shifts and the choice 0.1 further, the error is 0.1 the other way', () => {
    const comb = (by: number): OffsetReading[] =>
      [-0.1, -0.05, 0, 0.05, 0.1].map((shift) => ({
        axis: 'x',
        shiftMm: shift + by,
        grade: shift === 0.05 ? 1 : null,
        comb: 'a',
      }))
    const error = (by: number) => fitOffset(comb(by)).axes[0].errorMm.median
    // The prior pulls a little towards nothing.
    closeTo(error(0) - error(0.1), 0.1, 0.006)
    closeTo(error(-0.1) - error(0), 0.1, 0.006)
  })
})
