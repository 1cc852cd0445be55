import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { plainFilament } from '../bench'
import type { PlanDocument } from '../decide'
import { weldTriangles, type Mesh } from '../mesh'
import { partPaths } from '../path'
import type { PolygonEngine } from '../polygon'
import { aFilament, aPlan, box, boxes, closeTo, cone, table, turned } from '../testing'
import { createPlanner, type PlanGeometry } from '.'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const planOf = (mesh: Mesh, document: PlanDocument) => createPlanner(engine).plan('part', mesh, document)
/** Slopes all around, and ends flat. */
const funnel = cone(60, 4, 3)
const standKind = 'branching'
const two = [aFilament(), aFilament({ ...plainFilament('Moss PETG', 'PETG', '#6d7f4b') })]

describe('what a plan says of a plate on a post', () => {
  test('by hand: one flat underside of 384 mm2 at 10 mm, held but for the side gap around the post', async () => {
    const { summary } = await planOf(table, aPlan({ sideGapMm: 0.5 }))
    expect(summary.contacts).toHaveLength(1)
    const [contact] = summary.contacts
    expect(contact).toMatchObject({ kind: 'flat', zMm: 10, gapMm: 0.2, achievedGapMm: 0.2, why: null })
    closeTo(contact.wantedMm2, 384, 0.1)
    // The post with its side gap: a 5 mm square with corners rounded by half a millimetre.
    closeTo(contact.areaMm2, 400 - (25 - (4 - Math.PI) * 0.25), 2)
    expect(summary).toMatchObject({ swaps: 0, swapLayers: 0, layers: 60 })
    closeTo(summary.heightMm, 12, 1e-9)
    expect(summary.warnings.filter((warning) => warning.severity === 'error')).toHaveLength(0)
  })

  test('what lies between interface lines laid apart on purpose is held, whether they cross or not', async () => {
    for (const interfaceLines of ['straight', 'crossed'] as const) {
      const { summary } = await planOf(
        table,
        aPlan({ sideGapMm: 0.5, interfaceSpacingMm: 0.3, interfaceLines }),
      )
      closeTo(summary.contacts[0].areaMm2, 400 - (25 - (4 - Math.PI) * 0.25), 2)
    }
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
    const many = await planOf(
      table,
      aPlan({ interfaceFilament: 'Moss PETG', standFilament: 'Moss PETG' }, { filaments: two }),
    )
    // Part and stand share some 45 layers: one swap a layer when neighbours start with what is loaded.
    expect(many.summary.swaps).toBeGreaterThan(40)
    expect(many.summary.swaps).toBeLessThan(60)
    closeTo(many.summary.estimate.roles.purge.mm3, many.summary.swaps * 15, 1e-6)
  })

  test('warnings: nothing held, too little on the spool, too many filaments, larger than the bed, a weld', async () => {
    const codes = async (document: PlanDocument, mesh = table) =>
      (await planOf(mesh, document)).summary.warnings.map(({ code }) => code)
    expect(await codes(aPlan({ supports: false }))).toEqual(['SUPPORTS_OFF'])
    expect(await codes(aPlan({}, { filaments: [aFilament({ gramsLeft: 0.5 })] }))).toContain('SPOOL_SHORT')
    expect(await codes(aPlan({}, { filaments: [aFilament({ gramsLeft: 500 })] }))).not.toContain(
      'SPOOL_SHORT',
    )
    expect(await codes(aPlan({ upperGapMm: 0 }))).toContain('WELDED_PAIR')
    expect(await codes(aPlan(), box([300, 10, 5]))).toContain('OUTSIDE_BED')
    expect(await codes(aPlan(), box([10, 10, 260]))).toContain('TOO_TALL')
    expect(await codes(aPlan({ layerHeightMm: 0.32 }))).toContain('LAYER_OUT_OF_RANGE')
    const three = [...two, aFilament({ ...plainFilament('Mist PVA', 'PVA', '#e6dfb8') })]
    expect(
      await codes(aPlan({ interfaceFilament: 'Moss PETG', standFilament: 'Mist PVA' }, { filaments: three })),
    ).toContain('TOO_MANY_FILAMENTS')
    // One that an exception names, but that nothing is printed in, takes no room.
    const idle = { where: { kind: 'tip' as const }, interfaceFilament: 'Mist PVA' }
    const withIdle = aPlan({ interfaceFilament: 'Moss PETG' }, { filaments: three, exceptions: [idle] })
    expect(await codes(withIdle)).not.toContain('TOO_MANY_FILAMENTS')
    expect(await codes(aPlan({ stackMode: 'shared', upperGapMm: 0.13 }))).toContain('GAP_MISSED')
    const plain = box([10, 10, 3])
    expect(await codes(aPlan(), { ...plain, corners: plain.corners.slice(0, -3) })).toContain('MESH_OPEN')
  })

  test('what of a part is too narrow for any line is said, once; a third of a millimetre is laid', async () => {
    const thin = async (mesh: Mesh) =>
      (await planOf(mesh, aPlan())).summary.warnings.filter(({ code }) => code === 'PART_TOO_THIN')
    const fin = (y: number, thickMm: number) => ({ size: [20, thickMm, 5], at: [0, y, 3] }) as const
    const plate = { size: [20, 20, 3], at: [0, 0, 0] } as const
    expect(await thin(box([20, 0.2, 10]))).toMatchObject([{ severity: 'error' }])
    const [told, ...more] = await thin(boxes([plate, fin(5, 0.33), fin(12, 0.2)]))
    expect(more).toEqual([])
    expect(told).toMatchObject({
      severity: 'warning',
      message: expect.stringMatching(/, 25 layers of it from 3.2 mm up/),
    })
    // Where it is: the plan has the part in the middle.
    expect(told.atMm![1] + 10).toBeGreaterThan(11.99)
    expect(told.atMm![1] + 10).toBeLessThan(12.21)
    expect(await thin(boxes([plate, fin(5, 0.33)]))).toEqual([])
    // Also where it hangs together with something thicker, all the way up.
    const lipped = boxes([plate, { size: [6, 6, 5], at: [0, 0, 3] }, { size: [14, 0.2, 5], at: [5.9, 2, 3] }])
    expect(await thin(lipped)).toMatchObject([
      { message: expect.stringMatching(/, 25 layers of it from 3.2 mm/) },
    ])
    // A point loses a hair of its height.
    expect(
      await thin(
        turned([
          [0, 0],
          [5, 0],
          [0, 12],
        ]),
      ),
    ).toEqual([])
  })
})

