import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import type { PolygonEngine } from '../polygon'
import { aPlan, boxes, closeTo } from '../testing'
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

test('however wide, lines stay so close that what they carry spans no more than it is trusted with', () => {
  expect(suggestedDensity(200, { lineWidthMm: 0.45, supportSpanMm: 2 })).toBeCloseTo(0.23, 9)
  expect(suggestedDensity(0.5, { lineWidthMm: 0.45, supportSpanMm: 5 })).toBeLessThanOrEqual(0.4)
})
