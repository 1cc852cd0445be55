import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { placingOf, poseMesh, turnAbout, UPRIGHT, weldTriangles, type Mesh } from '../mesh'
import { isEmptyRegion, regionAreaMm2, type PolygonEngine } from '../polygon'
import { sliceMesh } from '../slice'
import { box, boxes, closeTo, cone, join, seeded, sphere, turned } from '../testing'
import { cutZones, findOverhangs, limitTowards, trianglesIn, type OverhangOptions, type Zone } from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

async function needs(mesh: Mesh, options: Partial<OverhangOptions> = {}, layerHeightMm = 0.1) {
  const { layers } = await sliceMesh(mesh, engine, { layerHeightMm, firstLayerHeightMm: layerHeightMm })
  const found = await findOverhangs(layers, engine, { freeAngleDeg: 45, lineWidthMm: 0.45, ...options })
  return { ...found, layers, areaMm2: found.patches.reduce((sum, patch) => sum + patch.areaMm2, 0) }
}
const tan = (deg: number) => Math.tan((deg * Math.PI) / 180)
const within1 = (actual: number, expected: number) => closeTo(actual, expected, 0.01 * expected)

/**
 * A prism of a convex profile in x and z, 10 mm deep. The profile goes counter-clockwise seen from the front.
 */
function prism(profile: readonly (readonly [number, number])[], depth = 10): Mesh {
  const soup: number[] = []
  const at = ([x, z]: readonly [number, number], y: number) => [x, y, z]
  for (let i = 0; i < profile.length; i++) {
    const [a, b] = [profile[i], profile[(i + 1) % profile.length]]
    soup.push(...at(a, 0), ...at(b, depth), ...at(b, 0), ...at(a, 0), ...at(a, depth), ...at(b, depth))
    if (i > 1)
      soup.push(
        ...at(profile[0], 0),
        ...at(profile[i - 1], 0),
        ...at(a, 0),
        ...at(profile[0], depth),
        ...at(a, depth),
        ...at(profile[i - 1], depth),
      )
  }
  return weldTriangles(Float64Array.from(soup))
}

