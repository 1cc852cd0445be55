import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import type { Mesh } from '../mesh'
import { createPlanner, planRelease } from '../plan'
import { releaseCheck, standGrid } from '.'
import type { PolygonEngine } from '../polygon'
import { plainFilament } from '../bench'
import { newDocument, suggest, type Decisions } from '../decide'
import { aPlan, aPrint, aTile, box, boxes, join, spun, turned } from '../testing'
import type { KnownTrial } from '../trial'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

async function checked(mesh: Mesh, onShare?: (share: number) => void, decisions: Partial<Decisions> = {}) {
  const document = aPlan({ placement: 'anywhere', freeSpanMm: 0, ...decisions })
  const result = await createPlanner(engine).plan('part', mesh, document)
  return {
    check: planRelease(document, result, onShare && engine, onShare),
    codes: result.summary.warnings.map(({ code }) => code),
    contacts: result.summary.contacts,
  }
}
const turnedInside = (mesh: Mesh): Mesh => ({ ...mesh, corners: mesh.corners.slice().reverse() })
type Part = { size: readonly [number, number, number]; at: readonly [number, number, number] }
/** A head on a stem on a foot, all round. */
const head = (stemMm: number) =>
  turned(
    [
      [0, 0],
      [12, 0],
      [12, 3],
      [stemMm / 2, 3],
      [stemMm / 2, 20],
      [8, 20],
      [8, 36],
      [0, 36],
    ],
    96,
  )

/** A pillar between two plates. */
const pillar = boxes([
  { size: [40, 40, 3], at: [0, 0, 0] },
  { size: [6, 6, 20], at: [17, 17, 3] },
  { size: [40, 40, 3], at: [0, 0, 23] },
])

