import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import type { Decisions } from '../decide'
import { demoParts, meshOfSolid, type Mesh } from '../mesh'
import { createPlanner, type PlanResult } from '../plan'
import { boundsOf, boxRegion, joinPieces, regionAreaMm2, stackEngine, type PolygonEngine } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import { aPlan, box, boxes, checkPlastic, cone, join, sphere, table, turned } from '../testing'
import { radians } from '../units'
import { grounded } from './grounded'
import { landingOn } from './landing'
import { outlinesOf } from './outlines'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

/** A cone that leans 60 degrees. */
const funnel = cone(60, 4, 3)
/** A shelf over a step: what is held above stands on the part. */
const shelf = boxes([
  { size: [20, 10, 3], at: [0, 0, 0] },
  { size: [4, 10, 7], at: [0, 0, 3] },
  { size: [20, 10, 2], at: [0, 0, 10] },
])
/** A plate on a stem over a roof; below it there is no bed to be seen. */
function roofed(deg: number): Mesh {
  const roofMm = 2 + 17 * Math.tan(radians(deg))
  const [low, high] = [roofMm + 9.34, roofMm + 11.34]
  return turned(
    [
      [0, 0],
      [20, 0],
      [20, 2],
      [3, roofMm],
      [3, low],
      [19, low],
      [19, high],
      [0, high],
    ],
    64,
  )
}
const SHAPES: readonly (readonly [string, Mesh])[] = [
  ['table', table],
  ['funnel', funnel],
  ['shelf', shelf],
]

async function planned(mesh: Mesh, decisions: Partial<Decisions>) {
  const document = aPlan({ placement: 'anywhere', firstLayerHeightMm: 0.2, ...decisions })
  const result = await createPlanner(engine).plan('part', mesh, document)
  const { contacts } = result.summary
  const { lineWidthMm, lowerGapMm, upperGapMm } = document.decisions
  const report = checkPlastic(result.geometry, {
    lineWidthMm,
    gapMm: contacts[0]?.achievedGapMm ?? upperGapMm,
    lowerGapMm,
  })
  const of = (pick: (contact: (typeof contacts)[number]) => number) =>
    contacts.reduce((sum, contact) => sum + pick(contact), 0)
  return {
    result,
    report,
    wantedMm2: of(({ wantedMm2 }) => wantedMm2),
    heldMm2: of(({ areaMm2 }) => areaMm2),
    namedMm2: of(({ unheldMm2 }) => Object.values(unheldMm2).reduce((sum, mm2) => sum + mm2, 0)),
  }
}

test.each([
  [0.12, 5],
  [0.2, 3],
  [0.28, 2],
])('in levels of %d mm what begins on a slope waits for %d more, which is 0.6 mm', (heightMm, levels) => {
  const rules = { lineWidthMm: 0.4, heightMm, stepMm: 0.1 }
  const landing = landingOn(rules, stackEngine(engine))
  const strip = boxRegion({ minX: 0, minY: 0, maxX: 0.2, maxY: 9 })
  expect(landing.laid(10, strip, strip, []).starts.length).toBe(1)
  const [awaited, ...others] = landing.awaited(10 + levels)
  expect(others).toEqual([])
  expect(boundsOf(awaited.xyMm).maxX).toBeCloseTo(0.2 + 0.1 * levels, 2)
  expect(landing.awaited(11 + levels)).toEqual([])
})

test('above a stand too narrow a strip ends, but nobody cuts a slot for it out of what is below', async () => {
  const regions = stackEngine(engine)
  const strip = (minX: number, maxX: number) => boxRegion({ minX, minY: 0, maxX, maxY: 9 })
  const whole = strip(0, 30)
  // Between two stands 0.1 mm of strip, and beside them one that begins on nothing.
  const above = joinPieces([strip(0, 9), strip(10, 10.1), strip(11, 20), strip(35, 40)])
  const rules = { lineWidthMm: 0.4, heightMm: 0.2, stepMm: 0.1, onPart: false, freeBelow: () => 1 }
  const { columns } = await grounded([whole, whole, above], outlinesOf([], regions), regions, rules)
  expect(columns.map(regionAreaMm2)).toEqual([270, 270, 162])
})