describe('areas agree with the hand calculation within 1 %', () => {
  test.each([0.1, 0.04])(
    'cones on either side of the limit, seen from below between the middles of the first and the last hanging layer, in layers of %d mm',
    async (h) => {
      for (const limit of [35, 45, 60]) {
        expect((await needs(cone(limit - 0.5), { freeAngleDeg: limit }, h)).patches).toHaveLength(0)
        const { areaMm2, patches } = await needs(cone(limit + 0.5, 12, 6), { freeAngleDeg: limit }, h)
        // The cone begins at z = 1; its first layer's middle is half a layer up, its last one half a layer
        // below the rim.
        const radius = (z: number) => 6 + tan(limit + 0.5) * z
        within1(
          areaMm2,
          Math.PI * (radius(12 - h / 2) ** 2 - radius(h / 2) ** 2) + Math.PI * (radius(h / 2) ** 2 - 36),
        )
        expect(patches.map(({ kind }) => kind)).toEqual(['sloped'])
      }
    },
  )

  test('a ball down to where its first layer lies, and it is rounded', async () => {
    const { areaMm2, patches } = await needs(sphere(30, 200), { freeAngleDeg: 45 }, 0.2)
    // Leaning past the limit below z = r (1 - sin limit): a disc of r cos limit. Its edge lies within the
    // last step, on average half a step
    // of h tan(limit) further in; the first layer's disc, cut at half its height, lies on the bed.
    const edge = 30 * Math.cos(Math.PI / 4) - 0.1
    within1(areaMm2, Math.PI * edge ** 2 - Math.PI * (2 * 30 * 0.1 - 0.1 ** 2))
    expect(patches[0].kind).toBe('rounded')
  })

  test('the inside of a dome above the latitude of the limit', async () => {
    // A hollow half ball, wall 3 mm: inner radius 17. Its ceiling leans past 45 degrees within 17 sin 45 of
    // the middle ... the rest of a disc.
    const arc = (r: number, from: number, to: number) =>
      Array.from({ length: 81 }, (_, i): [number, number] => {
        const turn = ((from + ((to - from) * i) / 80) * Math.PI) / 180
        return [r * Math.cos(turn), r * Math.sin(turn)]
      })
    const dome = turned([...arc(20, 0, 90), ...arc(17, 90, 0)], 160)
    const { areaMm2 } = await needs(dome, { freeAngleDeg: 45 })
    within1(areaMm2, Math.PI * (17 * Math.cos(Math.PI / 4)) ** 2)
  })

  test('the arms of a T, whole', async () => {
    const { areaMm2, patches } = await needs(
      boxes([
        { size: [4, 10, 10], at: [8, 0, 0] },
        { size: [20, 10, 2], at: [0, 0, 10] },
      ]),
    )
    within1(areaMm2, 160)
    expect(patches.map(({ kind, access }) => [kind, access])).toEqual([
      ['flat', 'open'],
      ['flat', 'open'],
    ])
  })

  test('stairs of 30 to 80 degrees under limits on either side', async () => {
    for (const lean of [30, 45, 60, 70, 80]) {
      const out = 0.1 * tan(lean)
      const stairs = boxes(
        Array.from({ length: 30 }, (_, i) => ({
          size: [10 + i * out, 10, 0.1] as const,
          at: [0, 0, i * 0.1] as const,
        })),
      )
      expect((await needs(stairs, { freeAngleDeg: lean + 1 })).patches).toHaveLength(0)
      within1((await needs(stairs, { freeAngleDeg: lean - 1 })).areaMm2, 29 * out * 10)
    }
  })

  test('an arch: what of its ceiling leans past the limit', async () => {
    const ceiling = Array.from({ length: 241 }, (_, i): [number, number] => [
      45 - 40 * Math.cos((i * Math.PI) / 240),
      40 * Math.sin((i * Math.PI) / 240),
    ])
    const staves = ceiling.slice(1).map((to, i) => prism([ceiling[i], to, [to[0], 45], [ceiling[i][0], 45]]))
    const arch = join([box([5, 10, 45]), ...staves, box([5, 10, 45], [85, 0, 0])])
    const { areaMm2 } = await needs(arch, { freeSpanMm: 0 }, 0.2)
    // Within r cos 45 of the middle, both ways.
    within1(areaMm2, 2 * 40 * Math.cos(Math.PI / 4) * 10)
  })
})

describe('bridges', () => {
  const bridge = (spanMm: number, widthMm = 6) =>
    boxes([
      { size: [5, widthMm, 8], at: [0, 0, 0] },
      { size: [5, widthMm, 8], at: [5 + spanMm, 0, 0] },
      { size: [10 + spanMm, widthMm, 2], at: [0, 0, 8] },
    ])

  test('stay free up to the free span and are held past it, whichever way they run', async () => {
    for (const turn of [0, 17, 45, 90, 133]) {
      const mesh = poseMesh(bridge(12), { turn: turnAbout([0, 0, 1], turn), scale: 1 })
      const free = await needs(mesh, { freeSpanMm: 12.5 })
      expect(free.bridges).toHaveLength(1)
      closeTo(free.bridges[0].spanMm, 12, 0.1)
      expect(free.bridges[0].free).toBe(true)
      // The part lies in the middle of the bed, and the bridge in the middle of the part.
      for (const at of free.bridges[0].atMm) closeTo(at, 0, 0.05)
      expect(free.patches).toHaveLength(0)
      const held = await needs(mesh, { freeSpanMm: 11.5 })
      expect(held.bridges[0].free).toBe(false)
      within1(held.areaMm2, 72)
    }
  })

  test('an arm on one side alone is none, however short; a lid on four walls spans its shorter way', async () => {
    const arm = await needs(
      boxes([
        { size: [5, 6, 8], at: [0, 0, 0] },
        { size: [9, 6, 2], at: [0, 0, 8] },
      ]),
      { freeSpanMm: 40 },
    )
    expect(arm.bridges).toHaveLength(0)
    within1(arm.areaMm2, 24)
    const lid = await needs(
      boxes([
        { size: [24, 2, 8], at: [0, 0, 0] },
        { size: [24, 2, 8], at: [0, 12, 0] },
        { size: [2, 14, 8], at: [0, 0, 0] },
        { size: [2, 14, 8], at: [22, 0, 0] },
        { size: [24, 14, 2], at: [0, 0, 8] },
      ]),
      { freeSpanMm: 10.5 },
    )
    expect(lid.bridges).toHaveLength(1)
    closeTo(lid.bridges[0].spanMm, 10, 0.1)
    expect(lid.patches).toHaveLength(0)
  })

  test('out of reach: the underside of that lid, when it has to be held', async () => {
    const room = boxes([
      { size: [24, 2, 8], at: [0, 0, 0] },
      { size: [24, 2, 8], at: [0, 12, 0] },
      { size: [2, 14, 8], at: [0, 0, 0] },
      { size: [2, 14, 8], at: [22, 0, 0] },
      { size: [24, 14, 2], at: [0, 0, 8] },
    ])
    expect((await needs(room)).patches.map(({ access }) => access)).toEqual(['closed'])
    // Without one wall a tool gets in from a few sides.
    const open = boxes([
      { size: [24, 2, 8], at: [0, 0, 0] },
      { size: [24, 2, 8], at: [0, 12, 0] },
      { size: [2, 14, 8], at: [0, 0, 0] },
      { size: [24, 14, 2], at: [0, 0, 8] },
    ])
    expect((await needs(open)).patches.map(({ access }) => access)).toEqual(['narrow'])
  })
})

