import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import type { PlanDocument } from '../decide'
import { bodiesOf, demoParts, meshFacts, meshOfBodies, readMesh, type Mesh } from '../mesh'
import { createPlanner } from '../plan'
import { isEmptyRegion, regionAreaMm2, type PolygonEngine } from '../polygon'
import { cutMesh } from '../slice'
import type { SupportPass } from '../stand'
import {
  aFilament,
  aPlan,
  box,
  closeTo,
  cone,
  join,
  leansTooFarAt,
  scatteredDecisions,
  scatteredPart,
  table,
} from '../testing'
import { planAs3mf, planBodies } from '.'

const slope = cone(60, 4, 3)
const turnedAside: Mesh = {
  ...slope,
  positionsMm: slope.positionsMm.map((value, i) => value + (i % 3 === 0 ? 50 : 0)),
}

let engine: PolygonEngine
let demo: Map<string, Mesh>
beforeAll(async () => {
  engine = await polygonEngine()
  demo = new Map(demoParts(await solidEngine()).map(({ key, mesh }) => [key, mesh]))
})
const planOf = (mesh: Mesh, document: PlanDocument) => createPlanner(engine).plan('part', mesh, document)

describe('bodies', () => {
  test('are closed solids that hold what was planned, whether stacked or joined the slow way', async () => {
    const solids = await solidEngine()
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    for (const [mesh, upperGapMm] of [
      [cone(60, 4, 3), 0.137],
      [demo.get('vane-pivot')!, 0.137],
      [demo.get('anemometer-cup')!, 0.2],
    ] as const) {
      const { geometry } = await planOf(mesh, aPlan({ placement: 'anywhere', upperGapMm, freeAngleDeg: 52 }))
      const bodies = await planBodies(geometry, { polygons: engine, solids }, colours)
      expect(bodies).toHaveLength(3)
      for (const { name, mesh: body } of bodies.slice(1)) {
        const planned = geometry.passes
          .filter((pass) => (pass.role === 'interface') === (name === 'Interface'))
          .reduce((sum, pass) => sum + regionAreaMm2(pass.region) * (pass.topMm - pass.bottomMm), 0)
        const { watertight, volumeMm3 } = meshFacts(body)
        expect(watertight).toBe(true)
        const planes = new Set(geometry.passes.flatMap(({ bottomMm, topMm }) => [bottomMm, topMm]))
        expect([...body.positionsMm].filter((mm, i) => i % 3 === 2 && !planes.has(mm))).toEqual([])
        closeTo(volumeMm3, planned, 0.03 * planned)
        expect(everySideTwice(body)).toBe(true)
        expect(flatOnes(body)).toBe(0)
      }
    }
  })

  /** Triangles without area, at the six decimals that a file keeps. */
  const flatOnes = ({ corners, positionsMm }: Mesh) => {
    const at = (c: number) => [0, 1, 2].map((axis) => Number(positionsMm[3 * corners[c] + axis].toFixed(6)))
    let flat = 0
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [at(t), at(t + 1), at(t + 2)]
      const [ux, uy, uz] = b.map((v, i) => v - a[i])
      const [wx, wy, wz] = c.map((v, i) => v - a[i])
      if (Math.hypot(uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx) < 1e-9) flat++
    }
    return flat
  }

  /**
   * Each side of a triangle is met by exactly one other, running the other way, also for a reader that joins
   * corners at one place: what the file format calls manifold.
   */
  const everySideTwice = ({ corners, positionsMm }: Mesh) => {
    const places = new Map<string, number>()
    const placeOf = (c: number) => {
      const at = [0, 1, 2].map((axis) => positionsMm[3 * c + axis].toFixed(6)).join(' ')
      if (!places.has(at)) places.set(at, places.size)
      return places.get(at)!
    }
    const joined = Array.from(corners, placeOf)
    const next = (side: number) => joined[side % 3 === 2 ? side - 2 : side + 1]
    const sides = new Set(joined.map((from, side) => from * positionsMm.length + next(side)))
    return (
      sides.size === joined.length &&
      joined.every((from, side) => from !== next(side) && sides.has(next(side) * positionsMm.length + from))
    )
  }

  test('of exceptions in another filament are bodies of their own, each with all and only what is printed in it', async () => {
    const [chalk, moss, fog] = ['Chalk', 'Moss', 'Fog'].map((name) => aFilament({ id: name, name }))
    const document = aPlan(
      {
        ...{ partFilament: 'Chalk', standFilament: 'Chalk', interfaceFilament: 'Moss', brimLines: 4 },
        ...{ placement: 'anywhere', freeSpanMm: 0 },
      },
      {
        filaments: [chalk, { ...moss, colour: '#6d7f4b' }, fog],
        exceptions: [{ where: { kind: 'flat' }, interfaceFilament: 'Fog', standFilament: 'Moss' }],
      },
    )
    const result = await planOf(join([table, turnedAside]), document)
    const { file } = await planAs3mf({ document, result }, { polygons: engine, solids: await solidEngine() })
    const { mesh } = readMesh(file!)
    const volumes = Object.fromEntries(
      bodiesOf(mesh).map(({ name }, b) => [name, meshFacts(meshOfBodies(mesh, (one) => one === b)!)]),
    )
    const names = ['Interface, Fog', 'Interface, Moss', 'Part', 'Stand, Chalk', 'Stand, Moss']
    expect(Object.keys(volumes).sort()).toEqual(names)
    const planned = (role: string, holding: number) =>
      result.geometry.passes
        .filter((pass) => (pass.role === 'interface') === (role === 'interface'))
        .filter((pass) => (pass.role === 'brim' ? 0 : pass.holding) === holding)
        .reduce((sum, pass) => sum + regionAreaMm2(pass.region) * (pass.topMm - pass.bottomMm), 0)
    for (const [name, role, holding] of [
      ['Stand, Chalk', 'stand', 0],
      ['Stand, Moss', 'stand', 1],
      ['Interface, Moss', 'interface', 0],
      ['Interface, Fog', 'interface', 1],
    ] as const) {
      expect(volumes[name].watertight).toBe(true)
      closeTo(volumes[name].volumeMm3, planned(role, holding), 0.03 * planned(role, holding))
    }
  })

  test('where stands of several sentences meet, no triangle lies on another once what is at one place is joined', async () => {
    const solids = await solidEngine()
    const filaments = ['Chalk', 'Moss'].map((name) => aFilament({ id: name, name }))
    const decisions = {
      ...scatteredDecisions(641),
      ...{ partFilament: 'Chalk', standFilament: 'Chalk', interfaceFilament: 'Chalk' },
      ...{ footingLines: 1, brimLines: 2 },
    }
    const exceptions = [
      { where: { kind: 'sloped' }, interfaceFilament: 'Moss' },
      { where: { kind: 'rounded' }, upperGapMm: 0.3 },
      { where: { kind: 'tip' }, interfaceFilament: 'Moss', standKind: 'branching' },
    ] as const
    const result = await planOf(scatteredPart(solids, 641), aPlan(decisions, { filaments, exceptions }))
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    const [, stand] = await planBodies(result.geometry, { polygons: engine, solids }, colours)
    expect(stand.name).toBe('Stand')
    const { corners, positionsMm } = stand.mesh
    expect(everySideTwice(stand.mesh)).toBe(true)
    expect(flatOnes(stand.mesh)).toBe(0)
    const at = (c: number) => positionsMm.slice(3 * corners[c], 3 * corners[c] + 3).join(' ')
    const triangles = new Set<string>()
    for (let t = 0; t < corners.length; t += 3)
      triangles.add([at(t), at(t + 1), at(t + 2)].sort((one, other) => (one < other ? -1 : 1)).join(' / '))
    expect(triangles.size).toBeGreaterThan(1000)
    expect(triangles.size).toBe(corners.length / 3)
  })

  test.each([9015, 9016])('of part %d have no sheets that touch along a line', async (seed) => {
    const solids = await solidEngine()
    const { geometry } = await planOf(scatteredPart(solids, seed), aPlan(scatteredDecisions(seed)))
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    const bodies = await planBodies(geometry, { polygons: engine, solids }, colours)
    expect(bodies).toHaveLength(3)
    for (const { mesh } of bodies.slice(1)) {
      expect(everySideTwice(mesh)).toBe(true)
      expect(flatOnes(mesh)).toBe(0)
      expect(meshFacts(mesh).watertight).toBe(true)
    }
  })

  test('can be stopped on the way', async () => {
    const { geometry } = await planOf(table, aPlan())
    const stop = () => {
      throw new Error('enough')
    }
    await expect(
      planBodies(
        geometry,
        { polygons: engine, solids: await solidEngine() },
        { part: '#111111', stand: '#222222', interface: '#333333' },
        stop,
      ),
    ).rejects.toThrow('enough')
  })

  test('are closed, and the gap between interface and part is the one asked for to a micrometre', async () => {
    const solids = await solidEngine()
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    for (const upperGapMm of [0, 0.137, 0.2]) {
      const { geometry } = await planOf(table, aPlan({ upperGapMm }))
      const bodies = await planBodies(geometry, { polygons: engine, solids }, colours)
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

  test('of branches step out as little as they were planned to, cut anew layer by layer', async () => {
    const solids = await solidEngine()
    const mesh = demo.get('logger-pod')!
    const { geometry } = await planOf(mesh, aPlan({ standKind: 'branching', placement: 'bed', leanDeg: 43 }))
    const colours = { part: '#d8d3c8', stand: '#cd8a62', interface: '#4f3f94' }
    const [, ...supports] = await planBodies(geometry, { polygons: engine, solids }, colours)
    const heights = new Set(geometry.passes.flatMap(({ bottomMm, topMm }) => [bottomMm, topMm]))
    const spans = [...heights].sort((a, b) => a - b).filter((z, i, all) => i === 0 || z - all[i - 1] > 1e-4)
    const middles = spans.slice(1).map((z, i) => (z + spans[i]) / 2)
    const passes = []
    for (const body of supports) {
      const cuts = await cutMesh(body.mesh, middles, engine)
      for (const [i, region] of cuts.entries())
        passes.push({ role: 'stand', bottomMm: spans[i], topMm: spans[i + 1], region } as SupportPass)
    }
    expect(passes.filter(({ region }) => !isEmptyRegion(region)).length).toBeGreaterThan(100)
    expect(leansTooFarAt({ geometry: { ...geometry, passes } }, 43, engine)).toEqual([])
  })

  test('a plan that holds nothing has the part alone', async () => {
    const { geometry } = await planOf(box([10, 10, 10]), aPlan())
    expect(geometry.passes).toHaveLength(0)
    expect(geometry.hold.every(isEmptyRegion)).toBe(true)
    const bodies = await planBodies(
      geometry,
      { polygons: engine, solids: await solidEngine() },
      { part: '#111111', stand: '#222222', interface: '#333333' },
    )
    expect(bodies.map((body) => body.name)).toEqual(['Part'])
  })
})
