import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { demoParts, type Mesh } from '../mesh'
import { createPlanner } from '../plan'
import type { PolygonEngine } from '../polygon'
import { aPlan, cone, leansTooFarAt } from '../testing'

let engine: PolygonEngine
let vane: Mesh
beforeAll(async () => {
  engine = await polygonEngine()
  vane = demoParts(await solidEngine()).find(({ key }) => key === 'vane-pivot')!.mesh
})

const LEAN_DEG = 30

test('stand layers twice as thick bear what rests beside their upper half; nothing steps out too far', async () => {
  for (const [mesh, standKind, isThick] of [
    [cone(60, 4, 3), 'straight', true],
    [cone(60, 4, 3), 'branching', true],
    [vane, 'branching', true],
    [vane, 'straight', true],
    // A rim that follows a slope for a small share of its length is no hair.
    [vane, 'straight', false],
  ] as const) {
    const decisions = {
      standKind,
      thickStands: isThick,
      layerHeightMm: 0.12,
      upperGapMm: 0.24,
      leanDeg: LEAN_DEG,
    }
    const plan = await createPlanner(engine).plan('part', mesh, aPlan({ placement: 'bed', ...decisions }))
    expect(leansTooFarAt(plan, LEAN_DEG, engine)).toEqual([])
    if (mesh !== vane) continue
    const thick = plan.geometry.passes.filter(({ bottomMm, topMm }) => topMm - bottomMm > 0.2)
    expect(thick.length > 40).toBe(isThick)
  }
})
