import { describe, expect, test } from '@jest/globals'
import { aPrint, aTile, named } from '../testing'
import {
  adviseNext,
  matchCsv,
  readTrialCsv,
  samePrint,
  STARTING_COUPONS,
  trialsOf,
  hedged,
  whatIsMissing,
  fitOffset,
  type GapReading,
  type KnownTrial,
  type OffsetReading,
  type TrialConditions,
} from '.'

const conditions = aPrint({ speedMmS: 40, supportFilament: named('Moss PETG') })
const ladder = (
  id: string,
  readings: readonly GapReading[],
  changes: Partial<TrialConditions> = {},
): KnownTrial => ({
  id,
  name: id,
  printedOn: '2026-11-20',
  kind: 'gap',
  conditions: { ...conditions, ...changes },
  readings,
})
const advise = (trials: readonly KnownTrial[]) => adviseNext(trials, 3, () => null)

describe('what to print next, over all that was printed', () => {
  const settled = [0, 0.05, 0.1, 0.14, 0.16, 0.2, 0.25, 0.28, 0.32, 0.35].flatMap((gap) => [
    aTile(gap, gap > 0.15 ? 1 : 5, gap < 0.3 ? 1 : 5),
    aTile(gap, gap > 0.15 ? 1 : 5, gap < 0.3 ? 1 : 5),
  ])
  const few = [aTile(0.1, 5, 1), aTile(0.4, 1, 5)]

  test('the coupon that is least settled comes first, with steps between what is known', async () => {
    const advice = await advise([
      ladder('settled', settled, { partFilament: named('Slate') }),
      ladder('few', few),
    ])
    expect(advice.map(({ like }) => like.id)).toEqual(['few', 'settled'])
    expect(advice[0].bits).toBeGreaterThan(1.5 * advice[1].bits)
    expect(advice[0].values).toHaveLength(3)
    for (const gap of advice[0].values) expect(gap > 0.1 && gap < 0.4).toBe(true)
    expect([...advice[0].values].sort((a, b) => a - b)).toEqual(advice[0].values)
  })

  test('prints of one coupon count as one: half of the readings each say no less than all in one', async () => {
    const [whole] = await advise([ladder('whole', settled)])
    const [halves, ...rest] = await advise([
      ladder('a', settled.slice(0, 10)),
      ladder('b', settled.slice(10)),
    ])
    expect(rest).toEqual([])
    expect(halves.values).toEqual(whole.values)
  })

  test('every kind but combs is advised on, in its own unit', async () => {
    const base = { printedOn: '2026-11-20', conditions }
    const trials: KnownTrial[] = [
      {
        ...base,
        id: 'fan',
        name: 'fan',
        kind: 'fan',
        readings: [
          { angleDeg: 40, direction: 'any', layerHeightMm: 0.2, lineWidthMm: 0.45, grade: 1 },
          { angleDeg: 70, direction: 'any', layerHeightMm: 0.2, lineWidthMm: 0.45, grade: 5 },
        ],
      },
      {
        ...base,
        id: 'span',
        name: 'span',
        kind: 'span',
        readings: [
          { spanMm: 10, grade: 1 },
          { spanMm: 60, grade: 5 },
        ],
      },
      {
        ...base,
        id: 'purge',
        name: 'purge',
        kind: 'purge',
        readings: [{ volumeMm3: 40, swap: 'AB', grade: 5 }],
      },
      {
        ...base,
        id: 'offset',
        name: 'offset',
        kind: 'offset',
        readings: [{ axis: 'x', shiftMm: 0, grade: 1, comb: 'a' }],
      },
    ]
    const advice = new Map((await advise(trials)).map(({ kind, values }) => [kind, values]))
    expect([...advice.keys()].sort()).toEqual(['fan', 'purge', 'span'])
    for (const angle of advice.get('fan')!) expect(angle > 40 && angle < 75).toBe(true)
    for (const span of advice.get('span')!) expect(span > 8 && span < 70).toBe(true)
    for (const volume of advice.get('purge')!) expect(volume).toBeGreaterThan(20)
  })
})

describe('which prints are one', () => {
  test('the same circumstances pool, any other one does not', () => {
    const one = ladder('a', [])
    expect(samePrint(one, ladder('b', []))).toBe(true)
    // Lots are told apart in the list of differences, not here: a new spool of a kind is still that kind.
    expect(samePrint(one, ladder('b', [], { partLot: 'C-2' }))).toBe(true)
    const others: Partial<TrialConditions>[] = [
      { printer: named('Other') },
      { partFilament: named('Slate') },
      { supportFilament: named('Slate') },
      { nozzleMm: 0.6 },
      { layerHeightMm: 0.1 },
      { lineWidthMm: 0.5 },
      { speedMmS: 50 },
      { fanPercent: 50 },
      { damp: true },
    ]
    for (const change of others) expect(samePrint(one, ladder('b', [], change))).toBe(false)
    expect(trialsOf([one, ladder('c', [aTile(0.1, 1, 1)])], 'gap').map(({ id }) => id)).toEqual(['c'])
  })
})