describe('limits per side', () => {
  // A block whose four sides lean out by 50 degrees over 6 mm.
  const frustum = (() => {
    const out = tan(50) * 6
    const ring = (half: number, z: number) => [
      [-half, -half, z],
      [half, -half, z],
      [half, half, z],
      [-half, half, z],
    ]
    const [a, b] = [ring(8, 0), ring(8 + out, 6)]
    const soup: number[] = []
    for (let i = 0; i < 4; i++) {
      const j = (i + 1) % 4
      soup.push(...a[i], ...a[j], ...b[j], ...a[i], ...b[j], ...b[i])
    }
    soup.push(
      ...a[0],
      ...a[2],
      ...a[1],
      ...a[0],
      ...a[3],
      ...a[2],
      ...b[0],
      ...b[1],
      ...b[2],
      ...b[0],
      ...b[2],
      ...b[3],
    )
    return weldTriangles(Float64Array.from(soup))
  })()

  test('only the sides whose limit is passed are held', async () => {
    // North and the sides beside it cope with 40, everything else with 60.
    const sides = [40, 60, 60, 60, 60, 60, 60, 60]
    const { hold, layers } = await needs(frustum, { sideAnglesDeg: sides })
    const held = hold.filter((region) => !isEmptyRegion(region))
    expect(held.length).toBeGreaterThan(50)
    for (const region of held)
      for (let i = 1; i < region.xyMm.length; i += 2) expect(region.xyMm[i]).toBeGreaterThan(7)
    expect((await needs(frustum, { sideAnglesDeg: sides.map(() => 60) })).patches).toHaveLength(0)
    expect(layers.length).toBe(60)
  })

  test('turned about the upright axis, the side that leans into the better limit needs nothing', async () => {
    const ledge = boxes([
      { size: [10, 10, 5], at: [0, 0, 0] },
      ...Array.from({ length: 20 }, (_, i) => ({
        size: [10, 10 + 0.1 * tan(50) * (i + 1), 0.1] as const,
        at: [0, 0, 5 + i * 0.1] as const,
      })),
    ])
    const sides = [40, 40, 40, 50, 60, 50, 40, 40]
    const north = await needs(ledge, { sideAnglesDeg: sides })
    const south = await needs(poseMesh(ledge, { turn: turnAbout([0, 0, 1], 180), scale: 1 }), {
      sideAnglesDeg: sides,
    })
    within1(north.areaMm2, 20 * 0.1 * tan(50) * 10)
    expect(south.patches).toHaveLength(0)
  })

  test('between two sides the limit is a share of both', () => {
    const sides = [10, 20, 30, 40, 50, 60, 70, 80]
    // North is +y, then clockwise.
    closeTo(limitTowards(0, sides, Math.PI / 2), 10, 1e-9)
    closeTo(limitTowards(0, sides, 0), 30, 1e-9)
    closeTo(limitTowards(0, sides, -Math.PI / 2), 50, 1e-9)
    closeTo(limitTowards(0, sides, (3 / 8) * Math.PI), 15, 1e-9)
    closeTo(limitTowards(42, null, 1), 42, 1e-9)
  })
})

