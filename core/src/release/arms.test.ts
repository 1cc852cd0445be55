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
  test.each([0.9, 1.7, 3, 4.4])('an arm %s mm wide is found with its section, to a twentieth', (armMm) => {
    const arm = withArm(armMm)
    const layers = layersOf(Array.from({ length: 60 }, (_, i) => (i >= 20 && i < 30 ? arm : bulk)))
    const [found] = armsOf(layers, [paddle], engine, any)
    closeTo(found!.widthMm, armMm, 0.05 * armMm)
    closeTo(found!.areaMm2, armMm * 2, 0.1 * armMm)
    closeTo(found!.zMm, 5, 1e-9)
    closeTo(found!.carriesMm2, 400, 8)
  })

  test('an arm that is thinner in some layers is as wide as each of them', () => {
    const layers = layersOf(
      Array.from({ length: 60 }, (_, i) => (i < 20 || i >= 30 ? bulk : withArm(i < 25 ? 3 : 2))),
    )
    const [found] = armsOf(layers, [paddle], engine, any)
    closeTo(found!.areaMm2, 5 * 0.2 * 3 + 5 * 0.2 * 2, 0.2)
    closeTo(found!.widthMm, 2, 0.1)
  })

  test('what a wall holds as well, what is as wide as its arm, and what is asked by nobody hangs on none', () => {
    const arm = withArm(2)
    const plain = Array.from({ length: 60 }, (_, i) => (i >= 20 && i < 30 ? arm : bulk))
    // Above the arm a wall 1 mm thick leads from the paddle back to the bulk.
    const walled = plain.map((region, i) =>
      i >= 30 && i < 40 ? engine.union(bulk, rect(30, 14.5, 20, 1)) : region,
    )
    expect(armsOf(layersOf(plain), [paddle], engine, any)[0]).not.toBeNull()
    expect(armsOf(layersOf(walled), [paddle], engine, any)).toEqual([null])
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
