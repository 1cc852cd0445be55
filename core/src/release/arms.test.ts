import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { regionFromRings, type PolygonEngine, type Region } from '../polygon'
import { aPlan, boxes, closeTo } from '../testing'
import { createPlanner, planRelease } from '../plan'
import { armsOf } from './arms'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const rect = (x: number, y: number, w: number, d: number): Region =>
  regionFromRings([[x, y, x + w, y, x + w, y + d, x, y + d]])
const layersOf = (regions: readonly Region[]) =>
  regions.map((region, i) => ({ bottomMm: 0.2 * i, topMm: 0.2 * (i + 1), region }))
const bulk = rect(0, 0, 30, 30)
/** A paddle 20 mm square beside the bulk, 6 mm from it, on an arm so wide. */
const withArm = (armMm: number) => engine.union(bulk, rect(30, 15 - armMm / 2, 6, armMm), rect(36, 5, 20, 20))
const paddle = { layer: 20, region: rect(36, 5, 20, 20) }
const any = () => true

describe('arms of a part', () => {
  test.each([0.9, 1.7, 3, 4.4])(
    'an arm %s mm wide and 2 mm tall is found with its section, to a twentieth',
    (armMm) => {
      const arm = withArm(armMm)
      const layers = layersOf(Array.from({ length: 60 }, (_, i) => (i >= 20 && i < 30 ? arm : bulk)))
      const [found] = armsOf(layers, [paddle], engine, any)
      closeTo(found!.widthMm, Math.min(armMm, 2), 0.05 * armMm)
      closeTo(found!.areaMm2, armMm * 2, 0.1 * armMm)
      closeTo(found!.zMm, 5, 1e-9)
      closeTo(found!.carriesMm2, 400, 8)
    },
  )

  test('an arm that is thinner in some layers is as wide as each of them', () => {
    const layers = layersOf(
      Array.from({ length: 60 }, (_, i) => (i < 20 || i >= 30 ? bulk : withArm(i < 25 ? 3 : 2))),
    )
    const [found] = armsOf(layers, [paddle], engine, any)
    closeTo(found!.areaMm2, 5 * 0.2 * 3 + 5 * 0.2 * 2, 0.2)
    closeTo(found!.widthMm, 2, 0.1)
  })

  test.each([
    ['a bar taller than what it carries', (i: number) => (i >= 15 && i < 40 ? 3 : 0), 3, 15],
    [
      'a round bar, its middle above',
      (i: number) => 2 * Math.sqrt(Math.max(0, 4 - (0.2 * i + 0.1 - 5.5) ** 2)),
      4,
      12.57,
    ],
  ] as const)('%s is measured with all of its layers', (_, widthAt, widthMm, areaMm2) => {
    const layers = layersOf(
      Array.from({ length: 60 }, (_, i) => {
        const arm = widthAt(i) > 0 ? [rect(30, 15 - widthAt(i) / 2, 16, widthAt(i))] : []
        return engine.union(bulk, ...arm, ...(i >= 20 && i < 30 ? [rect(36, 5, 20, 20)] : []))
      }),
    )
    const [found] = armsOf(layers, [paddle], engine, any)
    closeTo(found!.widthMm, widthMm, 0.05 * widthMm)
    closeTo(found!.areaMm2, areaMm2, 0.05 * areaMm2)
  })

  test('what a wall holds as well, what is as wide as its arm, and what is asked by nobody hangs on none', () => {
    const arm = withArm(2)
    const plain = Array.from({ length: 60 }, (_, i) => (i >= 20 && i < 30 ? arm : bulk))
    // Behind the paddle a wall 1 mm thick leads up to a ceiling that reaches over from the bulk.
    const walled = plain.map((region, i) =>
      i < 30 ? region : engine.union(bulk, i < 50 ? rect(54, 5, 1, 20) : rect(30, 0, 26, 30)),
    )
    // So does a slab that lies on its rim along all of its side.
    const tucked = plain.map((region, i) =>
      i >= 30 && i < 40 ? engine.union(bulk, rect(30, 0, 9, 30)) : region,
    )
    expect(armsOf(layersOf(plain), [paddle], engine, any)[0]).not.toBeNull()
    for (const held of [walled, tucked]) expect(armsOf(layersOf(held), [paddle], engine, any)).toEqual([null])
    const tongue = engine.union(bulk, rect(30, 13, 20, 4))
    const tongued = layersOf(Array.from({ length: 60 }, (_, i) => (i >= 20 && i < 30 ? tongue : bulk)))
    expect(armsOf(tongued, [{ layer: 20, region: rect(30, 13, 20, 4) }], engine, any)).toEqual([null])
    expect(armsOf(layersOf(plain), [paddle, null], engine, () => false)).toEqual([null, null])
  })

  test('a plan of such a part says so of the stand below the paddle, in its reasons and as its neck', async () => {
    const mesh = boxes([
      { size: [30, 30, 20], at: [0, 0, 0] },
      { size: [7, 2, 2], at: [29.5, 14, 10] },
      { size: [20, 20, 2], at: [36, 5, 10] },
    ])
    const document = aPlan({ upperGapMm: 0.1 })
    const result = await createPlanner(engine).plan('part', mesh, document)
    const { stands } = planRelease(document, result, engine)
    closeTo(stands[0].neckMm!, 2, 0.2)
    expect(stands[0].reasons.join()).toContain('through an arm 2.0 mm wide')
    expect(planRelease(document, result).stands[0].neckMm).toBeNull()
  })
})
