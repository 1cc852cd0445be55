import { describe, expect, test } from '@jest/globals'
import type { Part } from '@tender/contract'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { type PlanSummary } from '@tender/core/plan'
import type { Zone } from '@tender/core/overhang'
import { isUntouched, NO_DAB, withDab, zoneSoup } from '../../drawings/space/zoneShapes'
import { aNeedsReport } from '../../testing/samples'
import { needsSentence } from './needsSentence'
import { newestVersions, versionsOf } from './versions'
import { waysOf, whatHelps } from './whatIf'

describe('versions of a part', () => {
  const part = (id: string, olderId: string | null = null) => ({ id, olderId, name: id }) as Part

  test('all of a line are found from any of them, the newest first; others are lines of their own', () => {
    const all = [part('a'), part('b', 'a'), part('c', 'b'), part('x')]
    for (const one of all.slice(0, 3))
      expect(versionsOf(one, all).map(({ id }) => id)).toEqual(['c', 'b', 'a'])
    expect(newestVersions(all).map(({ part: { id }, versions }) => [id, versions])).toEqual([
      ['c', 3],
      ['x', 1],
    ])
  })

  test('a version whose elder was removed, and a circle, do no harm', () => {
    expect(versionsOf(part('b', 'gone'), [part('b', 'gone')]).map(({ id }) => id)).toEqual(['b'])
    const circle = [part('a', 'b'), part('b', 'a')]
    expect(versionsOf(circle[0], circle)).toHaveLength(2)
  })
})

describe('what needs holding, in words', () => {
  const patch = (access: 'open' | 'closed') => ({
    kind: 'flat' as const,
    access,
    areaMm2: 10,
    lowestMm: 1,
    highestMm: 1,
    atMm: [0, 0, 1] as const,
  })

  test('nothing, something, something out of reach', () => {
    expect(needsSentence(aNeedsReport({}))).toBe('Nothing needs holding as it lies.')
    expect(needsSentence(aNeedsReport({ holdMm2: 20, patches: [patch('open'), patch('open')] }))).toBe(
      '20 mm² need holding, in 2 patches.',
    )
    expect(
      needsSentence(
        aNeedsReport({
          holdMm2: 10,
          patches: [patch('closed')],
          islands: [{ areaMm2: 3, atMm: [0, 0, 1], keptOffBy: null }],
        }),
      ),
    ).toBe(
      '10 mm² need holding, in 1 patch; 1 island starts in mid-air. No tool reaches one of them from the side.',
    )
  })
})

describe('what if', () => {
  const summary = (g: number, timeS: number) =>
    ({
      timeS,
      estimate: { roles: { stand: { g }, interface: { g: 0 }, footing: { g: 0 }, brim: { g: 0 } } },
    }) as unknown as PlanSummary

  test('thinner layers hold what the same hanging share allows, and every way differs from the first', () => {
    const ways = waysOf(DEFAULT_PLAN)
    expect(new Set(ways.map(({ document }) => JSON.stringify(document))).size).toBe(ways.length)
    const thin = ways[1].document.decisions
    // 48 degrees at 0.2 mm layers: the same step at 0.15 mm is atan(0.2 tan 48 / 0.15) = 55.96.
    expect(thin).toMatchObject({ layerHeightMm: 0.15, freeAngleDeg: 55 })
    expect(
      waysOf({
        ...DEFAULT_PLAN,
        decisions: { ...DEFAULT_PLAN.decisions, sideAnglesDeg: new Array<number>(8).fill(50) },
      }).at(-1)!.label,
    ).toContain('upright')
  })

  test('the sentence names the way that saves most, and what it costs in time', () => {
    const labels = ['As it is', 'Thinner', 'Wider', 'Over']
    expect(whatHelps(labels, [summary(10, 3600), summary(6, 5400), summary(8, 3600), null])).toBe(
      'Thinner helps most: 6.0\u202fg of supports instead of 10.0\u202fg, and takes 30\u202fmin longer.',
    )
    expect(whatHelps(labels, [summary(10, 3600), summary(10, 1), summary(12, 1), summary(9.99, 1)])).toBe(
      'None of these would save support.',
    )
    expect(whatHelps(labels, [null, null, null, null])).toBe('')
  })
})

describe('zones as they are drawn', () => {
  const brush = (atMm: readonly number[]): Zone => ({
    id: 'b',
    name: 'B',
    kind: 'hold',
    limitDeg: 0,
    shape: { kind: 'brush', radiusMm: 2, atMm },
  })

  test('the first dab takes the place of none, near ones add nothing, far ones do, other zones stay', () => {
    const other = { ...brush([1, 1, 1]), id: 'other' }
    const fresh = brush(NO_DAB)
    expect(isUntouched(fresh.shape)).toBe(true)
    const once = withDab([other, fresh], 'b', [5, 0, 0])
    expect(once[0]).toBe(other)
    expect(once[1].shape).toMatchObject({ atMm: [5, 0, 0] })
    expect(withDab(once, 'b', [5.5, 0, 0])[1]).toBe(once[1])
    expect(withDab(once, 'b', [7, 0, 0])[1].shape).toMatchObject({ atMm: [5, 0, 0, 7, 0, 0] })
  })

  test('boxes and cylinders are closed surfaces where the part lies; a brush is drawn otherwise', () => {
    const placing = { matrix: [2, 0, 0, 1, 0, 2, 0, 0, 0, 0, 2, 0], scale: 2 }
    const soup = zoneSoup({ kind: 'box', minMm: [0, 0, 0], maxMm: [1, 1, 1] }, placing)!
    expect(soup).toHaveLength(12 * 9)
    expect(Math.max(...soup)).toBe(3)
    expect(zoneSoup(brush([0, 0, 0]).shape, placing)).toBeNull()
  })
})