describe('readings from a file onto a coupon', () => {
  test('each row finds its step; what has none is named, and another kind is refused whole', () => {
    const [csv] = readTrialCsv(
      'trial,volumeMm3,swap,grade\nP,80,AB,4\nP,80,AB,3\nP,85,AB,1\nP,80,BA,2',
    ).trials
    const { readings, unmatched } = matchCsv(STARTING_COUPONS.purge, csv)
    expect(readings).toEqual([
      expect.objectContaining({ step: 'AB:80', grade: 3 }),
      expect.objectContaining({ step: 'BA:80', grade: 2 }),
    ])
    expect(unmatched).toEqual(['The coupon has no step at 85 mm³ AB.'])
    expect(matchCsv(STARTING_COUPONS.fan, csv)).toEqual({
      readings: [],
      unmatched: ['"P" holds readings of a purge ladder, this trial is an overhang fan.'],
    })
    const [comb] = readTrialCsv('trial,shiftMm,axis,grade\nO,0.05,x,1\nO,0.1,x,').trials
    expect(matchCsv(STARTING_COUPONS.offset, comb).readings).toEqual([
      expect.objectContaining({ step: 'x:0.05', grade: 1 }),
    ])
  })
})

describe('why an answer is not sharp', () => {
  test('one-sided readings say what to print; few, and those against each other, say so', () => {
    const angle = (angleDeg: number, grade: 1 | 5) => ({
      angleDeg,
      direction: 'any',
      layerHeightMm: 0.2,
      lineWidthMm: 0.45,
      grade,
    })
    expect(
      whatIsMissing({ kind: 'fan', readings: [angle(40, 1), angle(50, 1), angle(60, 1)], accept: 2 }),
    ).toEqual([expect.stringContaining('print steeper arms')])
    expect(whatIsMissing({ kind: 'fan', readings: [angle(40, 5)], accept: 2 })).toEqual([
      expect.stringContaining('One arm says little'),
      expect.stringContaining('print milder arms'),
    ])
    const clear = [angle(40, 1), angle(50, 1), angle(60, 5)]
    expect(whatIsMissing({ kind: 'fan', readings: clear })).toEqual([])
    expect(hedged('Up to 50°.', whatIsMissing({ kind: 'fan', readings: clear }))).toBe('Up to 50°.')
    // Steep ones good, mild ones not: the wrong way round. One that is out of line among many is not.
    const turned = [angle(40, 5), angle(45, 5), angle(50, 1), angle(60, 1)]
    expect(whatIsMissing({ kind: 'fan', readings: turned })).toEqual([
      expect.stringContaining('contradict each other'),
    ])
    const oneOff = [30, 35, 40, 45, 50, 55]
      .map((a) => angle(a, a === 40 ? 5 : 1))
      .concat(angle(60, 5), angle(65, 5))
    expect(whatIsMissing({ kind: 'fan', readings: oneOff })).toEqual([])
    expect(hedged('Up to 50°.', ['Why.'])).toBe('As far as these readings go: up to 50°.')
    expect(whatIsMissing({ kind: 'gap', readings: [0.1, 0.2, 0.3].map((gap) => aTile(gap, 1, 1)) })).toEqual([
      expect.stringContaining('let them touch'),
      expect.stringContaining('print larger gaps'),
    ])
    const ladder = [aTile(0, 5, 1), aTile(0.1, 5, 1), aTile(0.2, 1, 1), aTile(0.3, 1, 5)]
    expect(whatIsMissing({ kind: 'gap', readings: ladder })).toEqual([])
    expect(
      whatIsMissing({
        kind: 'gap',
        readings: [aTile(0, 1, 5), aTile(0.1, 1, 5), aTile(0.2, 5, 1), aTile(0.3, 5, 1)],
      }),
    ).toHaveLength(2)
    expect(whatIsMissing({ kind: 'gap', readings: [] })).toEqual([])
    const strips = ([5, 3, 1] as const).map((grade, i) => ({
      volumeMm3: 80 * (i + 1),
      swap: 'AB' as const,
      grade,
    }))
    expect(whatIsMissing({ kind: 'purge', readings: strips })).toEqual([])
    const last: OffsetReading[] = [-0.1, 0, 0.1].map((shiftMm) => ({
      axis: 'z',
      shiftMm,
      grade: shiftMm === 0.1 ? 1 : null,
      comb: 'a',
    }))
    expect(whatIsMissing({ kind: 'offset', fit: fitOffset(last) })).toEqual([
      expect.stringContaining('along Z'),
    ])
  })
})
