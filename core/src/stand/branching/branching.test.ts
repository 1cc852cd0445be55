import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../../node'
import { plainFilament } from '../../bench'
import type { Decisions } from '../../decide'
import { demoParts, meshOfSolid, weldTriangles, type Mesh } from '../../mesh'
import { createPlanner, type PlanResult } from '../../plan'
import { regionAreaMm2, splitPieces, type PolygonEngine, type Region } from '../../polygon'
import { momentsOf } from '../../release/steadiness'
import { aFilament, aPlan, boxes, checkPlastic, join, leansTooFarAt, sphere, turned } from '../../testing'
import { radians } from '../../units'

let engine: PolygonEngine
let vane: Mesh
beforeAll(async () => {
  engine = await polygonEngine()
  vane = demoParts(await solidEngine()).find(({ key }) => key === 'vane-pivot')!.mesh
})

const moved = (mesh: Mesh, x: number, y: number, z: number): Mesh => ({
  ...mesh,
  positionsMm: mesh.positionsMm.map((value, i) => value + [x, y, z][i % 3]),
})
/** Stem, round end, cylinder, round end. */
function capsule(): [number, number][] {
  const round = (fromDeg: number, toDeg: number, z: number): [number, number][] =>
    Array.from({ length: 13 }, (_, i) => {
      const angle = radians(fromDeg + ((toDeg - fromDeg) * i) / 12)
      return [9 * Math.cos(angle), z + 9 * Math.sin(angle)]
    })
  const lowest = -Math.acos(2 / 9) * (180 / Math.PI)
  return [
    [0, 0],
    [2, 0],
    [2, 37 + 9 * Math.sin(radians(lowest))],
    ...round(lowest + 1, 0, 37),
    ...round(0, 88, 45),
    [0, 54],
  ]
}
/** All of them hang more than 25 mm above the bed. */
const HIGH: readonly (readonly [string, Mesh])[] = [
  [
    'a table on one leg',
    boxes([
      { size: [6, 6, 34], at: [11, 11, 0] },
      { size: [28, 28, 3], at: [0, 0, 34] },
    ]),
  ],
  [
    'an arch over a block',
    boxes([
      { size: [10, 20, 35], at: [0, 0, 0] },
      { size: [10, 20, 35], at: [50, 0, 0] },
      { size: [60, 20, 4], at: [0, 0, 35] },
      { size: [30, 14, 5], at: [15, 3, 0] },
    ]),
  ],
  [
    'a ball on a stem',
    join([moved(sphere(12, 64), 0, 0, 28), boxes([{ size: [4, 4, 40], at: [-2, -2, 0] }])]),
  ],
  ['a capsule on a tall stem', turned(capsule(), 48)],
  [
    'a comb of thin rims',
    boxes([
      { size: [40, 4, 30], at: [0, 0, 0] },
      ...Array.from({ length: 6 }, (_, n) => ({
        size: [0.9, 14, 3] as const,
        at: [3 + 6 * n, 4, 27] as const,
      })),
    ]),
  ],
]
const capOverAPlate = boxes([
  { size: [30, 30, 8], at: [0, 0, 0] },
  { size: [4, 4, 40], at: [13, 13, 0] },
  { size: [10, 10, 3], at: [10, 10, 40] },
])
const LINE_MM = 0.45
const FREE_DEG = 48

async function planned(mesh: Mesh, decisions: Partial<Decisions>) {
  const document = aPlan({ lineWidthMm: LINE_MM, freeSpanMm: 0, freeAngleDeg: FREE_DEG, ...decisions })
  return { document, result: await createPlanner(engine).plan('part', mesh, document) }
}
const heldMm2 = ({ summary }: PlanResult) => summary.contacts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)

type Level = { bottomMm: number; topMm: number; region: Region }

/** Supports at each height. */
function sections({ geometry }: PlanResult): Level[] {
  const byTop = new Map<string, Level>()
  for (const { role, bottomMm, topMm, region } of geometry.passes) {
    if (role !== 'stand' && role !== 'interface') continue
    const key = topMm.toFixed(4)
    const known = byTop.get(key)
    byTop.set(key, {
      bottomMm: Math.min(bottomMm, known?.bottomMm ?? Infinity),
      topMm,
      region: known ? engine.union(known.region, region) : region,
    })
  }
  return [...byTop.values()].sort((a, b) => a.topMm - b.topMm)
}

