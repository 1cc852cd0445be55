import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { createPlanner, planRelease } from '../plan'
import { regionFromRings, type PolygonEngine, type Region } from '../polygon'
import { aPlan, boxes, closeTo } from '../testing'
import { bentByN } from '../stand'
import { legsOf } from './legs'
import { momentsOf, tippedByN } from './steadiness'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const rectangle = (w: number, d: number, x = 0, y = 0, turnDeg = 0): Region => {
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)]
  const corners = [-w / 2, -d / 2, w / 2, -d / 2, w / 2, d / 2, -w / 2, d / 2]
  const turned: number[] = []
  for (let i = 0; i < 8; i += 2)
    turned.push(x + corners[i] * cos - corners[i + 1] * sin, y + corners[i] * sin + corners[i + 1] * cos)
  return regionFromRings([turned])
}

describe('moments of what stands on the bed', () => {
  test('a rectangle holds b a^2 / 6 about its weaker axis, wherever it lies and however it is turned', () => {
    for (const turn of [0, 30, 90]) {
      const { areaMm2, inertiaMm4, modulusMm3 } = momentsOf([rectangle(10, 4, 35, -20, turn)])
      closeTo(areaMm2, 40, 1e-9)
      closeTo(inertiaMm4, (10 * 4 ** 3) / 12, 1e-6)
      closeTo(modulusMm3, (10 * 4 ** 2) / 6, 1e-6)
    }
  })

  test('two feet of one stand hold by what lies between them', () => {
    // Two squares of 2 mm, 20 mm apart: weak across their line, as one rectangle of 4 by 2.
    closeTo(momentsOf([rectangle(2, 2), rectangle(2, 2, 20, 0)]).modulusMm3, (4 * 2 ** 2) / 6, 1e-6)
  })
})

describe('legs', () => {
  const pass = (bottomMm: number, topMm: number, ...regions: Region[]) => ({
    holding: 0,
    role: 'stand',
    bottomMm,
    topMm,
    region: regionFromRings(regions.map(({ xyMm }) => Array.from(xyMm))),
  })
  const [left, right, far] = [rectangle(2, 2), rectangle(3, 3, 20, 0), rectangle(2, 2, 60, 0)]

  test('each stands alone up to where it meets others, and so do those that met, up to the next', () => {
    const legs = legsOf([
      pass(0, 10, left, right, far),
      pass(10, 11, rectangle(24, 4, 10, 0), far),
      // Aside of what is below: it stands on nothing that stands on the bed.
      pass(11, 30, rectangle(4, 4, 10, 0), far, rectangle(1, 1, 40, 20)),
      pass(30, 31, rectangle(100, 60, 30, 0)),
    ])
    expect(legs.map(({ heightMm, outlines }) => [heightMm, outlines.length])).toEqual([
      [10, 1],
      [10, 1],
      [30, 2],
      [30, 1],
    ])
    const middlesMm2 = legs.map(({ middles }) => middles.map(({ outlines }) => momentsOf(outlines).areaMm2))
    // What the two are together at 15 mm: the one post on their beam.
    expect(middlesMm2).toEqual([[4], [9], [16], [4]])
  })

  test('of one that forks each arm is pushed by itself; two posts under a beam bend together', () => {
    const arms = [0, 20].map((x) => rectangle(2, 2, x, 0))
    const beam = rectangle(24, 4, 10, 0)
    const roof = pass(31, 32, rectangle(200, 60, 30, 0))
    const forked = legsOf([pass(0, 10, beam, far), pass(10, 31, ...arms, far), roof])[0]
    expect(forked.middles.map(({ outlines }) => outlines.length)).toEqual([1, 1])
    const portal = [
      pass(0, 20, ...arms, far),
      pass(20, 22, beam, far),
      pass(22, 31, rectangle(4, 4, 10, 0), far),
    ]
    const [, , tied] = legsOf([...portal, roof])
    expect([tied.heightMm, tied.middles.map(({ outlines }) => outlines.length)]).toEqual([31, [2]])
  })
})