describe('how stands come off', () => {
  test('tells how far it is, within a stand as well: never back, and in small steps', async () => {
    const shares: number[] = []
    const legs = [0, 40, 80].map((x) => ({ size: [3, 20, 30] as const, at: [x, 0, 0] as const }))
    const shelves = legs.map(({ at: [x] }) => ({ size: [20, 20, 2] as const, at: [x + 3, 0, 28] as const }))
    const { check } = await checked(boxes([...legs, ...shelves]), (share) => shares.push(share))
    expect(check.stands).toHaveLength(3)
    expect(shares.filter((share) => share < 0.5)).toHaveLength(3)
    // A ring round a pillar: one stand, for which ways are looked for until it is broken in two.
    const ring: number[] = []
    expect((await checked(pillar, (share) => ring.push(share))).check.stands).toHaveLength(1)
    expect(ring.length).toBeGreaterThan(12)
    for (const told of [shares, ring]) {
      expect(told.every((share, i) => share > (told[i - 1] ?? -1) && share < 1)).toBe(true)
      expect(told.at(-1)).toBeGreaterThan(0.75)
    }
  })

  test('under an open shelf a stand leaves whole, downwards, and carries all of the contact', async () => {
    const { check, contacts } = await checked(
      boxes([
        { size: [3, 20, 30], at: [0, 0, 0] },
        { size: [20, 20, 2], at: [3, 0, 28] },
      ]),
    )
    expect(check.verdict).toBe('comes out whole')
    expect(check.stands).toHaveLength(1)
    expect(check.stands[0]).toMatchObject({ wayOut: 'down', pieces: 1, neckMm: null })
    expect(check.stands[0].contactMm2).toBeCloseTo(contacts[0].areaMm2, 6)
    expect(check.stands[0].reachMm).toBeGreaterThan(20)
  })

  test('a room open to the front lets its stand out there; one that narrows to the front does not', async () => {
    const walls = (frontMm: number): Mesh =>
      boxes([
        { size: [40, 40, 3], at: [0, 0, 0] },
        { size: [40, 40, 3], at: [0, 0, 20] },
        { size: [4, 40, 17], at: [0, 0, 3] },
        { size: [4, 40, 17], at: [36, 0, 3] },
        { size: [40, 4, 17], at: [0, 36, 3] },
        ...(frontMm > 0
          ? [
              { size: [frontMm, 4, 17] as const, at: [0, 0, 3] as const },
              { size: [frontMm, 4, 17] as const, at: [40 - frontMm, 0, 3] as const },
            ]
          : []),
      ])
    const open = await checked(walls(0))
    expect(open.check.stands[0]).toMatchObject({ verdict: 'comes out whole', wayOut: 'toward the front' })
    const narrow = await checked(walls(13))
    expect(narrow.check.stands[0].verdict).toBe('comes out in pieces')
    expect(narrow.check.stands[0].pieces ?? 9).toBeGreaterThan(1)
    expect(Math.abs(narrow.check.stands[0].reachMm - 14)).toBeLessThan(2.5)
  })

  test('any tool takes hold of a thin stand along an open wall; where another wall faces it, what fits between', async () => {
    const lip = [
      { size: [60, 20, 44], at: [0, 0, 0] },
      { size: [60, 3, 4], at: [0, 20, 40] },
    ] as const
    const open = await checked(boxes(lip))
    expect(open.check.stands).toMatchObject([{ verdict: 'comes out whole', reasons: [] }])
    expect(open.check.stands[0].reachMm).toBeGreaterThan(20)
    expect(open.codes).not.toContain('LOCKED_IN')
    const facing = boxes([...lip, { size: [60, 14, 44], at: [0, 26, 0] }])
    const [stand] = (await checked(facing)).check.stands
    expect(Math.abs(stand.reachMm - 6)).toBeLessThan(0.6)
  })

  test('a ring round a pillar between two plates is broken in two; a closed room locks its stand in', async () => {
    const { check } = await checked(pillar)
    expect(check.stands[0]).toMatchObject({ verdict: 'comes out in pieces', pieces: 2, wayOut: null })
    const closed = await checked(join([box([40, 40, 20]), turnedInside(box([34, 34, 14], [3, 3, 3]))]))
    expect(closed.check.verdict).toBe('locked in')
    expect(closed.check.stands[0]).toMatchObject({ reachMm: 0, pieces: null, wayOut: null, wayMm: [] })
    expect(closed.codes).toContain('LOCKED_IN')
  })

  test('of a stand that grew out through a slot counts what stays behind the slot', async () => {
    const wide = 4.4
    const gate = [0, (49 + wide) / 2].map((x) => ({
      size: [(49 - wide) / 2, 1.6, 24.8] as const,
      at: [x, 0, 1.6] as const,
    }))
    const room = boxes([
      { size: [49, 30, 1.6], at: [0, 0, 0] },
      { size: [49, 30, 1.6], at: [0, 0, 26.4] },
      { size: [1.6, 26.8, 24.8], at: [0, 1.6, 1.6] },
      { size: [1.6, 26.8, 24.8], at: [47.4, 1.6, 1.6] },
      { size: [49, 1.6, 24.8], at: [0, 28.4, 1.6] },
      ...gate,
    ])
    const { check } = await checked(room, undefined, { standKind: 'branching', placement: 'bed' })
    for (const { verdict, reachMm } of check.stands) {
      expect(verdict).toBe('comes out in pieces')
      expect(Math.abs(reachMm - wide)).toBeLessThan(0.6)
    }
    expect(check.stands.length).toBeGreaterThan(0)
  })

  test('however thin its walls and however a part is turned: shut it is locked in, through a slot comes what fits, out of a drawer the stand slides whole', async () => {
    for (const [side, wall, deg] of [
      [40, 4, 45],
      [100, 1, 17],
    ] as const) {
      const inner = side - 2 * wall
      const room = (front: readonly Part[]) =>
        spun(
          boxes([
            { size: [side, side, wall], at: [0, 0, 0] },
            // A lid so thin that slices a cell apart pass over it.
            { size: [side, side, Math.min(wall, 0.6)], at: [0, 0, 30 - wall] },
            { size: [wall, inner, 30 - 2 * wall], at: [0, wall, wall] },
            { size: [wall, inner, 30 - 2 * wall], at: [side - wall, wall, wall] },
            { size: [side, wall, 30 - 2 * wall], at: [0, side - wall, wall] },
            ...front,
          ]),
          deg,
        )
      const gate = (wide: number): Part[] =>
        [0, (side + wide) / 2].map((x) => ({
          size: [(side - wide) / 2, wall, 30 - 2 * wall],
          at: [x, 0, wall],
        }))
      const shut = await checked(room([{ size: [side, wall, 30 - 2 * wall], at: [0, 0, wall] }]))
      expect(shut.check.verdict).toBe('locked in')
      expect(shut.codes).toContain('LOCKED_IN')
      for (const wide of [5, 10]) {
        const [most] = (await checked(room(gate(wide)))).check.stands.toSorted(
          (a, b) => b.contactMm2 - a.contactMm2,
        )
        expect(most.verdict).toBe('comes out in pieces')
        // Where a stand reaches out through a thin wall a little more gets to it.
        expect(most.reachMm / wide).toBeGreaterThan(0.88)
        expect(most.reachMm / wide).toBeLessThan(wall === 1 ? 1.3 : 1.12)
      }
      const { stands } = (await checked(room([]))).check
      expect(stands).toHaveLength(1)
      expect(stands[0].wayOut).toBe(deg === 45 ? 'toward the front and right' : 'toward the front')
    }
  })

  test('through a round bore comes what is as wide as that, wherever on the grid it lies', async () => {
    for (const [boreMm, sideMm] of [
      [2.2, 15],
      [3.1, 15.3],
      [4.4, 13.6],
    ] as const) {
      const cup = turned([
        [0, 0],
        [sideMm, 0],
        [sideMm, 20],
        [boreMm / 2, 20],
        [boreMm / 2, 17.5],
        [sideMm - 3, 17.5],
        [sideMm - 3, 3],
        [0, 3],
      ])
      const { check } = await checked(spun(cup, 20))
      expect(check.verdict).toBe('comes out in pieces')
      expect(Math.abs(check.stands[0].reachMm - boreMm)).toBeLessThan(0.2)
      // The way that is drawn begins in the room, goes through the middle of the bore and ends outside.
      const way = check.stands[0].wayMm
      expect(way[0][2]).toBeLessThan(17.5)
      expect(way.at(-1)![2]).toBeGreaterThan(20)
      const inBore = way.slice(1).flatMap(([x, y, z], i) => {
        const [fromX, fromY, fromZ] = way[i]
        return [17.6, 18.7, 19.9].flatMap((at) => {
          const share = (at - fromZ) / (z - fromZ)
          return share >= 0 && share <= 1
            ? [Math.hypot(fromX + share * (x - fromX), fromY + share * (y - fromY))]
            : []
        })
      })
      expect(inBore).toHaveLength(3)
      expect(Math.max(...inBore)).toBeLessThan(0.6)
    }
  })

  test('in a part of any size a narrow way is told as wide as it is, and a shut one as shut', async () => {
    const [width, depth, height] = [150, 110, 24]
    const room = (wall: number, [wide, tall]: readonly [number, number]) => {
      const [inner, left] = [height - 2 * wall, 61.3]
      const front = (size: readonly [number, number], x: number, z: number): Part[] =>
        size[0] > 0 && size[1] > 0 ? [{ size: [size[0], wall, size[1]], at: [x, 0, z] }] : []
      return boxes([
        { size: [width, depth, wall], at: [0, 0, 0] },
        { size: [width, depth, wall], at: [0, 0, height - wall] },
        ...[0, width - wall].map((x): Part => ({
          size: [wall, depth - 2 * wall, inner],
          at: [x, wall, wall],
        })),
        { size: [width, wall, inner], at: [0, depth - wall, wall] },
        ...front([left, inner], 0, wall),
        ...front([width - left - wide, inner], left + wide, wall),
        ...front([wide, 8], left, wall),
        ...front([wide, inner - 8 - tall], left, wall + 8 + tall),
      ])
    }
    for (const [wall, hole, deg] of [
      [3, [2.2, 2.2], 24],
      [3, [1.9, 7], 66],
      [1, [3.4, 3.4], 0],
      [1, [9, 4.6], 3],
      [1, [0, 0], 3],
    ] as const) {
      const { check, codes } = await checked(spun(room(wall, hole), deg))
      const stand = check.stands.toSorted((a, b) => b.contactMm2 - a.contactMm2)[0]
      expect(Math.abs(stand.reachMm - Math.min(...hole))).toBeLessThan(0.4)
      expect(check.verdict).toBe(hole[0] > 0 ? 'comes out in pieces' : 'locked in')
      // The way leads through the hole, and ends in front of it.
      const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
      const way = stand.wayMm.map(([x, y, z]) => [x * cos + y * sin + 75, y * cos - x * sin + 55, z])
      expect(way.length > 1).toBe(hole[0] > 0)
      for (const [x, y, z] of way.slice(-1)) {
        expect(Math.hypot(x - 61.3 - hole[0] / 2, z - wall - 8 - hole[1] / 2)).toBeLessThan(1 + hole[0])
        expect(Math.abs(y + 5)).toBeLessThan(5)
      }
      // A plan warns of what is shut as an error.
      expect(codes).toContain('LOCKED_IN')
    }
  })

  test('a branching stand is one piece as long as it holds together, and carries all that its branches do', async () => {
    const document = aPlan({ standKind: 'branching', placement: 'bed', freeSpanMm: 0 })
    // Two wings, each far from the bed.
    const wings = boxes([
      { size: [6, 30, 44], at: [-3, 0, 0] },
      { size: [24, 30, 3], at: [-27, 0, 40] },
      { size: [24, 30, 3], at: [3, 0, 40] },
    ])
    const result = await createPlanner(engine).plan('wings', wings, document)
    const { stands } = planRelease(document, result)
    const held = result.summary.contacts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
    expect(stands).toHaveLength(2)
    for (const { contactMm2 } of stands) expect(Math.abs(contactMm2 / (held / 2) - 1)).toBeLessThan(0.05)
  })

  test('a neck is as wide as it is drawn, and named only where the bond above it is the stronger one', async () => {
    for (const stemMm of [1.5, 3]) {
      const { check, codes } = await checked(head(stemMm))
      expect(codes).toContain('WEAK_NECK')
      const neck = Math.min(...check.stands.flatMap(({ neckMm }) => neckMm ?? []))
      expect(Math.abs(neck / stemMm - 1)).toBeLessThan(0.1)
    }
    const stout = await checked(head(14))
    expect(stout.codes).not.toContain('WEAK_NECK')
    expect(stout.check.stands.every(({ neckMm }) => neckMm === null)).toBe(true)
  })
})