describe('branching stands, measured on their sections and lines', () => {
  test.each<readonly [string, Mesh | null]>([...HIGH, ['the vane of the demo', null]])(
    '%s: as much is held as by straight ones with at most 65 %% of their plastic; nothing leans too far, floats or comes too near',
    async (_, own) => {
      const mesh = own ?? vane
      const { result: straight } = await planned(mesh, { standKind: 'straight' })
      const { result, document } = await planned(mesh, { standKind: 'branching' })
      expect(heldMm2(result)).toBeGreaterThan(0.99 * heldMm2(straight))
      expect(result.summary.contacts.every(({ achievedGapMm }) => achievedGapMm === 0.2)).toBe(true)
      expect(result.summary.estimate.roles.stand.mm3).toBeLessThan(
        0.65 * straight.summary.estimate.roles.stand.mm3,
      )
      const { lineWidthMm, lowerGapMm, sideGapMm } = document.decisions
      const all = sections(result)
      expect(all.length).toBeGreaterThan(100)
      expect(leansTooFarAt(result, FREE_DEG - 5, engine)).toEqual([])
      // Beside upright walls alone: below a slope the gap above it counts.
      const layers = result.geometry.layers.filter(({ topMm }) => topMm < 20)
      for (const { bottomMm, topMm, region } of layers) {
        const near = engine.grow(region, sideGapMm - 0.02, 'round', 0.002)
        for (const section of all)
          if (section.topMm > bottomMm + 0.001 && section.bottomMm < topMm - 0.001)
            expect(regionAreaMm2(engine.common(section.region, near))).toBeLessThan(0.001)
      }
      const report = checkPlastic(result.geometry, { lineWidthMm, gapMm: 0.2, lowerGapMm })
      expect(report.floatingMm2).toBeLessThan(0.05)
      expect(report.heldMm2).toBeGreaterThan(0.98 * heldMm2(result))
    },
    60_000,
  )

  test('the same wherever the part lies in its file, and in whatever order its triangles come', async () => {
    const [, mesh] = HIGH[1]
    const { result } = await planned(mesh, { standKind: 'branching' })
    const triangles = Array.from({ length: mesh.corners.length / 3 }, (_, t) => t).reverse()
    const shuffled = weldTriangles(
      Float32Array.from(
        triangles.flatMap((t) =>
          [0, 1, 2].flatMap((c) => {
            const at = 3 * mesh.corners[3 * t + c]
            return [...mesh.positionsMm.slice(at, at + 3)]
          }),
        ),
      ),
    )
    for (const other of [moved(mesh, 13.7, -41.3, 5), shuffled]) {
      const { result: again } = await planned(other, { standKind: 'branching' })
      expect(again.summary.estimate.roles.stand.mm3).toBeCloseTo(result.summary.estimate.roles.stand.mm3, 0)
      expect(heldMm2(again)).toBeCloseTo(heldMm2(result), 1)
    }
  })

  test('branches of another filament lean as that one may; those of the part’s own never more than the part', async () => {
    const moss = aFilament(plainFilament('Moss PETG', 'PETG', '#6d7f4b'))
    const filaments = [...aPlan().filaments, moss]
    const leansWithin = async (decisions: Partial<Decisions>, deg: number) => {
      const document = aPlan({ lineWidthMm: LINE_MM, standKind: 'branching', ...decisions }, { filaments })
      const result = await createPlanner(engine).plan('part', capOverAPlate, document)
      return leansTooFarAt(result, deg, engine).length === 0
    }
    const mossy = { standFilament: moss.id, interfaceFilament: moss.id }
    expect(await leansWithin({ ...mossy, leanDeg: 15 }, 15)).toBe(true)
    expect(await leansWithin({ ...mossy, leanDeg: 50 }, 15)).toBe(false)
    expect(await leansWithin({ freeAngleDeg: 20, leanDeg: 50 }, 15)).toBe(true)
  }, 60_000)

  test.each([
    [
      'a lip on one side of a thin wall, within reach of crowns on its other side',
      boxes([
        { size: [40, 1.2, 40], at: [0, 0, 0] },
        { size: [40, 2, 3], at: [0, -2, 37] },
        { size: [40, 20, 3], at: [0, 1.2, 38] },
      ]),
    ],
    ['a cap over a plate, whose branches lean far out before they stand on the bed', capOverAPlate],
  ])('%s: nothing of it is without a way down', async (_, mesh) => {
    const { result } = await planned(mesh, { standKind: 'branching', placement: 'bed' })
    const { contacts, estimate } = result.summary
    for (const { unheldMm2 } of contacts) expect(unheldMm2['no way down'] ?? 0).toBeLessThan(0.1)
    expect(estimate.roles.stand.mm3).toBeGreaterThan(100)
    const report = checkPlastic(result.geometry, { lineWidthMm: LINE_MM, gapMm: 0.2, lowerGapMm: 0.2 })
    expect(report.heldMm2).toBeGreaterThan(0.95 * heldMm2(result))
    expect(report.floatingMm2).toBeLessThan(0.05)
  })

  test('along a screw, where crowns meet in needles: nothing steps out farther than it may, however narrow', async () => {
    const { Manifold } = await solidEngine()
    const steps = Array.from({ length: 80 }, (_, i) =>
      Manifold.cube([6, 2, 2.2])
        .translate([4.2, -1, 3 + (18 * i) / 80])
        .rotate([0, 0, (900 * i) / 80]),
    )
    const screw = meshOfSolid(Manifold.union([Manifold.cylinder(20, 5, -1, 32), ...steps]))
    const { result, document } = await planned(screw, { standKind: 'branching', placement: 'bed' })
    expect(heldMm2(result)).toBeGreaterThan(200)
    expect(leansTooFarAt(result, document.decisions.leanDeg, engine)).toEqual([])
  })

  test('kinds mix: straight under the low shelf, branching under the high one, each by a sentence', async () => {
    const mesh = boxes([
      { size: [6, 20, 40], at: [0, 0, 0] },
      { size: [20, 20, 3], at: [6, 0, 37] },
      { size: [20, 20, 3], at: [-20, 0, 10] },
    ])
    const document = {
      ...aPlan({ freeSpanMm: 0, standKind: 'straight' }),
      exceptions: [{ where: { contact: [16, 10, 37] as const }, standKind: 'branching' as const }],
    }
    const { summary, geometry } = await createPlanner(engine).plan('part', mesh, document)
    expect(summary.contacts.map(({ zMm, holding }) => [Math.round(zMm), holding])).toEqual([
      [10, 0],
      [37, 1],
    ])
    const areaAt = (holding: number, zMm: number) =>
      geometry.passes
        .filter((pass) => pass.holding === holding && pass.bottomMm < zMm && pass.topMm >= zMm)
        .reduce((sum, { region }) => sum + regionAreaMm2(region), 0)
    expect(areaAt(0, 5)).toBeGreaterThan(390)
    expect(areaAt(1, 5)).toBeGreaterThan(1)
    expect(areaAt(1, 5)).toBeLessThan(0.15 * 400)
  })

  test.each([25, 50, 90])(
    'a single branch %i mm tall is as thick as that asks: a nozzle neither bends nor tips it, nor is it much thicker',
    async (highMm) => {
      const arm = boxes([
        { size: [20, 20, highMm + 3], at: [0, 0, 0] },
        { size: [9, 6, 3], at: [20, 7, highMm] },
      ])
      const decisions = { standKind: 'branching', placement: 'bed', freeSpanMm: 0 } as const
      const { geometry, summary } = await createPlanner(engine).plan('arm', arm, aPlan(decisions))
      const at = (zMm: number) =>
        geometry.passes.filter(
          ({ role, bottomMm, topMm }) => role === 'stand' && bottomMm <= zMm && topMm > zMm,
        )
      const topMm = Math.max(...geometry.passes.map((pass) => pass.topMm))
      const [middle, foot] = [topMm / 2, 0.01].map((zMm) => momentsOf(at(zMm).map(({ region }) => region)))
      // Two walls of 0.45 mm around nothing, plastic of 2000 N/mm2, a bed that holds 1 N/mm2, a push of 1 N.
      const share = Math.min(1, (0.9 * Math.sqrt(4 * Math.PI * middle.areaMm2)) / middle.areaMm2)
      const bendsN = (3 * 2000 * middle.inertiaMm4 * share * 0.45) / topMm ** 3
      expect(bendsN).toBeGreaterThan(1)
      expect(bendsN).toBeLessThan(3)
      expect(foot.modulusMm3 / topMm).toBeGreaterThan(1)
      expect(summary.warnings.map(({ code }) => code)).not.toContain('UNSTEADY')
    },
  )

  test('slim legs that stand alone until they hold together are told; sturdy ones hold, with less plastic than straight stands', async () => {
    const [, table] = HIGH[0]
    const heights = Array.from({ length: 330 }, (_, n) => 0.1 + n / 10)
    /** The push that bends the weakest leg of a table, in N, and how tall it stands alone. */
    const weakestLeg = ({ geometry }: PlanResult) => {
      const at = (zMm: number) =>
        geometry.passes
          .filter(({ role, bottomMm, topMm }) => role !== 'footing' && bottomMm <= zMm && topMm > zMm)
          .flatMap(({ region }) => splitPieces(region))
      const most = at(20).length
      const joinMm = heights.find((zMm) => zMm > 20 && at(zMm).length < most)!
      const bend = at(joinMm / 2).map((leg) => {
        const { areaMm2, inertiaMm4 } = momentsOf([leg])
        const share = Math.min(1, (0.9 * Math.sqrt(4 * Math.PI * areaMm2)) / areaMm2)
        return (3 * 2000 * inertiaMm4 * share * 0.45) / joinMm ** 3
      })
      return { joinMm, bendsN: Math.min(...bend) }
    }
    const unsteady = ({ summary }: PlanResult) => summary.warnings.find(({ code }) => code === 'UNSTEADY')
    const { result: straight } = await planned(table, { standKind: 'straight' })
    const slim = (await planned(table, { standKind: 'branching' })).result
    const { joinMm, bendsN } = weakestLeg(slim)
    expect(bendsN).toBeLessThan(0.5)
    const told = unsteady(slim)!
    const [, pushN, tallMm] = /pushes with ([\d.]+) N.*one of its \d+ weak legs.*until it is (\d+) mm/.exec(
      told.message,
    )!
    expect(Math.abs(Number(tallMm) - joinMm)).toBeLessThan(2)
    expect(Number(pushN)).toBeLessThan(1.2 * bendsN)
    const { change } = told.remedies![0]
    expect(change.decisions).toEqual({ branches: 'sturdy' })
    const sturdy = (await planned(table, { standKind: 'branching', ...change.decisions })).result
    expect(weakestLeg(sturdy).bendsN).toBeGreaterThan(1)
    expect(unsteady(sturdy)).toBeUndefined()
    const plasticOf = ({ summary }: PlanResult) => summary.estimate.roles.stand.mm3
    expect(plasticOf(sturdy)).toBeLessThan(0.65 * plasticOf(straight))
    expect(leansTooFarAt(sturdy, FREE_DEG - 5, engine)).toEqual([])
  }, 60_000)

  test('branches thicken step by step: nothing hollow begins wider than what would lie on its walls', async () => {
    const { Manifold, CrossSection } = await solidEngine()
    const ringOf = (outer: number, inner: number) =>
      CrossSection.circle(outer, 24).subtract(CrossSection.circle(inner, 24))
    const bend = Manifold.revolve(ringOf(14, 11).translate([30, 0]), 32, 90).rotate([90, 0, 0])
    const flange = Manifold.extrude(ringOf(24, 11), 4).translate([30, 0, -4])
    const { result } = await planned(meshOfSolid(bend.add(flange).translate([0, 0, 4])), {
      standKind: 'branching',
      ...{ placement: 'anywhere', freeAngleDeg: 45, leanDeg: 40, sideGapMm: 0.3, marginMm: 0 },
      ...{ upperGapMm: 0.3, interfaceSpacingMm: 0, standLines: 'joined', standWalls: 2 },
      ...{ standDensity: 0.06, denseTopMm: 2, thickStands: true },
    })
    const passes = result.geometry.passes.filter(({ rounds }) => rounds)
    let [pairs, mostMm] = [0, 0]
    for (const { bottomMm, rounds: upper } of passes)
      for (const { topMm, rounds: lower } of passes) {
        if (Math.abs(topMm - bottomMm) > 1e-6) continue
        for (let i = 0; i < upper!.length; i += 3)
          for (let j = 0; j < lower!.length; j += 3) {
            const far = Math.hypot(upper![i] - lower![j], upper![i + 1] - lower![j + 1])
            if (far > upper![i + 2]) continue
            pairs++
            mostMm = Math.max(mostMm, lower![j + 2] - upper![i + 2])
          }
      }
    expect(pairs).toBeGreaterThan(100)
    expect(mostMm).toBeLessThan(0.45)
  }, 60_000)

  test('over a floor of the part branches join as they do over the bed, and all of them land on it', async () => {
    const walls = [0, 45].map((y) => ({ size: [48, 3, 34] as const, at: [0, y, 0] as const }))
    const mesh = boxes([
      { size: [48, 48, 2], at: [0, 0, 0] },
      { size: [48, 48, 3], at: [0, 0, 34] },
      ...walls,
    ])
    const { result, document } = await planned(mesh, { standKind: 'branching', placement: 'anywhere' })
    const countAt = (zMm: number) =>
      splitPieces(sections(result).find(({ bottomMm, topMm }) => bottomMm < zMm && topMm >= zMm)!.region)
        .length
    // Trunks below crowns, each with one of its own; a few are left above the floor.
    expect(countAt(26)).toBeGreaterThan(15)
    expect(countAt(4)).toBeLessThan(0.5 * countAt(26))
    const { lineWidthMm, lowerGapMm } = document.decisions
    const report = checkPlastic(result.geometry, { lineWidthMm, gapMm: 0.2, lowerGapMm })
    expect(report.floatingMm2).toBe(0)
    expect(report.heldMm2).toBeGreaterThan(0.95 * report.wantedMm2)
    expect(result.summary.rests.every(({ gapMm }) => Math.abs(gapMm - lowerGapMm) < 1e-6)).toBe(true)
  }, 60_000)

  test('a bowl in a bowl, whose underside sees no bed: what is held rests on the outer one and does not float, the rest is told', async () => {
    const bowl = (radius: number, z: number, foot: number): [number, number][] => {
      const arc = (r: number, fromDeg: number, toDeg: number): [number, number][] =>
        Array.from({ length: 11 }, (_, i) => {
          const angle = radians(fromDeg + ((toDeg - fromDeg) * i) / 10)
          return [r * Math.cos(angle), z + r + r * Math.sin(angle)]
        })
      const lowest = -Math.acos(foot / radius) * (180 / Math.PI)
      return [
        [0, 0],
        [foot, 0],
        ...arc(radius, lowest, 0),
        ...arc(radius - 2, 0, -80).map(([r, h]): [number, number] => [r, h + 2]),
        [0, z + 4],
      ]
    }
    const mesh = join([turned(bowl(26, 4, 8), 64), moved(turned(bowl(14, 0, 4), 48), 0, 0, 4)])
    const { result, document } = await planned(mesh, { standKind: 'branching', placement: 'anywhere' })
    const { contacts } = result.summary
    expect(contacts.length).toBeGreaterThan(0)
    for (const { wantedMm2, areaMm2, unheldMm2 } of contacts) {
      const told = Object.values(unheldMm2).reduce((sum, mm2) => sum + mm2, 0)
      expect(Math.abs(areaMm2 + told - wantedMm2)).toBeLessThan(0.02 * wantedMm2 + 0.5)
    }
    const { lineWidthMm, lowerGapMm } = document.decisions
    const report = checkPlastic(result.geometry, { lineWidthMm, gapMm: 0.2, lowerGapMm })
    expect(report.floatingMm2).toBe(0)
  }, 60_000)

  test('where the bed cannot be reached they rest on the part, if they may, and say what is not held if not', async () => {
    const shelf = boxes([
      { size: [80, 80, 3], at: [0, 0, 0] },
      { size: [4, 40, 30], at: [0, 0, 3] },
      { size: [40, 40, 3], at: [0, 0, 33] },
    ])
    const { result: anywhere } = await planned(shelf, { standKind: 'branching', placement: 'anywhere' })
    const [contact] = anywhere.summary.contacts
    expect(contact.areaMm2).toBeGreaterThan(0.95 * contact.wantedMm2)
    expect(anywhere.summary.rests.length).toBeGreaterThan(0)
    const { result: bed } = await planned(shelf, { standKind: 'branching', placement: 'bed' })
    const [left] = bed.summary.contacts
    expect(left.areaMm2).toBeLessThan(0.9 * left.wantedMm2)
    expect(left.unheldMm2['no way down']! + left.areaMm2).toBeGreaterThan(0.95 * left.wantedMm2)
  })
})