describe('zones', () => {
  const plate = boxes([
    { size: [4, 4, 10], at: [8, 8, 0] },
    { size: [20, 20, 2], at: [0, 0, 10] },
  ])
  async function zoned(mesh: Mesh, zones: readonly Zone[], options: Partial<OverhangOptions> = {}) {
    const placing = placingOf(mesh, UPRIGHT)
    const posed = poseMesh(mesh, UPRIGHT)
    const { layers } = await sliceMesh(posed, engine, { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 })
    return needs(
      posed,
      { ...options, zones: await cutZones(zones, layers, placing, () => null, engine) },
      0.2,
    )
  }
  const zone = (kind: Zone['kind'], limitDeg: number, shape: Zone['shape'], name = 'Mine'): Zone => ({
    id: name,
    name,
    kind,
    limitDeg,
    shape,
  })
  const half = { kind: 'box', minMm: [-1, -1, 9], maxMm: [10, 21, 13] } as const

  test('a keep-off box leaves its half free, to the square millimetre', async () => {
    const { areaMm2 } = await zoned(plate, [zone('keepOff', 90, half)])
    // 384 hang; the half left of x = 10 is 200 less the post's 8.
    closeTo(areaMm2, 384 - 192, 0.5)
  })

  test('a hold zone holds what leans less than the limit, and its own limit may be finer', async () => {
    const lean = cone(30, 12, 6)
    const everything: Zone['shape'] = { kind: 'box', minMm: [-50, -50, -1], maxMm: [50, 50, 50] }
    expect((await zoned(lean, [])).areaMm2).toBe(0)
    expect((await zoned(lean, [zone('hold', 35, everything)])).areaMm2).toBe(0)
    expect((await zoned(lean, [zone('hold', 25, everything)])).areaMm2).toBeGreaterThan(400)
    expect((await zoned(lean, [zone('hold', 0, everything)])).areaMm2).toBeGreaterThan(400)
  })

  test('of two zones in one place the later counts', async () => {
    const all: Zone['shape'] = { kind: 'box', minMm: [-1, -1, 9], maxMm: [21, 21, 13] }
    expect((await zoned(plate, [zone('hold', 0, all, 'A'), zone('keepOff', 90, all, 'B')])).areaMm2).toBe(0)
    closeTo(
      (await zoned(plate, [zone('keepOff', 90, all, 'A'), zone('hold', 0, all, 'B')])).areaMm2,
      384,
      0.5,
    )
  })

  test('brush and cylinder cover the circles they are', async () => {
    const at: readonly [number, number, number] = [4, 4, 10]
    const dab = await zoned(plate, [zone('keepOff', 90, { kind: 'brush', radiusMm: 3, atMm: [...at] })])
    closeTo(384 - dab.areaMm2, Math.PI * 9, 0.2)
    const round = await zoned(plate, [
      zone('keepOff', 90, { kind: 'cylinder', footMm: [4, 4, 9], radiusMm: 3, heightMm: 2 }),
    ])
    closeTo(384 - round.areaMm2, Math.PI * 9, 0.2)
  })

  test('an island that a keep-off zone covers is named with it, and a bridge in a hold zone is held', async () => {
    const floating = boxes([
      { size: [4, 10, 12], at: [0, 0, 0] },
      { size: [12, 10, 2], at: [0, 0, 12] },
      { size: [2, 10, 4], at: [9, 0, 8] },
    ])
    const { islands, patches } = await zoned(floating, [
      zone('keepOff', 90, { kind: 'box', minMm: [8, -1, 7], maxMm: [13, 11, 9] }, 'Cable way'),
    ])
    expect(islands.map(({ keptOffBy }) => keptOffBy)).toEqual(['Cable way'])
    expect(patches.every(({ lowestMm }) => lowestMm > 9)).toBe(true)
    const span = boxes([
      { size: [5, 6, 8], at: [0, 0, 0] },
      { size: [5, 6, 8], at: [13, 0, 0] },
      { size: [18, 6, 2], at: [0, 0, 8] },
    ])
    expect((await zoned(span, [], { freeSpanMm: 20 })).areaMm2).toBe(0)
    const held = await zoned(span, [zone('hold', 0, { kind: 'box', minMm: [7, -1, 7], maxMm: [11, 7, 9] })], {
      freeSpanMm: 20,
    })
    closeTo(held.areaMm2, 4 * 6, 0.3)
  })

  test('the triangles a zone reaches: a whole flat face from one dab on it, nothing from a dab beside the part', () => {
    const mesh = box([10, 10, 10])
    const dab = (at: readonly [number, number, number]) =>
      trianglesIn(mesh, [zone('show', 90, { kind: 'brush', radiusMm: 1, atMm: [...at] })])
    expect(dab([5, 5, 10]).reduce((sum, one) => sum + one, 0)).toBe(2)
    expect(dab([5, 5, 14]).reduce((sum, one) => sum + one, 0)).toBe(0)
    expect(
      trianglesIn(mesh, [zone('show', 90, { kind: 'box', minMm: [9, 3, 3], maxMm: [12, 6, 6] })]).reduce(
        (sum, one) => sum + one,
        0,
      ),
    ).toBe(2)
  })
})

