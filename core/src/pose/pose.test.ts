import { beforeAll, describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { solidEngine } from '../../node'
import {
  demoParts,
  meshFacts,
  poseMesh,
  turnAbout,
  turnFaceDown,
  UPRIGHT,
  type Mesh,
  type Pose,
  type SolidEngine,
} from '../mesh'
import { box, boxes, closeTo, cone, seeded, sphere } from '../testing'
import { airBelow, facetBins } from './facetBins'
import { outerPoints } from './hullFaces'
import {
  burdenOf,
  createJudge,
  CRITERIA,
  criterionOf,
  downOf,
  firstPoses,
  hullFaces,
  judgePose,
  massCentre,
  nextPoses,
  paretoBest,
  SEARCH_ROUNDS,
  searchPoses,
  shortlist,
  sphereDirections,
  standingOf,
  standingSentence,
  type JudgeOptions,
  type Judgement,
} from '.'

let solids: SolidEngine
beforeAll(async () => {
  solids = await solidEngine()
})

const options = (changes: Partial<JudgeOptions> = {}): JudgeOptions => ({
  freeAngleDeg: 45,
  sideAnglesDeg: null,
  layerHeightMm: 0.2,
  interfaceLayers: 3,
  standDensity: 0.2,
  scale: 1,
  show: null,
  ...changes,
})
const T = boxes([
  { size: [4, 10, 10], at: [8, 0, 0] },
  { size: [20, 10, 2], at: [0, 0, 10] },
])

describe('standing', () => {
  test('a box stands on its face until its middle is over the edge', () => {
    const { footprintMm2, leverMm, tipDeg, verdict } = standingOf(box([10, 20, 30]))
    closeTo(footprintMm2, 200, 1e-6)
    closeTo(leverMm, 5, 1e-6)
    closeTo(tipDeg, (Math.atan2(5, 15) * 180) / Math.PI, 1e-6)
    expect(verdict).toBe('stands')
  })

  test('a tall rod is wobbly, a ball and a leaning block fall, and each is told', () => {
    expect(standingOf(box([3, 3, 60])).verdict).toBe('wobbly')
    const ball = standingOf(sphere(8, 40))
    expect(ball.verdict).toBe('falls')
    expect(standingSentence(ball)).toContain('points or a line')
    const leaning = standingOf(
      boxes([
        { size: [4, 10, 4], at: [0, 0, 0] },
        { size: [30, 10, 4], at: [0, 0, 4] },
      ]),
    )
    expect(leaning.verdict).toBe('falls')
    expect(standingSentence(leaning)).toContain('falls over')
  })

  test('the weight of an L lies where the hand calculation puts it', () => {
    // 40 x 10 x 10 lying and 10 x 10 x 30 standing on its end.
    const { centre, volumeMm3 } = massCentre(
      boxes([
        { size: [40, 10, 10], at: [0, 0, 0] },
        { size: [10, 10, 30], at: [0, 0, 10] },
      ]),
    )
    closeTo(volumeMm3, 7000, 1e-6)
    closeTo(centre[0], (4000 * 20 + 3000 * 5) / 7000, 1e-6)
    closeTo(centre[2], (4000 * 5 + 3000 * 25) / 7000, 1e-6)
  })
})

describe('hull', () => {
  test('a box has its six sides, the largest first, however it is turned', () => {
    for (const turn of [UPRIGHT.turn, turnAbout([1, 2, 3], 37)]) {
      const faces = hullFaces(poseMesh(box([10, 20, 30]), { turn, scale: 1 }), solids)
      expect(faces.map(({ areaMm2 }) => Math.round(areaMm2))).toEqual([600, 600, 300, 300, 200, 200])
      expect(faces.every(({ verdict, outlineMm }) => verdict === 'stands' && outlineMm.length === 12)).toBe(
        true,
      )
    }
  })

  test('a T can be stood on its back and on its sides, and on what spans its arms it falls or not as its weight lies', () => {
    const faces = hullFaces(T, solids)
    const back = faces.find(({ normal }) => normal[2] > 0.99)!
    closeTo(back.areaMm2, 200, 1e-3)
    expect(back.verdict).toBe('stands')
    for (const { normal } of faces) {
      const posed = poseMesh(T, { turn: turnFaceDown(normal), scale: 1 })
      // Laid on it, the face is really what touches the bed.
      const { footprintMm2 } = standingOf(posed)
      closeTo(footprintMm2, faces.find((face) => face.normal === normal)!.areaMm2, 0.5)
    }
  })

  test('the points kept for it are all that matter: no direction finds one further out', () => {
    const { mesh } = demoParts(solids)[2]
    const kept = outerPoints(mesh)
    expect(kept.length).toBeLessThan(mesh.positionsMm.length / 3)
    for (const [x, y, z] of sphereDirections(200)) {
      let all = -Infinity
      for (const v of mesh.corners)
        all = Math.max(
          all,
          x * mesh.positionsMm[3 * v] + y * mesh.positionsMm[3 * v + 1] + z * mesh.positionsMm[3 * v + 2],
        )
      closeTo(Math.max(...kept.map(([a, b, c]) => a * x + b * y + c * z)), all, 1e-9)
    }
  })
})

describe('judging', () => {
  test('a T: 160 mm2 of arms, 10 mm of air below, twelve high', () => {
    const judged = judgePose(T, UPRIGHT.turn, options())
    closeTo(judged.contactMm2, 160, 6)
    closeTo(judged.airMm3, 1600, 60)
    closeTo(judged.heightMm, 12, 1e-9)
    expect(judged.contactLayers).toBe(3)
    // Stands at a fifth, three solid layers of 0.2 above them.
    closeTo(judged.supportMm3, judged.airMm3 * 0.2 + judged.contactMm2 * 0.6 * 0.8, 1e-6)
    const back = judgePose(T, turnAbout([1, 0, 0], 180), options())
    expect(back).toMatchObject({ airMm3: 0, contactMm2: 0, supportMm3: 0, contactLayers: 0, thinMm: 0 })
  })

  test('stands may rest on the part: only the air between counts', () => {
    // A shelf 6 mm above a floor 2 mm thick, on a wall.
    const shelf = boxes([
      { size: [30, 10, 2], at: [0, 0, 0] },
      { size: [4, 10, 8], at: [0, 0, 0] },
      { size: [30, 10, 2], at: [0, 0, 8] },
    ])
    const { airMm3, contactMm2 } = judgePose(shelf, UPRIGHT.turn, options())
    closeTo(contactMm2, 260, 8)
    closeTo(airMm3, 260 * 6, 60)
  })

  test('neither moving the part as drawn nor turning it upright changes what it asks for', () => {
    const plain = judgePose(cone(60), UPRIGHT.turn, options())
    const moved = judgePose(
      { ...cone(60), positionsMm: cone(60).positionsMm.map((value) => value + 41.3) },
      UPRIGHT.turn,
      options(),
    )
    closeTo(moved.airMm3, plain.airMm3, 1e-6 * plain.airMm3)
    const spun = judgePose(cone(60), turnAbout([0, 0, 1], 33), options())
    closeTo(spun.airMm3, plain.airMm3, 0.02 * plain.airMm3)
  })

  test('with limits per side, turning upright changes what must be held', () => {
    const ledge = boxes([
      { size: [10, 10, 5], at: [0, 0, 0] },
      ...Array.from({ length: 10 }, (_, i) => ({
        size: [10, 10, 0.5] as const,
        at: [0, 0.5 * i, 5 + 0.5 * i] as const,
      })),
    ])
    const slope: Mesh = { ...ledge, positionsMm: ledge.positionsMm }
    const sides = [30, 30, 30, 60, 95, 60, 30, 30].map((limit) => Math.min(89, limit))
    const north = judgePose(slope, UPRIGHT.turn, options({ sideAnglesDeg: sides }))
    const south = judgePose(slope, turnAbout([0, 0, 1], 180), options({ sideAnglesDeg: sides }))
    expect(north.contactMm2).toBeGreaterThan(20)
    expect(south.contactMm2).toBeLessThanOrEqual(north.contactMm2)
  })

  test('what touches a marked face is told apart', () => {
    const show = Uint8Array.from({ length: T.corners.length / 3 }, (_, t) =>
      T.positionsMm[3 * T.corners[3 * t]] < 8 ? 1 : 0,
    )
    const { contactMm2, showMm2 } = judgePose(T, UPRIGHT.turn, options({ show }))
    expect(showMm2).toBeGreaterThan(0)
    expect(showMm2).toBeLessThanOrEqual(contactMm2)
    expect(burdenOf(judgePose(T, UPRIGHT.turn, options({ show })))).toBeGreaterThan(
      burdenOf(judgePose(T, UPRIGHT.turn, options())),
    )
  })

  test('a thin tall stand is told with its height, a broad one is not', () => {
    const peg = boxes([
      { size: [20, 20, 3], at: [0, 0, 0] },
      { size: [4, 20, 30], at: [0, 0, 3] },
      { size: [8, 3, 3], at: [0, 8, 30] },
    ])
    closeTo(judgePose(peg, UPRIGHT.turn, options()).thinMm, 27, 0.2)
    expect(judgePose(T, UPRIGHT.turn, options()).thinMm).toBe(0)
  })
})

test('faces gathered by the way they look give the same air as one by one', () => {
  const mesh = cone(58)
  const bins = facetBins(mesh)
  const { positionsMm: p, corners } = mesh
  for (const down of sphereDirections(40)) {
    let lowest = -Infinity
    for (const v of corners)
      lowest = Math.max(lowest, down[0] * p[3 * v] + down[1] * p[3 * v + 1] + down[2] * p[3 * v + 2])
    let air = 0
    let near = 0
    for (let t = 0; t < corners.length; t += 3) {
      const at = (i: number, axis: number) => p[3 * corners[t + i] + axis]
      const u = [0, 1, 2].map((axis) => at(1, axis) - at(0, axis))
      const v = [0, 1, 2].map((axis) => at(2, axis) - at(0, axis))
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
      const length = Math.hypot(...n)
      const lean = n.reduce((sum, value, axis) => sum + value * down[axis], 0) / length
      const reach = [0, 1, 2].reduce(
        (sum, axis) => sum + ((at(0, axis) + at(1, axis) + at(2, axis)) / 3) * down[axis],
        0,
      )
      const own = (length / 2) * lean * (lowest - reach)
      if (lean > Math.SQRT1_2) air += own
      if (Math.abs(lean - Math.SQRT1_2) < 0.06) near += Math.abs(own)
    }
    // Faces of one bin are judged together: those near the limit may fall on either side.
    closeTo(airBelow(bins, down, lowest, 45), air, near + 1e-6 * Math.abs(air) + 1e-6)
  }
})

describe('search', () => {
  test('finds a pose at least as good as the best of a grid, within 2 %, judging few in full', async () => {
    // One part and a coarse grid here; the bench takes all five and 2000 poses each.
    const { mesh } = demoParts(solids)[4]
    const found = await searchPoses(mesh, solids, options({ freeAngleDeg: 48, standDensity: 0.12 }))
    expect(found.length).toBeLessThanOrEqual(120)
    const judge = createJudge(mesh, options({ freeAngleDeg: 48, standDensity: 0.12 }))
    const grid = Math.min(...sphereDirections(250).map((down) => burdenOf(judge(turnFaceDown(down)))))
    expect(burdenOf(found[0])).toBeLessThanOrEqual(1.02 * grid)
  }, 60_000)

  test('the first poses hold every flat side and the pose as drawn; none is offered twice', () => {
    const turns = firstPoses(T, solids, options())
    const downs = turns.map((turn) => downOf({ turn }))
    for (const { normal } of hullFaces(T, solids))
      expect(
        downs.some((down) => down.reduce((sum, value, axis) => sum + value * normal[axis], 0) > 0.9999),
      ).toBe(true)
    expect(downs.some((down) => down[2] < -0.9999)).toBe(true)
  })

  test('down is where the turned part looks down to', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const random = seeded(seed)
        const turn = turnAbout(
          [random.next() - 0.5, random.next() - 0.5, random.next() - 0.5],
          random.next() * 360,
        )
        const down = downOf({ turn })
        const { positionsMm } = poseMesh(
          {
            positionsMm: Float64Array.from([0, 0, 0, ...down, 5, 5, 5, -5, -5, -5]),
            corners: Uint32Array.from([0, 1, 2, 0, 2, 3]),
          },
          { turn, scale: 1 },
        )
        closeTo(positionsMm[5] - positionsMm[2], -1, 1e-9)
      }),
      { seed: 3 },
    )
  })

  test('further rounds tilt the best; the upright turns only come with limits per side', () => {
    const judged = firstPoses(T, solids, options())
      .slice(0, 12)
      .map((turn) => judgePose(T, turn, options()))
    for (let round = 1; round < SEARCH_ROUNDS - 1; round++)
      expect(nextPoses(judged, round, options()).length).toBeGreaterThanOrEqual(6)
    expect(nextPoses(judged, SEARCH_ROUNDS - 1, options())).toHaveLength(0)
    const turnedUpright = nextPoses(
      judged,
      SEARCH_ROUNDS - 1,
      options({ sideAnglesDeg: new Array<number>(8).fill(45) }),
    )
    expect(turnedUpright.length).toBeGreaterThanOrEqual(11)
    // Turning upright leaves down where it was: each turns one of those that were judged.
    const downs = judged.map((one) => downOf(one))
    for (const turn of turnedUpright)
      expect(
        downs.some((down) => down.every((value, axis) => Math.abs(value - downOf({ turn })[axis]) < 1e-9)),
      ).toBe(true)
  })
})