test('what is held, and by what, is given before any line is traced', async () => {
  const told: string[] = []
  const progress = async (stage: string) => void (told.at(-1) === stage || told.push(stage))
  let shapes: PlanGeometry | null = null
  const { geometry, summary } = await createPlanner(engine).plan(
    'part',
    table,
    aPlan(),
    progress,
    (given, undersides) => {
      shapes = given
      told.push(`${given.passes.length > 0 ? 'held' : 'wanted'} ${undersides}`)
    },
  )
  const many = summary.contacts.length
  expect(told.slice(0, 5)).toEqual(['slice', 'overhang', `wanted ${many}`, 'stand', `held ${many}`])
  expect(told).toContain('part paths')
  expect(shapes!).toMatchObject({ passes: geometry.passes, hold: geometry.hold, supportPaths: [] })
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
    expect(first.stages).toEqual(['slice', 'overhang', 'part paths', 'stand', 'support paths', 'estimate'])
    // The very same is known already.
    const again = await ran(aPlan())
    expect(again.stages).toEqual([])
    expect(again.result.id).toBe(first.result.id)
    expect(planner.result(first.result.id)).toBe(first.result)
    expect((await ran(aPlan({ upperGapMm: 0.25 }))).stages).toEqual(['stand', 'support paths', 'estimate'])
    expect((await ran(aPlan({ standDensity: 0.3 }))).stages).toEqual(['support paths', 'estimate'])
    expect((await ran(aPlan({ walls: 3 }))).stages).toEqual(['part paths', 'estimate'])
  })

  test('lines stay the very same where a changed value does not reach: interface by density, stands by spacing', async () => {
    const planner = createPlanner(engine)
    const linesOf = async (changes: Parameters<typeof aPlan>[0]) => {
      const { passes, supportPaths } = (await planner.plan('table', table, aPlan(changes))).geometry
      const of = (role: string) => supportPaths.filter((_, i) => passes[i].role === role)
      return { interface: of('interface'), stand: of('stand') }
    }
    const first = await linesOf({})
    const denser = await linesOf({ standDensity: 0.3 })
    const wider = await linesOf({ interfaceSpacingMm: 0.7 })
    expect([first.interface.length > 0, first.stand.length > 10]).toEqual([true, true])
    for (const [n, lines] of first.interface.entries()) {
      expect(denser.interface[n]).toBe(lines)
      expect(wider.interface[n]).not.toEqual(lines)
    }
    const changed = denser.stand.filter((lines, n) => lines.xyMm.length !== first.stand[n].xyMm.length)
    expect(changed.length).toBeGreaterThan(10)
    expect(wider.stand.every((lines, n) => lines === first.stand[n])).toBe(true)
  })

  test('a changed value gives the same as a fresh planner would, whatever was remembered', async () => {
    const planner = createPlanner(engine)
    const changes = [0.2, 0.25, 0.27, 0.13, 0.31].map((upperGapMm) => ({ upperGapMm }))
    const others = [
      { sideGapMm: 0.8 },
      { lowerGapMm: 0.4 },
      { placement: 'bed' },
      { interfaceLayers: 5 },
    ] as const
    for (const change of [...changes, ...others, ...changes.map((one) => ({ ...one, standKind }))]) {
      const document = aPlan({ placement: 'anywhere', freeAngleDeg: 45, ...change })
      const warm = (await planner.plan('part', funnel, document)).summary
      const cold = (await planOf(funnel, document)).summary
      expect(warm.estimate).toEqual(cold.estimate)
      expect(warm.timeS).toBe(cold.timeS)
      expect(warm.contacts).toEqual(cold.contacts)
    }
  })

  test('a gap a little wider, between the same layers, leaves branches the very same; another kind of gap does not', async () => {
    const planner = createPlanner(engine)
    const branchesOf = async (upperGapMm: number) => {
      const document = aPlan({ standKind, placement: 'anywhere', upperGapMm })
      const { passes } = (await planner.plan('part', cone(60, 18, 3), document)).geometry
      return new Set(passes.flatMap(({ rounds }) => rounds ?? []))
    }
    const first = await branchesOf(0.25)
    expect(first.size).toBeGreaterThan(8)
    for (const one of await branchesOf(0.26)) expect(first.has(one)).toBe(true)
    for (const one of await branchesOf(0.2)) expect(first.has(one)).toBe(false)
  })

  test('stopping in the middle leaves the planner in order', async () => {
    const planner = createPlanner(engine)
    await expect(
      planner.plan('part', funnel, aPlan(), (stage) => {
        if (stage === 'stand') throw new Error('enough')
      }),
    ).rejects.toThrow('enough')
    const after = await planner.plan('part', funnel, aPlan())
    expect(after.summary.estimate).toEqual((await planOf(funnel, aPlan())).summary.estimate)
  })

  test('lines traced somewhere else make the same plan, beside the supports and once; what fails there fails the plan', async () => {
    const others = await polygonEngine()
    const seen: string[] = []
    let traces = 0
    const planner = createPlanner(engine, async (layers, options) => {
      traces++
      const lines = await partPaths(
        layers,
        others,
        options,
        () => new Promise((resolve) => setTimeout(resolve, 1)),
      )
      seen.push('traced')
      return lines
    })
    const beside = await planner.plan(
      'vane',
      funnel,
      aPlan(),
      async (stage) => void (seen.at(-1) === stage || seen.push(stage)),
    )
    expect(seen.indexOf('stand')).toBeLessThan(seen.indexOf('traced'))
    expect(seen.at(-1)).toBe('estimate')
    const alone = await planOf(funnel, aPlan())
    expect(beside.summary.estimate).toEqual(alone.summary.estimate)
    expect(beside.summary.timeS).toBe(alone.summary.timeS)
    await planner.plan('vane', funnel, aPlan({ upperGapMm: 0.3 }))
    expect(traces).toBe(1)

    const broken = createPlanner(engine, () => Promise.reject(new Error('the thread is gone')))
    await expect(broken.plan('vane', funnel, aPlan())).rejects.toThrow('the thread is gone')
    // When the supports are stopped first, that is what is told, and the lines are not waited for.
    const slow = createPlanner(engine, () => new Promise(() => undefined))
    const stop = (stage: string) => {
      if (stage === 'stand') throw new Error('enough')
    }
    await expect(slow.plan('vane', funnel, aPlan(), stop)).rejects.toThrow('enough')
  })

  test('values out of range and filaments that are not there are refused by name', async () => {
    await expect(planOf(table, aPlan({ upperGapMm: NaN }))).rejects.toMatchObject({
      code: 'VALUE_OUT_OF_RANGE',
      message: expect.stringContaining('upperGapMm'),
    })
    await expect(planOf(table, aPlan({ layerHeightMm: 9 }))).rejects.toMatchObject({
      code: 'VALUE_OUT_OF_RANGE',
    })
    await expect(planOf(box([20, 20, 0.05]), aPlan())).rejects.toMatchObject({
      code: 'MESH_EMPTY',
      message: expect.stringContaining('thinner than half a layer'),
    })
    const sheet = weldTriangles(Float64Array.of(0, 0, 0, 0, 9, 0, 0, 0, 9))
    await expect(planOf(sheet, aPlan())).rejects.toMatchObject({
      code: 'MESH_EMPTY',
      message: expect.stringContaining('no thickness wherever a layer cuts it'),
    })
    await expect(planOf(table, aPlan({ interfaceFilament: 'Unheard of' }))).rejects.toMatchObject({
      code: 'FILAMENT_UNKNOWN',
      message: expect.stringContaining('Unheard of'),
    })
  })
})
