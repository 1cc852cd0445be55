import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { demoParts, type Mesh } from '../mesh'
import { createPlanner } from '../plan'
import { isEmptyRegion, type PolygonEngine } from '../polygon'
import { aPlan, cone, leansTooFarAt, turned } from '../testing'

let engine: PolygonEngine
let vane: Mesh
beforeAll(async () => {
  engine = await polygonEngine()
  vane = demoParts(await solidEngine()).find(({ key }) => key === 'vane-pivot')!.mesh
})

type Span = { readonly bottomMm: number; readonly topMm: number }

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

test('stand layers twice as thick keep the side gap of both, and lie on nothing of their own height', async () => {
  const stem = turned(
    [
      [0, 0],
      [14, 0],
      [4, 20],
      [22, 20],
      [22, 23],
      [0, 23],
    ],
    64,
  )
  for (const standKind of ['straight', 'branching'] as const) {
    const decisions = { standKind, thickStands: true, layerHeightMm: 0.12, upperGapMm: 0.13, sideGapMm: 0.6 }
    const { geometry } = await createPlanner(engine).plan('part', stem, aPlan(decisions))
    const stands = geometry.passes.filter(({ role }) => role === 'stand' || role === 'interface')
    expect(stands.filter(({ bottomMm, topMm }) => topMm - bottomMm > 0.2).length).toBeGreaterThan(40)
    const sharesHeight = (a: Span, b: Span) => a.bottomMm < b.topMm - 1e-6 && b.bottomMm < a.topMm - 1e-6
    stands.forEach((pass, n) => {
      for (const other of stands.slice(n + 1))
        if (sharesHeight(pass, other))
          expect(isEmptyRegion(engine.grow(engine.common(pass.region, other.region), -0.01, 'miter'))).toBe(
            true,
          )
      // Below the slab nothing is let off the side gap.
      if (pass.fill !== 'stand' || pass.topMm > 19) return
      for (const layer of geometry.layers)
        if (sharesHeight(pass, layer))
          expect(isEmptyRegion(engine.common(pass.region, engine.grow(layer.region, 0.58, 'round')))).toBe(
            true,
          )
    })
  }
})