test('measured pulls are told in newtons per stand: over the covered area, at the gap that is left; unmeasured ones are not made up', async () => {
  const shelf = boxes([
    { size: [3, 20, 30], at: [0, 0, 0] },
    { size: [20, 20, 2], at: [3, 0, 28] },
  ])
  const perMm2 = (gapMm: number) => 0.08 * Math.exp(-gapMm / 0.1)
  const ladder: KnownTrial = {
    id: 'ladder',
    name: 'ladder',
    printedOn: '2026-11-19',
    kind: 'gap',
    conditions: aPrint(),
    readings: [0.05, 0.1, 0.15, 0.2, 0.25, 0.3].flatMap((gapMm) =>
      [0.95, 1.05].map((off) => ({ ...aTile(gapMm, 2, 2), forceN: off * 196 * perMm2(gapMm), areaMm2: 196 })),
    ),
  }
  const plan = newDocument({
    filaments: [plainFilament('Chalk PLA', 'PLA', '#d8d3c8')],
    decisions: { upperGapMm: 0.16 },
  })
  const of = async (document: typeof plan) => {
    const result = await createPlanner(engine).plan('shelf', shelf, document)
    return { stands: planRelease(document, result).stands, contacts: result.summary.contacts }
  }
  const evidence = suggest({ trials: [ladder], ...plan })
  const { stands, contacts } = await of({ ...plan, evidence })
  const wanted = contacts.reduce(
    (sum, { areaMm2, achievedGapMm }) => sum + areaMm2 * perMm2(achievedGapMm!),
    0,
  )
  expect(Math.abs(stands[0].pullN! / wanted - 1)).toBeLessThan(0.15)
  expect((await of(plan)).stands[0].pullN).toBeNull()
  // A stand that carries no contact has no pull that anybody measured.
  const { geometry } = await createPlanner(engine).plan('shelf', shelf, plan)
  const [bare] = releaseCheck(geometry.layers, standGrid(geometry.layers, geometry.passes), [], false).stands
  expect([bare.check.contactMm2, bare.check.pullN]).toEqual([0, null])
})