describe('what is offered', () => {
  const aJudgement = (changes: Partial<Judgement>, tipDeg = 30): Judgement => ({
    turn: UPRIGHT.turn,
    airMm3: 0,
    contactMm2: 10,
    showMm2: 0,
    supportMm3: 10,
    heightMm: 10,
    contactLayers: 3,
    thinMm: 0,
    standing: { footprintMm2: 100, leverMm: 5, tipDeg, verdict: 'stands' },
    ...changes,
  })

  test('nobody among the unbeaten is beaten, and everybody else is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 25 }), (seed, count) => {
        const random = seeded(seed)
        const few = () => Math.floor(random.next() * 4) * 10
        const all = Array.from({ length: count }, () =>
          aJudgement(
            {
              supportMm3: few(),
              contactMm2: few(),
              heightMm: few(),
              showMm2: few(),
              contactLayers: few(),
              thinMm: few(),
            },
            few(),
          ),
        )
        const best = new Set(paretoBest(all))
        const beats = (a: Judgement, b: Judgement) =>
          CRITERIA.every((c) => criterionOf(a, c) <= criterionOf(b, c)) &&
          CRITERIA.some((c) => criterionOf(a, c) < criterionOf(b, c))
        for (const one of all) expect(best.has(one)).toBe(!all.some((other) => beats(other, one)))
      }),
      { numRuns: 60, seed: 6 },
    )
  })

  test('the best comes first, the pose as drawn is among them, and poses that fall over are left out while others stand', () => {
    const turns = sphereDirections(12).map((down): Pose['turn'] => turnFaceDown(down))
    const judged = turns.map((turn, i) =>
      aJudgement({
        turn,
        supportMm3: 100 + i,
        standing: {
          footprintMm2: 50,
          leverMm: i < 2 ? -1 : 4,
          tipDeg: i < 2 ? -5 : 20,
          verdict: i < 2 ? 'falls' : 'stands',
        },
      }),
    )
    const drawn = aJudgement({ supportMm3: 900 })
    const offered = shortlist([...judged, drawn], 5)
    expect(offered).toHaveLength(5)
    expect(offered[0]).toBe(judged[2])
    expect(offered).toContain(drawn)
    expect(offered.some(({ standing }) => standing.verdict === 'falls')).toBe(false)
    expect(shortlist(judged.slice(0, 2))).toHaveLength(2)
  })

  test('volumes of demo parts do not depend on how they are laid', () => {
    const { mesh } = demoParts(solids)[4]
    const exact = meshFacts(mesh).volumeMm3
    for (const down of sphereDirections(5))
      closeTo(
        meshFacts(poseMesh(mesh, { turn: turnFaceDown(down), scale: 1 })).volumeMm3,
        exact,
        1e-6 * exact,
      )
  })
})