describe('what the answer does not depend on', () => {
  const mesh = join([cone(52, 8, 4), box([6, 2, 3], [14, 0, 9]), box([2, 2, 12], [14, 0, 0])])

  test('where the part stands, how it is turned upright, the order of triangles, flat faces cut finer', async () => {
    const plain = await needs(mesh, { freeAngleDeg: 48 }, 0.2)
    expect(plain.areaMm2).toBeGreaterThan(100)
    const moved = {
      ...mesh,
      positionsMm: mesh.positionsMm.map((value, i) => (i % 3 === 2 ? value : value - 37.77)),
    }
    const spun = poseMesh(mesh, { turn: turnAbout([0, 0, 1], 71), scale: 1 })
    const random = seeded(5)
    const order = Array.from({ length: mesh.corners.length / 3 }, (_, t) => t).sort(() => random.next() - 0.5)
    const mixed = {
      ...mesh,
      corners: Uint32Array.from(order.flatMap((t) => [...mesh.corners.subarray(3 * t, 3 * t + 3)])),
    }
    for (const other of [moved, spun, mixed, finer(mesh)])
      within1((await needs(other, { freeAngleDeg: 48 }, 0.2)).areaMm2, plain.areaMm2)
  })
})

test('a thin rim that hangs from a wall is kept, and a needle in mid-air is a tip', async () => {
  const rim = await needs(
    turned([
      [9, 0],
      [10, 0],
      [10, 6],
      [12, 6],
      [12, 6.4],
      [9, 6.4],
    ]),
    {},
    0.2,
  )
  within1(rim.areaMm2, Math.PI * (144 - 100))
  const needle = await needs(
    boxes([
      { size: [10, 10, 4], at: [0, 0, 0] },
      { size: [0.6, 0.6, 3], at: [15, 0, 5] },
    ]),
  )
  expect(needle.patches.map(({ kind }) => kind)).toEqual(['tip'])
  closeTo(regionAreaMm2(needle.islands[0].region), 0.36, 0.01)
})

/** Every triangle cut into four at the middles of its sides. */
function finer({ positionsMm: p, corners }: Mesh): Mesh {
  const soup: number[] = []
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((i) => [...p.subarray(3 * corners[t + i], 3 * corners[t + i] + 3)])
    const half = (u: number[], v: number[]) => u.map((value, axis) => (value + v[axis]) / 2)
    const [ab, bc, ca] = [half(a, b), half(b, c), half(c, a)]
    soup.push(...a, ...ab, ...ca, ...ab, ...b, ...bc, ...ca, ...bc, ...c, ...ab, ...bc, ...ca)
  }
  return weldTriangles(Float64Array.from(soup))
}
