import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { plainFilament } from '../bench'
import { demoParts, meshFacts, type Mesh } from '../mesh'
import { partPaths } from '../path'
import { isEmptyRegion, regionAreaMm2, type PolygonEngine } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import { aFilament, aPlan, box, boxes, closeTo } from '../testing'
import { createPlanner, planBodies, type PlanDocument, type PlanResult } from '.'

let engine: PolygonEngine
let demo: Map<string, Mesh>
beforeAll(async () => {
  engine = await polygonEngine()
  demo = new Map(demoParts(await solidEngine()).map(({ key, mesh }) => [key, mesh]))
})

const planOf = (mesh: Mesh, document: PlanDocument) => createPlanner(engine).plan('part', mesh, document)
/** A 20 mm plate with a 4 mm post under its middle, 10 mm up. */
const table = boxes([
  { size: [4, 4, 10], at: [8, 8, 0] },
  { size: [20, 20, 2], at: [0, 0, 10] },
])
const two = [aFilament(), aFilament({ ...plainFilament('Moss PETG', 'PETG', '#6d7f4b') })]

describe('supports of every demo part', () => {
  const documents = [aPlan({ placement: 'anywhere', upperGapMm: 0.13 }), aPlan({ placement: 'bed', upperGapMm: 0.2, interfaceLayers: 2, sideGapMm: 0.4 })]

  test('never lie inside the part, leave the gap free, and stand on something', async () => {
    let passes = 0
    for (const mesh of demo.values())
      for (const document of documents) {
        const { geometry, summary } = await planOf(mesh, document)
        passes += geometry.passes.length
        expectNothingInside(geometry)
        expectStanding(geometry, document)
        for (const contact of summary.contacts)
          if (contact.areaMm2 > 0) {
            expect(contact.achievedGapMm).toBe(document.decisions.upperGapMm)
            const top = contact.stack.at(-1)!
            closeTo(geometry.layers[contact.layerIndex].bottomMm - top.topMm, document.decisions.upperGapMm, 1e-6)
          }
      }
    expect(passes).toBeGreaterThan(1000)
  })

  test('nowhere is plastic laid twice, whatever thickness the gap asks of the layers', async () => {
    for (const mesh of [demo.get('funnel-cradle')!, demo.get('vane-pivot')!]) {
      const { passes } = (await planOf(mesh, aPlan({ placement: 'anywhere', upperGapMm: 0.137 }))).geometry
      let twice = 0
      let all = 0
      passes.forEach((a, i) => {
        all += regionAreaMm2(a.region) * (a.topMm - a.bottomMm)
        for (const b of passes.slice(i + 1)) {
          const shared = Math.min(a.topMm, b.topMm) - Math.max(a.bottomMm, b.bottomMm)
          if (shared > SAME_HEIGHT_MM) twice += shared * regionAreaMm2(engine.common(a.region, b.region))
        }
      })
      expect(all).toBeGreaterThan(1000)
      expect(twice / all).toBeLessThan(0.001)
    }
  })

  test('standing anywhere holds every island; from the bed alone the upper rims of the shield stay in the air, and it says so', async () => {
    const anywhere = await planOf(demo.get('louvre-shield')!, documents[0])
    expect(anywhere.summary.islands).toHaveLength(3)
    expect(anywhere.summary.islands.every((island) => island.held)).toBe(true)
    const bed = await planOf(demo.get('louvre-shield')!, documents[1])
    expect(bed.summary.islands.filter((island) => island.held)).toHaveLength(1)
    expect(bed.summary.warnings).toContainEqual(expect.objectContaining({ code: 'ISLAND_NOT_HELD', severity: 'error', message: expect.stringContaining('2 of 3 islands') }))
  })

  function expectNothingInside({ layers, passes }: PlanResult['geometry']) {
    for (const pass of passes)
      for (const layer of layers) {
        if (layer.topMm <= pass.bottomMm + SAME_HEIGHT_MM || layer.bottomMm >= pass.topMm - SAME_HEIGHT_MM) continue
        const inside = regionAreaMm2(engine.common(pass.region, layer.region))
        // Outlines of supports are thinned by up to a hundredth of a millimetre.
        if (inside > 0.2) throw new Error(`${pass.role} at ${pass.topMm} lies ${inside} mm2 inside the part`)
      }
  }

  /** What a pass does not find below it, it may at most overhang by a margin and a lap. */
  function expectStanding({ layers, passes }: PlanResult['geometry'], { decisions }: PlanDocument) {
    for (const pass of passes) {
      if (pass.bottomMm < SAME_HEIGHT_MM || pass.role === 'footing') continue
      const below = passes.filter((other) => Math.abs(other.topMm - pass.bottomMm) < SAME_HEIGHT_MM).map((other) => other.region)
      // On the part a stand starts after the lower gap.
      const deep = layers.filter((layer) => layer.topMm <= pass.bottomMm + SAME_HEIGHT_MM && layer.topMm >= pass.bottomMm - decisions.lowerGapMm - decisions.layerHeightMm - SAME_HEIGHT_MM)
      const on = decisions.placement === 'anywhere' ? deep.map((layer) => layer.region) : []
      const loose = regionAreaMm2(engine.minus(pass.region, engine.grow(engine.union(...below, ...on), decisions.marginMm + 0.1, 'miter')))
      if (loose > 0.25) throw new Error(`${pass.role} at ${pass.bottomMm} to ${pass.topMm}: ${loose} mm2 stand on nothing`)
    }
  }
})

