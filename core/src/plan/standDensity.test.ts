import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import type { PolygonEngine } from '../polygon'
import { aPlan, boxes, checkPlastic, closeTo } from '../testing'
import { createPlanner, suggestedDensity } from '.'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

/** A shelf of a width, far enough above the bed. */
const shelf = (wideMm: number) =>
  boxes([
    { size: [6, 60, 24], at: [0, 0, 0] },
    { size: [wideMm, 60, 3], at: [6, 0, 24] },
  ])

test('stands are as wide as they are drawn, and small ones are to be filled more densely than wide ones', async () => {
  const suggested: number[] = []
  for (const wideMm of [4, 12, 50]) {
    const document = aPlan({ freeSpanMm: 0, marginMm: 0, sideGapMm: 0.4, upperGapMm: 0.2 })
    const { summary } = await createPlanner(engine).plan('shelf', shelf(wideMm), document)
    const [width] = summary.standWidthsMm
    const [w, d] = [wideMm - 0.4, 60]
    closeTo(width!, (2 * w * d) / (2 * (w + d)), 0.1 * w)
    suggested.push(suggestedDensity(width!, document.decisions))
  }
  expect(suggested[0]).toBeGreaterThan(1.5 * suggested[1])
  expect(suggested[1]).toBeGreaterThan(suggested[2])
})

test.each([2, 5])(
  'however sparse a stand, what lies on it spans no more than the %d mm that lines are trusted with',
  async (supportSpanMm) => {
    const document = aPlan({ supportSpanMm, standDensity: 0.05, standLines: 'separate', freeSpanMm: 0 })
    const { geometry } = await createPlanner(engine).plan('shelf', shelf(24), document)
    // Spans are looked at in what touches: here in what carries that, right above the stand.
    const passes = geometry.passes.map((pass) => ({
      ...pass,
      role: pass.fill === 'dense' ? 'interface' : '',
    }))
    const ask = { lineWidthMm: document.decisions.lineWidthMm, gapMm: 0.2, lowerGapMm: 0.2 }
    const { worstSpanMm } = checkPlastic({ ...geometry, passes }, ask)
    expect(worstSpanMm).toBeLessThan(supportSpanMm + 0.2)
    expect(worstSpanMm).toBeGreaterThan(0.8 * supportSpanMm)
  },
)

test('however wide, the density suggested keeps to that too', () => {
  expect(suggestedDensity(200, { lineWidthMm: 0.45, supportSpanMm: 2 })).toBeCloseTo(0.25, 9)
  expect(suggestedDensity(0.5, { lineWidthMm: 0.45, supportSpanMm: 5 })).toBeLessThanOrEqual(0.4)
})
