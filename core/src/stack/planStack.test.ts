import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { closeTo } from '../testing'
import { planStack, type StackInput } from '.'

const plain: StackInput = {
  undersideMm: 10,
  gapMm: 0.13,
  interfaceLayers: 3,
  layerHeightMm: 0.2,
  firstLayerHeightMm: 0.2,
  thicknessMm: [0.1, 0.3],
  mode: 'own',
}

describe('with layers of its own', () => {
  test('the gap comes out exactly, in layers the nozzle can lay and as near the part’s as can be', () => {
    // 10 - 0.13 = 9.87; three layers above 9.2 would be 0.223 thick, above 9.4 0.157: the first is nearer to
    // 0.2.
    const stack = planStack(plain)
    expect(stack).toMatchObject({ achievedGapMm: 0.13, why: null })
    closeTo(stack.standTopMm, 9.2, 1e-9)
    for (const { bottomMm, topMm } of stack.interface) closeTo(topMm - bottomMm, 0.67 / 3, 1e-9)
  })

  test('for any height, gap and layer the stack has no hole, no overlap and no impossible layer', () => {
    const hundredths = (min: number, max: number) =>
      fc.integer({ min: min * 100, max: max * 100 }).map((n) => n / 100)
    fc.assert(
      fc.property(
        hundredths(1.5, 60),
        hundredths(0, 0.5),
        fc.integer({ min: 1, max: 6 }),
        hundredths(0.1, 0.3),
        hundredths(0.1, 0.3),
        (undersideMm, gapMm, interfaceLayers, layerHeightMm, firstLayerHeightMm) => {
          const stack = planStack({
            ...plain,
            undersideMm,
            gapMm,
            interfaceLayers,
            layerHeightMm,
            firstLayerHeightMm,
          })
          expect(stack.interface.length).toBeGreaterThan(0)
          let at = stack.standTopMm
          for (const { bottomMm, topMm } of stack.interface) {
            closeTo(bottomMm, at, 1e-9)
            expect(topMm - bottomMm).toBeGreaterThanOrEqual(0.1 - 1e-5)
            expect(topMm - bottomMm).toBeLessThanOrEqual(0.3 + 1e-5)
            at = topMm
          }
          closeTo(at, undersideMm - stack.achievedGapMm, 1e-9)
          expect(stack.achievedGapMm).toBe(gapMm)
        },
      ),
    )
  })

  test('close above the bed fewer layers are laid, and said so', () => {
    const stack = planStack({ ...plain, undersideMm: 0.35, gapMm: 0.1 })
    expect(stack.interface.length).toBeLessThan(3)
    expect(stack.why).toContain('room for only')
    expect(planStack({ ...plain, undersideMm: 0.12, gapMm: 0.1 })).toMatchObject({
      interface: [],
      why: expect.stringContaining('too close to the bed'),
    })
  })
})

test('one layer more than asked is laid where that is the only way to the gap', () => {
  // The part's layers end at 0.11 + n 0.26, so 1.41 or 1.15: a single layer up to 1.5 would be 0.09 or 0.35
  // thick.
  const stack = planStack({
    ...plain,
    undersideMm: 1.5,
    gapMm: 0,
    interfaceLayers: 1,
    layerHeightMm: 0.26,
    firstLayerHeightMm: 0.11,
  })
  expect(stack).toMatchObject({ achievedGapMm: 0, why: expect.stringContaining('One interface layer more') })
  expect(stack.interface).toHaveLength(2)
})

describe('sharing the part’s layers', () => {
  test('the gap is the nearest whole number of layers, with the reason', () => {
    const stack = planStack({ ...plain, mode: 'shared' })
    closeTo(stack.achievedGapMm, 0.2, 1e-9)
    expect(stack.why).toContain('multiple of 0.2 mm')
    closeTo(planStack({ ...plain, mode: 'shared', gapMm: 0.05 }).achievedGapMm, 0, 1e-9)
    expect(planStack({ ...plain, mode: 'shared', gapMm: 0.4 }).why).toBeNull()
  })
})