describe('what a plan says of a plate on a post', () => {
  test('by hand: one flat underside of 384 mm2 at 10 mm, held but for the side gap around the post', async () => {
    const { summary } = await planOf(table, aPlan({ sideGapMm: 0.5 }))
    expect(summary.contacts).toHaveLength(1)
    const [contact] = summary.contacts
    expect(contact).toMatchObject({ kind: 'flat', zMm: 10, gapMm: 0.2, achievedGapMm: 0.2, why: null })
    closeTo(contact.wantedMm2, 384, 0.1)
    // The post with its side gap: a 5 mm square with corners rounded by half a millimetre.
    closeTo(contact.areaMm2, 400 - (25 - (4 - Math.PI) * 0.25), 0.1)
    expect(summary).toMatchObject({ swaps: 0, swapLayers: 0, layers: 60 })
    closeTo(summary.heightMm, 12, 1e-9)
    expect(summary.warnings.filter((warning) => warning.severity === 'error')).toHaveLength(0)
  })

  test('full of plastic, the part weighs what its volume weighs', async () => {
    const { summary } = await planOf(box([20, 20, 10]), aPlan({ fillDensity: 1 }))
    closeTo(summary.estimate.roles.part.mm3, 4000, 0.03 * 4000)
    closeTo(summary.estimate.roles.part.g, (summary.estimate.roles.part.mm3 / 1000) * 1.24, 1e-9)
    const [use] = summary.estimate.filaments
    closeTo(use.m, summary.estimate.massG / 1.24 / ((Math.PI * 1.75 ** 2) / 4), 1e-6)
    closeTo(use.cost, (use.g / 1000) * 22, 1e-9)
  })

  test('a second filament in the interface alone swaps a handful of times, in whole stands on every layer', async () => {
    const few = await planOf(table, aPlan({ interfaceFilament: 'Moss PETG' }, { filaments: two }))
    // Three interface layers, each at a height of its own: into the other filament and, at the end, back.
    expect(few.summary.swaps).toBeGreaterThanOrEqual(2)
    expect(few.summary.swaps).toBeLessThanOrEqual(6)
    const many = await planOf(table, aPlan({ interfaceFilament: 'Moss PETG', standFilament: 'Moss PETG' }, { filaments: two }))
    // Part and stand share some 45 layers: one swap a layer when neighbours start with what is loaded.
    expect(many.summary.swaps).toBeGreaterThan(40)
    expect(many.summary.swaps).toBeLessThan(60)
    closeTo(many.summary.estimate.roles.purge.mm3, many.summary.swaps * 15, 1e-6)
  })

  test('warnings: nothing held, too little on the spool, too many filaments, larger than the bed, a weld', async () => {
    const codes = async (document: PlanDocument, mesh = table) => (await planOf(mesh, document)).summary.warnings.map(({ code }) => code)
    expect(await codes(aPlan({ supports: false }))).toEqual(['SUPPORTS_OFF'])
    expect(await codes(aPlan({}, { filaments: [aFilament({ gramsLeft: 0.5 })] }))).toContain('SPOOL_SHORT')
    expect(await codes(aPlan({}, { filaments: [aFilament({ gramsLeft: 500 })] }))).not.toContain('SPOOL_SHORT')
    expect(await codes(aPlan({ upperGapMm: 0 }))).toContain('WELDED_PAIR')
    expect(await codes(aPlan(), box([300, 10, 5]))).toContain('OUTSIDE_BED')
    expect(await codes(aPlan(), box([10, 10, 260]))).toContain('TOO_TALL')
    expect(await codes(aPlan({ layerHeightMm: 0.32 }))).toContain('LAYER_OUT_OF_RANGE')
    const three = [...two, aFilament({ ...plainFilament('Mist PVA', 'PVA', '#e6dfb8') })]
    expect(await codes(aPlan({ interfaceFilament: 'Moss PETG', standFilament: 'Mist PVA' }, { filaments: three }))).toContain('TOO_MANY_FILAMENTS')
    expect(await codes(aPlan({ stackMode: 'shared', upperGapMm: 0.13 }))).toContain('GAP_MISSED')
    const plain = box([10, 10, 3])
    expect(await codes(aPlan(), { ...plain, corners: plain.corners.slice(0, -3) })).toContain('MESH_OPEN')
  })
})