describe('support lines as they will lie, looked at pixel by pixel', () => {
  test.each(SHAPES)(
    '%s: held at the gap asked, or said why not; nothing begins on nothing, hangs far or touches the part',
    async (_, mesh) => {
      for (const layerHeightMm of [0.12, 0.2, 0.28])
        for (const upperGapMm of [0.06, 0.2, 0.3]) {
          const { report, wantedMm2, heldMm2, namedMm2 } = await planned(mesh, { layerHeightMm, upperGapMm })
          const says = `${layerHeightMm} mm layers, gap ${upperGapMm}`
          expect([says, Math.abs(report.wantedMm2 - wantedMm2) / wantedMm2 < 0.02]).toEqual([says, true])
          // What the plan calls held really is, and what is not is accounted for.
          expect([says, report.heldMm2 > 0.98 * heldMm2]).toEqual([says, true])
          expect([says, Math.abs(heldMm2 + namedMm2 - wantedMm2) < 0.01 * wantedMm2]).toEqual([says, true])
          expect([says, report.heldMm2 / wantedMm2 > 0.6]).toEqual([says, true])
          expect([says, report.floatingMm2]).toEqual([says, 0])
          expect([says, report.worstEndMm < 2, report.worstSpanMm < 5]).toEqual([says, true, true])
          expect([says, report.sideContactMm < 2]).toEqual([says, true])
          expect([says, report.doubledShare < 0.05]).toEqual([says, true])
        }
    },
  )

  test.each([
    ['straight', 27, 0.12, 0.13],
    ['straight', 27, 0.28, 0.2],
    ['straight', 45, 0.2, 0.2],
    ['straight', 56, 0.2, 0.2],
    ['branching', 27, 0.2, 0.2],
    ['branching', 27, 0.28, 0.13],
    ['branching', 45, 0.2, 0.2],
  ] as const)(
    '%s stands that rest on a roof of %d degrees, %d mm layers, gap %d: nothing touches it, nothing hangs',
    async (standKind, deg, layerHeightMm, upperGapMm) => {
      const plan = await planned(roofed(deg), { standKind, layerHeightMm, upperGapMm })
      const { report, heldMm2, wantedMm2 } = plan
      expect(heldMm2 / wantedMm2).toBeGreaterThan(0.95)
      expect(report.heldMm2).toBeGreaterThan(0.98 * heldMm2)
      expect(report.floatingMm2).toBe(0)
      expect(report.sideContactMm).toBe(0)
    },
  )

  test('beside a steep foot no ring of interface is laid on nothing, as if it began there', async () => {
    const { Manifold } = await solidEngine()
    const bowl = Manifold.sphere(40, 96).trimByPlane([0, 0, -1], 36).translate([0, 0, 40])
    const mesh = meshOfSolid(bowl.add(Manifold.cylinder(4, 15, 13.5, 32)))
    const { report } = await planned(mesh, { lineWidthMm: 0.45, upperGapMm: 0.13, firstLayerHeightMm: 0.2 })
    expect(report.worstSpanMm).toBeLessThan(5)
    expect(report.worstEndMm).toBeLessThan(2)
    expect(report.heldMm2).toBeGreaterThan(1)
  })

  test.each([2, 4, 12])(
    'beside a step %d layers high they keep the side gap all the same',
    async (levels) => {
      const mesh = boxes([
        { size: [44, 20, 3], at: [0, 0, 0] },
        { size: [4, 20, 20], at: [0, 0, 0] },
        { size: [10, 20, 0.2 * levels], at: [19, 0, 3] },
        { size: [44, 20, 2], at: [0, 0, 20] },
      ])
      const { result } = await planned(mesh, { lineWidthMm: 0.4, sideGapMm: 0.6 })
      const { passes, supportPaths } = result.geometry
      // The part is laid about the middle of the bed: its step reaches from -3 to 7 mm, and 10 mm aside.
      let nearestMm = Infinity
      passes.forEach(({ bottomMm, topMm }, i) => {
        if (bottomMm < 3 || topMm > 3 + 0.2 * levels + SAME_HEIGHT_MM) return
        const { xyMm } = supportPaths[i]
        for (let p = 0; p < xyMm.length; p += 2) {
          const [x, y] = [Math.abs(xyMm[p] - 2) - 5, Math.abs(xyMm[p + 1]) - 10]
          nearestMm = Math.min(nearestMm, Math.hypot(Math.max(0, x), Math.max(0, y)) - 0.2)
        }
      })
      expect(nearestMm).toBeGreaterThan(0.57)
      expect(nearestMm).toBeLessThan(0.63)
    },
  )

  test.each([
    ['logger-pod', 'straight', 0.12, 0.13],
    ['logger-pod', 'branching', 0.2, 0.2],
    ['funnel-cradle', 'branching', 0.2, 0.2],
  ] as const)(
    'of the demo: %s, %s, %d mm layers, gap %d: steps, walls, crowns near each other and near the bed',
    async (part, standKind, layerHeightMm, upperGapMm) => {
      const { mesh } = demoParts(await solidEngine()).find(({ key }) => key === part)!
      const { report } = await planned(mesh, { standKind, layerHeightMm, upperGapMm })
      expect(report.heldMm2 / report.wantedMm2).toBeGreaterThan(0.9)
      expect(report.floatingMm2).toBe(0)
      expect(report.sideContactMm).toBe(0)
    },
  )

  test('a slope whose gap is a whole layer is held all over', async () => {
    const { report, result } = await planned(funnel, { upperGapMm: 0.2 })
    expect(report.heldMm2 / report.wantedMm2).toBeGreaterThan(0.96)
    for (const { achievedGapMm } of result.summary.contacts) expect(achievedGapMm).toBe(0.2)
  })
  test('the lowest spot of a round underside, amid a stand, lies on its lines and not between them', async () => {
    // A bowl whose lowest spot hangs 10 mm above the bed, beside the middle of the stand’s lines.
    for (const at of [0, 0.6, 1.2, 1.8]) {
      const bowl = sphere(5)
      for (let v = 0; v < bowl.positionsMm.length; v += 3) {
        bowl.positionsMm[v + 1] += at
        bowl.positionsMm[v + 2] += 10
      }
      const hung = join([bowl, box([3, 3, 15], [4, at - 1.5, 0])])
      const dense: number[] = []
      // Lines that may span farther than they lie apart make no piece larger.
      for (const supportSpanMm of [5, 35]) {
        const { report, result } = await planned(hung, { standDensity: 0.12, supportSpanMm })
        expect([at, supportSpanMm, report.floatingMm2]).toEqual([at, supportSpanMm, 0])
        dense.push(
          result.geometry.passes
            .filter(({ fill }) => fill === 'dense')
            .reduce((sum, { region }) => sum + regionAreaMm2(region), 0),
        )
      }
      expect(dense[1]).toBeCloseTo(dense[0], 6)
    }
  })
})