describe('steadiness', () => {
  test('a stand tips at sigma W / h, and bends at 3 E I w / h^3', () => {
    closeTo(tippedByN([rectangle(4, 4)], 20), 4 ** 3 / 6 / 20, 1e-9)
    closeTo(
      bentByN(momentsOf([rectangle(3, 3)]), 50, 0.45, 0.5),
      (3 * 2000 * (3 ** 4 / 12) * 0.5 * 0.45) / 50 ** 3,
      1e-9,
    )
  })

  test('in a plan the verdict turns within a twentieth of the height worked out by hand', async () => {
    // A block that begins in mid-air over a stand as wide as it: 6^3 / 6 = 36 N mm, so 36 mm tall.
    const codes = async (tallMm: number) => {
      const part = boxes([
        { size: [20, 20, tallMm + 3], at: [0, 0, 0] },
        { size: [6, 6, 3], at: [40, 0, tallMm] },
      ])
      const decisions = { marginMm: 0, footingLines: 0, upperGapMm: 0.2, standWalls: 2, freeSpanMm: 0 }
      const planned = await createPlanner(engine).plan('part', part, aPlan(decisions))
      const told = planned.summary.warnings.filter(({ code }) => code === 'UNSTEADY')
      // The stand itself says the same in the release check.
      const [{ reasons }] = planRelease(aPlan(decisions), planned).stands
      expect(reasons.filter((reason) => reason.includes('off the bed'))).toHaveLength(told.length)
      return told
    }
    expect(await codes(34.2)).toEqual([])
    const [told] = await codes(37.8)
    expect(told.message).toMatch(/tips it off the bed.*lines of footing would hold it/)
    expect(told.remedies![0].change.decisions!.footingLines).toBeGreaterThan(0)
  })

  test('denser stands, or more walls, are stiffer at once: the same outlines, filled otherwise', async () => {
    // 5 mm thick and 80 tall on a wide foot: it bends before it tips.
    const part = boxes([
      { size: [20, 20, 83], at: [0, 0, 0] },
      { size: [5, 5, 3], at: [40, 0, 80] },
    ])
    const planner = createPlanner(engine)
    const holds = async (standDensity: number, standWalls: number) => {
      const document = aPlan({ marginMm: 0, footingLines: 12, freeSpanMm: 0, standDensity, standWalls })
      const check = planRelease(document, await planner.plan('part', part, document))
      return check.stands[0].holdsN!
    }
    const sparse = await holds(0.12, 0)
    expect((await holds(0.24, 0)) / sparse).toBeCloseTo(2, 1)
    expect(await holds(0.12, 2)).toBeGreaterThan(2 * sparse)
  })

  test('what rests on the part beside a stand makes it no stiffer, and is asked what bends it itself', async () => {
    const thin = [
      { size: [20, 20, 83], at: [0, 0, 0] },
      { size: [5, 5, 3], at: [40, 0, 80] },
    ] as const
    // As thin, between a foot and a roof: 20 mm tall, and 60, past half the height of the other.
    const onFoot = (foot: number) => [
      { size: [30, 30, foot] as const, at: [0, -60, 0] as const },
      { size: [4, 30, 74] as const, at: [0, -60, 0] as const },
      { size: [16, 5, 4] as const, at: [0, -50, 70] as const },
    ]
    const holds = async (...part: Parameters<typeof boxes>[0]) => {
      const decisions = { placement: 'anywhere', marginMm: 0, footingLines: 12, freeSpanMm: 0 } as const
      const planned = await createPlanner(engine).plan('part', boxes(part), aPlan(decisions))
      const { stands } = planRelease(aPlan(decisions), planned)
      const by = (tall: boolean) => stands.find(({ atMm }) => atMm[1] > -10 === tall)?.holdsN
      return { alone: by(true), resting: by(false) }
    }
    const { alone } = await holds(...thin)
    const [low, high] = [await holds(...thin, ...onFoot(50)), await holds(...thin, ...onFoot(10))]
    closeTo(low.alone!, alone!, 1e-9)
    closeTo(high.alone!, alone!, 1e-9)
    // Three times as tall it bends to a twenty-seventh of the push.
    closeTo(low.resting! / high.resting!, 27, 3)
  })
})