describe('stages', () => {
  test('a changed value reruns only what depends on it', async () => {
    const planner = createPlanner(engine)
    const ran = async (document: PlanDocument) => {
      const stages = new Set<string>()
      const result = await planner.plan('part', table, document, (stage) => void stages.add(stage))
      return { stages: [...stages], result }
    }
    const first = await ran(aPlan())
    expect(first.stages).toEqual(['slice', 'overhang', 'part paths', 'stand', 'stack', 'support paths', 'estimate'])
    expect((await ran(aPlan())).stages).toEqual(['estimate'])
    expect((await ran(aPlan({ upperGapMm: 0.25 }))).stages).toEqual(['stack', 'support paths', 'estimate'])
    expect((await ran(aPlan({ standDensity: 0.3 }))).stages).toEqual(['support paths', 'estimate'])
    expect((await ran(aPlan({ walls: 3 }))).stages).toEqual(['part paths', 'estimate'])
  })

  test('a changed value gives the same as a fresh planner would, whatever was remembered', async () => {
    const planner = createPlanner(engine)
    const mesh = demo.get('vane-pivot')!
    const documents = [0.2, 0.25, 0.13, 0.31].map((upperGapMm) => aPlan({ upperGapMm, placement: 'anywhere', freeAngleDeg: 45 }))
    for (const document of documents) {
      const warm = (await planner.plan('vane', mesh, document)).summary
      const cold = (await planOf(mesh, document)).summary
      expect(warm.estimate).toEqual(cold.estimate)
      expect(warm.timeS).toBe(cold.timeS)
      expect(warm.contacts).toEqual(cold.contacts)
    }
  })

  test('stopping in the middle leaves the planner in order', async () => {
    const planner = createPlanner(engine)
    const mesh = demo.get('funnel-cradle')!
    await expect(
      planner.plan('part', mesh, aPlan(), (stage) => {
        if (stage === 'stand') throw new Error('enough')
      }),
    ).rejects.toThrow('enough')
    const after = await planner.plan('part', mesh, aPlan())
    expect(after.summary.estimate).toEqual((await planOf(mesh, aPlan())).summary.estimate)
  })

  test('lines traced somewhere else make the same plan, beside the supports and once; what fails there fails the plan', async () => {
    const mesh = demo.get('vane-pivot')!
    const others = await polygonEngine()
    const seen: string[] = []
    let traces = 0
    const planner = createPlanner(engine, async (layers, options) => {
      traces++
      const lines = await partPaths(layers, others, options, () => new Promise((resolve) => setTimeout(resolve, 1)))
      seen.push('traced')
      return lines
    })
    const beside = await planner.plan('vane', mesh, aPlan(), async (stage) => void (seen.at(-1) === stage || seen.push(stage)))
    expect(seen.indexOf('stand')).toBeLessThan(seen.indexOf('traced'))
    expect(seen.at(-1)).toBe('estimate')
    const alone = await planOf(mesh, aPlan())
    expect(beside.summary.estimate).toEqual(alone.summary.estimate)
    expect(beside.summary.timeS).toBe(alone.summary.timeS)
    await planner.plan('vane', mesh, aPlan({ upperGapMm: 0.3 }))
    expect(traces).toBe(1)

    const broken = createPlanner(engine, () => Promise.reject(new Error('the thread is gone')))
    await expect(broken.plan('vane', mesh, aPlan())).rejects.toThrow('the thread is gone')
    // When the supports are stopped first, that is what is told, and the lines are not waited for.
    const slow = createPlanner(engine, () => new Promise(() => undefined))
    const stop = (stage: string) => {
      if (stage === 'stand') throw new Error('enough')
    }
    await expect(slow.plan('vane', mesh, aPlan(), stop)).rejects.toThrow('enough')
  })

  test('values out of range and filaments that are not there are refused by name', async () => {
    await expect(planOf(table, aPlan({ upperGapMm: NaN }))).rejects.toMatchObject({ code: 'VALUE_OUT_OF_RANGE', message: expect.stringContaining('upperGapMm') })
    await expect(planOf(table, aPlan({ layerHeightMm: 9 }))).rejects.toMatchObject({ code: 'VALUE_OUT_OF_RANGE' })
    await expect(planOf(box([20, 20, 0.05]), aPlan())).rejects.toMatchObject({ code: 'MESH_EMPTY', message: expect.stringContaining('thinner than half a layer') })
    await expect(planOf(table, aPlan({ interfaceFilament: 'Unheard of' }))).rejects.toMatchObject({ code: 'FILAMENT_UNKNOWN', message: expect.stringContaining('Unheard of') })
  })
})