describe('support areas', () => {
  test.each(SHAPES)('%s: no pass lies inside the part, and none where another is', async (_, mesh) => {
    for (const upperGapMm of [0.13, 0.2]) {
      const { passes, layers } = (await planned(mesh, { upperGapMm, placement: 'bed' })).result.geometry
      passes.forEach((pass, i) => {
        const shared = (other: { bottomMm: number; topMm: number }) =>
          Math.min(pass.topMm, other.topMm) - Math.max(pass.bottomMm, other.bottomMm) > SAME_HEIGHT_MM
        for (const layer of layers)
          if (shared(layer)) expect(inCommon(pass.region, layer.region)).toBeLessThan(0.05)
        for (const other of passes.slice(i + 1))
          // Rings of a footing lie beside what they belong to; their area is the outline.
          if (shared(other) && other.role !== 'footing' && pass.role !== 'footing')
            expect(inCommon(pass.region, other.region)).toBeLessThan(0.05)
      })
    }
  })

  test('from the bed alone nothing is held above the part, and no stand rests on it', async () => {
    const { result } = await planned(shelf, { placement: 'bed' })
    expect(result.summary.rests).toEqual([])
    expect(result.summary.contacts.every(({ areaMm2 }) => areaMm2 < 1)).toBe(true)
    expect(result.summary.warnings.map(({ code }) => code)).toContain('OVERHANG_NOT_HELD')
  })

  test('beside the edge of a thin plate the side gap is kept as beside a high wall; a slope is held beside itself', async () => {
    const { result } = await planned(
      boxes([
        { size: [8, 8, 5], at: [11, 11, 0] },
        { size: [20, 20, 0.6], at: [5, 5, 5] },
        { size: [30, 30, 2], at: [0, 0, 5.6] },
      ]),
      { sideGapMm: 0.6 },
    )
    const { passes, layers } = result.geometry
    const plate = layers.filter(({ bottomMm, topMm }) => bottomMm > 4.99 && topMm < 5.61)
    const beside = passes.filter(({ bottomMm, topMm }) => topMm > 5.01 && bottomMm < 5.59)
    expect([plate.length, beside.length > 1]).toEqual([3, true])
    for (const { region } of plate)
      for (const pass of beside)
        expect(inCommon(pass.region, engine.grow(region, 0.58, 'round'))).toBeLessThan(1e-6)
    expect(result.summary.contacts.at(-1)!.areaMm2).toBeGreaterThan(400)
    const sloped = await planned(funnel, { sideGapMm: 0.6 })
    expect(sloped.heldMm2).toBeGreaterThan(0.96 * sloped.wantedMm2)
  })

  const inCommon = (a: PlanResult['geometry']['hold'][number], b: PlanResult['geometry']['hold'][number]) =>
    regionAreaMm2(engine.common(a, b))
})

