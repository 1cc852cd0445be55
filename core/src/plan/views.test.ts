import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { regionAreaMm2 } from '../polygon'
import { aPlan, boxes, closeTo } from '../testing'
import { createPlanner, layerViewAt, planBounds, sectionOf, type PlanResult } from '.'

let plan: PlanResult
beforeAll(async () => {
  const table = boxes([
    { size: [4, 4, 10], at: [8, 8, 0] },
    { size: [20, 20, 2], at: [0, 0, 10] },
  ])
  plan = await createPlanner(await polygonEngine()).plan(
    'table',
    table,
    aPlan({ upperGapMm: 0.2, marginMm: 0 }),
  )
})

/** Area of the bars of a section. */
const areaOf = (spans: Float64Array) => {
  let sum = 0
  for (let i = 0; i < spans.length; i += 4) sum += (spans[i + 1] - spans[i]) * (spans[i + 3] - spans[i + 2])
  return sum
}

describe('an upright section', () => {
  test('through the middle meets post and plate: 4 x 10 and 20 x 2', () => {
    closeTo(areaOf(sectionOf(plan.geometry, 0, 0).part), 80, 0.1)
    closeTo(areaOf(sectionOf(plan.geometry, 90, 0).part), 80, 0.1)
  })

  test('beside the post meets the plate alone, with stand and interface below', () => {
    const section = sectionOf(plan.geometry, 0, 6)
    closeTo(areaOf(section.part), 40, 0.1)
    // Three interface layers over the whole width; below them the stand, down to the bed.
    expect(areaOf(section.interface)).toBeGreaterThan(8)
    // However narrow the margin, half a line beyond what is held: 20.45 wide; and the footing.
    closeTo(areaOf(section.interface) + areaOf(section.stand), 20.45 * 9.8, 1)
    closeTo(areaOf(section.hanging), 20 * 0.2, 0.1)
  })

  test('outside the part meets nothing', () => {
    expect(sectionOf(plan.geometry, 0, 40).part).toHaveLength(0)
  })
})

describe('a layer', () => {
  test('is the one that covers the height, with what it lies on and what hangs of it', () => {
    const view = layerViewAt(plan.geometry, 10.1)
    expect(view.index).toBe(50)
    closeTo(regionAreaMm2(view.part), 400, 0.01)
    closeTo(regionAreaMm2(view.below!), 16, 0.01)
    closeTo(regionAreaMm2(view.hanging), 384, 0.05)
    expect(view.supports).toHaveLength(0)
  })

  test('just under the plate shows the interface beside the post, line by line too', () => {
    const view = layerViewAt(plan.geometry, 9.7)
    expect(view.supports.map((one) => one.role)).toContain('interface')
    const lines = view.paths.find((one) => one.role === 'interface')!
    expect(lines.starts.length).toBeGreaterThan(20)
    expect(layerViewAt(plan.geometry, 999).index).toBe(59)
    expect(layerViewAt(plan.geometry, 0).below).toBeNull()
  })

  test('the box around everything holds the footing too', () => {
    const { minX, maxX, minY, maxY } = planBounds(plan.geometry)
    expect(maxX - minX).toBeGreaterThan(20)
    expect(maxY - minY).toBeGreaterThan(20)
    expect(maxX - minX).toBeLessThan(24)
  })
})

test('the ribbon’s volumes and times add up to the plan’s', () => {
  const { ribbon, estimate, timeS, swapTimeS } = plan.summary
  const sum = (values: Float64Array) => values.reduce((a, b) => a + b, 0)
  closeTo(sum(ribbon.partMm3), estimate.roles.part.mm3, 1e-6)
  closeTo(sum(ribbon.standMm3), estimate.roles.stand.mm3 + estimate.roles.footing.mm3, 1e-6)
  closeTo(sum(ribbon.interfaceMm3), estimate.roles.interface.mm3, 1e-6)
  closeTo(sum(ribbon.timeS) + swapTimeS, timeS, 1e-6)
  expect([...ribbon.zMm]).toEqual([...ribbon.zMm].sort((a, b) => a - b))
})