describe('bodies', () => {
  test('are closed solids that hold what was planned, whether stacked or joined the slow way', async () => {
    const solids = await solidEngine()
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    for (const [key, upperGapMm] of [
      ['logger-pod', 0.137],
      ['vane-pivot', 0.137],
      ['funnel-cradle', 0.2],
      ['anemometer-cup', 0.2],
    ] as const) {
      // prettier-ignore
      const mesh = demo.get(key)!
      const { geometry } = await planOf(mesh, aPlan({ placement: 'anywhere', upperGapMm, freeAngleDeg: 52 }))
      const bodies = await planBodies(geometry, engine, solids, colours)
      expect(bodies).toHaveLength(3)
      for (const { name, mesh: body } of bodies.slice(1)) {
        const planned = geometry.passes
          .filter((pass) => (pass.role === 'interface') === (name === 'Interface'))
          .reduce((sum, pass) => sum + regionAreaMm2(pass.region) * (pass.topMm - pass.bottomMm), 0)
        const { watertight, volumeMm3 } = meshFacts(body)
        expect(watertight).toBe(true)
        closeTo(volumeMm3, planned, 0.03 * planned)
        expect(everySideTwice(body)).toBe(true)
      }
    }
  })

  /** Each side of a triangle is met by exactly one other, running the other way: what the file format calls manifold. */
  const everySideTwice = ({ corners, positionsMm }: Mesh) => {
    const sides = new Set<number>()
    for (let i = 0; i < corners.length; i++) sides.add(corners[i] * positionsMm.length + corners[i % 3 === 2 ? i - 2 : i + 1])
    if (sides.size !== corners.length) return false
    return corners.every((from, i) => sides.has(corners[i % 3 === 2 ? i - 2 : i + 1] * positionsMm.length + from))
  }

  test('can be stopped on the way', async () => {
    const { geometry } = await planOf(table, aPlan())
    const stop = () => {
      throw new Error('enough')
    }
    await expect(planBodies(geometry, engine, await solidEngine(), { part: '#111111', stand: '#222222', interface: '#333333' }, stop)).rejects.toThrow('enough')
  })

  test('are closed, and the gap between interface and part is the one asked for to a micrometre', async () => {
    const solids = await solidEngine()
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    for (const upperGapMm of [0, 0.137, 0.2]) {
      const { geometry } = await planOf(table, aPlan({ upperGapMm }))
      const bodies = await planBodies(geometry, engine, solids, colours)
      expect(bodies.map((body) => body.name)).toEqual(['Part', 'Stand', 'Interface'])
      const [, stand, touching] = bodies.map(({ mesh }) => heights(mesh))
      closeTo(touching.top, 10 - upperGapMm, 1e-3)
      closeTo(stand.top, touching.bottom, 1e-3)
      expect(stand.bottom).toBe(0)
    }
  })

  const heights = ({ positionsMm }: Mesh) => {
    const z = positionsMm.filter((_, i) => i % 3 === 2)
    return { top: z.reduce((a, b) => Math.max(a, b)), bottom: z.reduce((a, b) => Math.min(a, b)) }
  }

  test('a plan that holds nothing has the part alone', async () => {
    const { geometry } = await planOf(box([10, 10, 10]), aPlan())
    expect(geometry.passes).toHaveLength(0)
    expect(geometry.hold.every(isEmptyRegion)).toBe(true)
    const bodies = await planBodies(geometry, engine, await solidEngine(), { part: '#111111', stand: '#222222', interface: '#333333' })
    expect(bodies.map((body) => body.name)).toEqual(['Part'])
  })
})