describe('directions', () => {
  /** Direction in which most of the slanted length runs: outlines of the plate are upright or level. */
  const slant = ({ xyMm, starts }: PlanResult['geometry']['partPaths'][number]) => {
    const sums = new Map<number, number>()
    for (let p = 0; p + 1 < starts.length; p++)
      for (let i = starts[p]; i + 1 < starts[p + 1]; i++) {
        const [dx, dy] = [xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1]]
        const angle = Math.round(((Math.atan2(dy, dx) * 180) / Math.PI + 360) % 180)
        if (angle % 90 !== 0) sums.set(angle, (sums.get(angle) ?? 0) + Math.hypot(dx, dy))
      }
    return [...sums].sort((a, b) => b[1] - a[1])[0][0]
  }

  test('the interface’s last lines lie across the part’s first ones, whatever the gap is in layers', async () => {
    for (const upperGapMm of [0.06, 0.13, 0.2, 0.3, 0.45])
      for (const interfaceDirection of ['across', 'along'] as const) {
        const { geometry, summary } = (await planned(table, { upperGapMm, interfaceDirection })).result
        const touching = geometry.passes.findLastIndex(({ role }) => role === 'interface')
        const part = geometry.partPaths[summary.contacts[0].layerIndex]
        const between = Math.abs(slant(geometry.supportPaths[touching]) - slant(part))
        expect([upperGapMm, interfaceDirection, Math.round(between % 180)]).toEqual([
          upperGapMm,
          interfaceDirection,
          interfaceDirection === 'across' ? 90 : 0,
        ])
      }
  })

  test.each([
    [0.12, 0.06, 1],
    [0.2, 0.13, 1],
    [0.2, 0.2, 1],
    [0.28, 0.2, 1],
    [0.28, 0.2, 2],
  ])(
    '%d mm layers, gap %d: however few layers touch (%d), they lie across what carries them, and as many are told as are laid',
    async (layerHeightMm, upperGapMm, interfaceLayers) => {
      for (const standWalls of [0, 1]) {
        const values = { layerHeightMm, upperGapMm, interfaceLayers, standWalls, standDensity: 0.06 }
        const { report, result } = await planned(table, values)
        expect(report.worstEndMm).toBeLessThan(2)
        expect(report.worstSpanMm).toBeLessThan(2)
        expect(report.doubledShare).toBeLessThan(0.03)
        const [{ stack }] = result.summary.contacts
        const spans = (all: readonly { role: string; bottomMm: number; topMm: number }[]) =>
          all
            .filter(({ role }) => role === 'interface')
            .map(({ bottomMm, topMm }) => [bottomMm, topMm].map((mm) => mm.toFixed(3)))
        expect(spans(stack)).toEqual(spans(result.geometry.passes))
      }
    },
  )
})
