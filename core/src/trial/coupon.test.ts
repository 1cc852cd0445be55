import { describe, expect, test } from '@jest/globals'
import { COUPON_KINDS, readingsOf, STARTING_COUPONS, stepsOf, type StepReading } from '.'

const as = { layerHeightMm: 0.2, lineWidthMm: 0.45, tileAreaMm2: 196 }
const seen = (step: string, what: Partial<StepReading>): StepReading => ({
  grade: null,
  release: null,
  finish: null,
  forceN: null,
  leftOut: false,
  ...what,
  step,
})

describe('coupons', () => {
  test('readings of steps that are left out, unread or gone do not count', () => {
    const fan = readingsOf(
      STARTING_COUPONS.fan,
      [
        seen('west:60', { grade: 4 }),
        seen('west:65', { grade: 5, leftOut: true }),
        seen('west:50', {}),
        seen('west:13', { grade: 1 }),
      ],
      as,
    )
    expect(fan).toEqual({
      kind: 'fan',
      readings: [{ angleDeg: 60, direction: 'west', layerHeightMm: 0.2, lineWidthMm: 0.45, grade: 4 }],
    })
    const gap = readingsOf(STARTING_COUPONS.gap, [seen('0:0.2', { release: 2, forceN: 3 })], as)
    expect(gap.readings).toEqual([
      { gapMm: 0.2, spacingMm: 0, release: 2, finish: null, forceN: 3, areaMm2: 196 },
    ])
    expect(
      readingsOf(STARTING_COUPONS.purge, [seen('BA:80', { grade: 3 }), seen('AB:7', { grade: 3 })], as)
        .readings,
    ).toEqual([{ volumeMm3: 80, swap: 'BA', grade: 3 }])
    expect(readingsOf(STARTING_COUPONS.span, [seen('span:20', { grade: 1 })], as).readings).toEqual([
      { spanMm: 20, grade: 1 },
    ])
  })

  test('a comb speaks with all its teeth once one of them was named, and not before', () => {
    const teeth = STARTING_COUPONS.offset.shiftsMm.length
    expect(readingsOf(STARTING_COUPONS.offset, [seen('y:0.1', { grade: 2 })], as).readings).toEqual([])
    const { readings } = readingsOf(
      STARTING_COUPONS.offset,
      [seen('x:-0.1', { grade: 1 }), seen('z:0', { grade: 1, leftOut: true })],
      as,
      'print 1',
    )
    expect(readings).toHaveLength(teeth)
    expect(readings.filter((one) => 'shiftMm' in one && one.grade === 1)).toEqual([
      { axis: 'x', shiftMm: -0.1, grade: 1, comb: 'print 1:x' },
    ])
  })

  test('every step has a key of its own', () => {
    for (const kind of COUPON_KINDS) {
      const keys = stepsOf(STARTING_COUPONS[kind]).map((step) => step.key)
      expect(new Set(keys).size).toBe(keys.length)
      expect(keys.length).toBeGreaterThan(7)
    }
  })
})
