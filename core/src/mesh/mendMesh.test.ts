import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { box, boxes, closeTo, join, seeded, sphere } from '../testing'
import { outlineCutter } from '../slice/cutOutlines'
import {
  bodiesOf,
  compact,
  meshFacts,
  meshOfBodies,
  mendMesh,
  mendSentences,
  openMesh,
  write3mf,
  writeStl,
  type Mesh,
} from '.'

const flipped = (mesh: Mesh, which: (t: number) => boolean): Mesh => {
  const corners = mesh.corners.slice()
  for (let t = 0; t < corners.length / 3; t++)
    if (which(t)) [corners[3 * t + 1], corners[3 * t + 2]] = [corners[3 * t + 2], corners[3 * t + 1]]
  return { ...mesh, corners }
}
const nothing = {
  closedCracks: 0,
  duplicates: 0,
  keptDuplicates: 0,
  turnedTriangles: 0,
  turnedShells: 0,
  openEdges: 0,
  crowdedEdges: 0,
  flatTriangles: 0,
  hollows: 0,
  nested: 0,
  specks: 0,
}

describe('what is whole stays as it is', () => {
  test('a ball comes out with the very same triangles and nothing to say', () => {
    const mesh = sphere(6, 40)
    const { mesh: mended, report } = mendMesh(mesh)
    expect(mended.corners).toEqual(mesh.corners)
    expect(report).toMatchObject({ ...nothing, shells: 1 })
    expect(mendSentences(report)).toEqual({ mended: [], left: [] })
  })
})

describe('what is mended', () => {
  test('any triangles turned the wrong way are turned back: the volume is that of the whole', () => {
    const mesh = sphere(6, 24)
    const exact = meshFacts(mesh).volumeMm3
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.double({ min: 0.01, max: 0.45, noNaN: true }),
        (seed, share) => {
          const random = seeded(seed)
          const wrong = new Set(
            Array.from({ length: mesh.corners.length / 3 }, (_, t) => t).filter(() => random.next() < share),
          )
          const { mesh: mended, report } = mendMesh(flipped(mesh, (t) => wrong.has(t)))
          expect(report.turnedTriangles).toBe(wrong.size)
          expect(report.openEdges).toBe(0)
          closeTo(meshFacts(mended).volumeMm3, exact, 1e-6)
        },
      ),
      { numRuns: 30, seed: 4 },
    )
  })

  test('a whole shell inside out is turned outwards; inside another it is a hollow and stays', () => {
    const inside = flipped(box([4, 4, 4], [3, 3, 3]), () => true)
    const alone = mendMesh(inside)
    expect(alone.report).toMatchObject({ ...nothing, turnedShells: 1 })
    closeTo(meshFacts(alone.mesh).volumeMm3, 64, 1e-9)
    const hollow = mendMesh(joinAsIs([box([10, 10, 10]), inside]))
    expect(hollow.report).toMatchObject({ ...nothing, hollows: 1, shells: 2 })
    closeTo(meshFacts(hollow.mesh).volumeMm3, 1000 - 64, 1e-9)
    // Beside the other one, not inside: outwards.
    const beside = mendMesh(joinAsIs([box([10, 10, 10]), flipped(box([4, 4, 4], [20, 0, 0]), () => true)]))
    expect(beside.report).toMatchObject({ ...nothing, turnedShells: 1 })
  })

  test('in a hollow of a hollow, a solid is no nested shell; in solid it is', () => {
    const shells = [
      box([20, 20, 20]),
      flipped(box([16, 16, 16], [2, 2, 2]), () => true),
      box([8, 8, 8], [6, 6, 6]),
    ]
    expect(mendMesh(joinAsIs(shells)).report).toMatchObject({ ...nothing, hollows: 1 })
    const { report } = mendMesh(joinAsIs([shells[0], shells[2]]))
    expect(report).toMatchObject({ ...nothing, nested: 1, places: [{ kind: 'nested' }] })
  })

  test('a copy that keeps two shells closed stays: each needs a face of its own', () => {
    // Two pyramids on one base, one inside the other, both facing outwards: the base is there twice, in the
    // same turning sense.
    const positionsMm = Float64Array.from([0, 0, 0, 10, 0, 0, 0, 10, 0, 2, 2, 10, 2, 2, 5])
    const pyramid = (tip: number) => [0, 2, 1, 0, 1, tip, 1, 2, tip, 2, 0, tip]
    const { mesh, report } = mendMesh({
      positionsMm,
      corners: Uint32Array.from([...pyramid(3), ...pyramid(4)]),
    })
    expect(report).toMatchObject({ duplicates: 0, keptDuplicates: 1, openEdges: 0, crowdedEdges: 3 })
    expect(mesh.corners).toHaveLength(24)
  })

  test('an edge of three triangles is crowded, not open; specks are judged at the size they will have', () => {
    const fin = {
      positionsMm: Float64Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 1]),
      corners: Uint32Array.from([0, 1, 2, 0, 1, 3, 0, 1, 4]),
    }
    expect(mendMesh(fin).report).toMatchObject({ crowdedEdges: 1, openEdges: 6 })
    const metres = box([0.02, 0.02, 0.02])
    expect(mendMesh(metres).report.specks).toBe(1)
    expect(mendMesh(metres, { scaleMm: 1000 }).report.specks).toBe(0)
  })

  test('triangles that are there twice go once, and the copies of a whole part leave the part', () => {
    const mesh = box([10, 10, 10])
    const { mesh: mended, report } = mendMesh({
      ...mesh,
      corners: Uint32Array.from([...mesh.corners, ...mesh.corners.subarray(0, 9), ...mesh.corners]),
    })
    expect(report).toMatchObject({ ...nothing, duplicates: 15 })
    expect(mended.corners).toHaveLength(36)
  })

  test('hairline cracks are closed, wider ones stay open and are shown where they are', () => {
    const cracked = (widthMm: number): Mesh => {
      const { positionsMm, corners } = box([10, 10, 10])
      // Every triangle gets corners of its own, a hair beside the others'.
      const places = Float64Array.from(
        { length: corners.length * 3 },
        (_, i) =>
          positionsMm[3 * corners[Math.floor(i / 3)] + (i % 3)] + (Math.floor(i / 9) % 2 ? widthMm : 0),
      )
      return { positionsMm: places, corners: Uint32Array.from({ length: corners.length }, (_, c) => c) }
    }
    const hair = mendMesh(cracked(2e-5))
    expect(hair.report.openEdges).toBe(0)
    expect(hair.report.closedCracks).toBeGreaterThan(20)
    expect(meshFacts(hair.mesh).watertight).toBe(true)
    const gap = mendMesh(cracked(0.05))
    expect(gap.report.openEdges).toBeGreaterThan(20)
    expect(gap.report.openEdgesMm).toHaveLength(6 * gap.report.openEdges)
    expect(mendSentences(gap.report).left[0]).toContain('open')
  })
})

test('an open box keeps its hole: its four edges are told with their places', () => {
  const mesh = box([10, 10, 3])
  const { report } = mendMesh({ ...mesh, corners: mesh.corners.slice(0, -6) })
  expect(report.openEdges).toBe(4)
  // All around the missing side at y = ... one coordinate is the same at every end.
  const same = [0, 1, 2].filter(
    (axis) => new Set([0, 1, 2, 3, 4, 5, 6, 7].map((end) => report.openEdgesMm[3 * end + axis])).size === 1,
  )
  expect(same).toHaveLength(1)
})

test('dust is told, and slivers without area', () => {
  const { report } = mendMesh(joinAsIs([box([10, 10, 10]), box([0.1, 0.1, 0.1], [20, 0, 0])]))
  expect(report.specks).toBe(1)
  const flat: Mesh = {
    positionsMm: Float64Array.from([0, 0, 0, 5, 0, 0, 10, 0, 0]),
    corners: Uint32Array.from([0, 1, 2]),
  }
  expect(mendMesh(joinAsIs([box([1, 1, 1]), flat])).report.flatTriangles).toBe(1)
})

test('a soup of random triangles is mended without end or harm', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 1e6 }),
      fc.integer({ min: 1, max: 120 }),
      fc.integer({ min: 3, max: 30 }),
      (seed, triangles, vertices) => {
        const random = seeded(seed)
        const mesh: Mesh = {
          positionsMm: Float64Array.from({ length: 3 * vertices }, () => random.next() * 10),
          corners: Uint32Array.from({ length: 3 * triangles }, () => Math.floor(random.next() * vertices)),
        }
        const once = mendMesh(mesh)
        expect(once.mesh.corners.length % 3).toBe(0)
        // Triangles may have been turned or dropped; none was made up.
        const own = (corners: Uint32Array) =>
          Array.from({ length: corners.length / 3 }, (_, t) =>
            [...corners.subarray(3 * t, 3 * t + 3)].sort((a, b) => a - b).join(),
          )
        const given = new Set(own(mesh.corners))
        expect(own(once.mesh.corners).every((triangle) => given.has(triangle))).toBe(true)
        expect(once.mesh.corners.length / 3 + once.report.duplicates).toBeLessThanOrEqual(triangles)
      },
    ),
    { numRuns: 200, seed: 9 },
  )
})

describe('bodies', () => {
  const two = write3mf('Pair', [
    { name: 'Post', colour: '#a5a8b4', mesh: box([2, 2, 9]) },
    { name: 'Helper', colour: '#cd8a62', mesh: box([3, 3, 3], [10, 0, 0]) },
  ])

  test('objects of a 3MF file and groups of an OBJ file keep their names and their triangles', () => {
    expect(bodiesOf(openMesh(two).mesh)).toEqual([
      { name: 'Post', from: 0, to: 12 },
      { name: 'Helper', from: 12, to: 24 },
    ])
    const obj = new TextEncoder().encode(
      'o base\nv 0 0 0\nv 5 0 0\nv 0 5 0\nv 0 0 5\nf 1 3 2\nf 1 2 4\ng lid\nf 1 4 3\nf 2 3 4\nf 9 9 9\n',
    )
    expect(bodiesOf(openMesh(obj).mesh)).toEqual([
      { name: 'base', from: 0, to: 2 },
      { name: 'lid', from: 2, to: 4 },
    ])
    expect(bodiesOf(openMesh(writeStl(box([1, 1, 1]))).mesh)).toEqual([{ name: '', from: 0, to: 12 }])
  })

  test('one body alone has its own volume and box, and as compact only its own vertices', () => {
    const { mesh } = openMesh(two)
    const helper = meshOfBodies(mesh, (body) => body === 1)!
    closeTo(meshFacts(helper).volumeMm3, 27, 1e-6)
    expect(meshFacts(helper).sizeMm.map((side) => Math.round(side))).toEqual([3, 3, 3])
    expect(compact(helper).positionsMm).toHaveLength(24)
    expect(meshOfBodies(mesh, () => false)).toBeNull()
    expect(meshOfBodies(mesh, () => true)).toBe(mesh)
  })

  test('a body whose triangles were all copies is gone', () => {
    const mesh = box([5, 5, 5])
    const twice: Mesh = {
      positionsMm: mesh.positionsMm,
      corners: Uint32Array.from([...mesh.corners, ...mesh.corners]),
      bodies: [
        { name: 'one', from: 0, to: 12 },
        { name: 'copy', from: 12, to: 24 },
      ],
    }
    expect(mendMesh(twice).mesh.bodies).toEqual([{ name: 'one', from: 0, to: 12 }])
  })
})

test('hundreds of thousands of triangles around one edge are read and cut in no more than their share of time', async () => {
  // Comparing each with each would take minutes.
  const leaves = 300_000
  const positionsMm = new Float64Array(3 * (leaves + 2))
  positionsMm.set([0, 0, 0, 0, 0, 10])
  const corners = new Uint32Array(3 * leaves)
  for (let i = 0; i < leaves; i++) {
    const turn = (2 * Math.PI * i) / leaves
    positionsMm.set([5 * Math.cos(turn), 5 * Math.sin(turn), 5], 3 * (i + 2))
    corners.set(i % 2 === 0 ? [0, 1, i + 2] : [1, 0, i + 2], 3 * i)
  }
  const { mesh, report } = mendMesh({ positionsMm, corners })
  expect(report).toMatchObject({ crowdedEdges: 1, openEdges: 2 * leaves, shells: leaves / 2 })
  expect(meshFacts(mesh)).toMatchObject({ openEdges: 2 * leaves, watertight: false })
  const cut = outlineCutter(mesh, Float64Array.of(4.9))
  expect(cut(0).mended).toBeGreaterThan(0)
})

test('many touching boxes are told apart as shells and none is turned', () => {
  const { report } = mendMesh(
    boxes(
      Array.from({ length: 40 }, (_, i) => ({
        size: [4, 4, 4] as const,
        at: [(i % 8) * 5, Math.floor(i / 8) * 5, 0] as const,
      })),
    ),
  )
  expect(report).toMatchObject({ ...nothing, shells: 40 })
})

/** Puts meshes together as they are, whichever way they face. */
function joinAsIs(meshes: readonly Mesh[]): Mesh {
  let offset = 0
  const corners: number[] = []
  const positions: number[] = []
  for (const mesh of meshes) {
    positions.push(...mesh.positionsMm)
    corners.push(...mesh.corners.map((v) => v + offset))
    offset += mesh.positionsMm.length / 3
  }
  return { positionsMm: Float64Array.from(positions), corners: Uint32Array.from(corners) }
}

test('joining and mending agree on a part made of two balls apart', () => {
  const mesh = join([
    sphere(3, 20),
    {
      ...sphere(3, 20),
      positionsMm: sphere(3, 20).positionsMm.map((value, i) => (i % 3 === 0 ? value + 20 : value)),
    },
  ])
  expect(mendMesh(mesh).report).toMatchObject({ ...nothing, shells: 2 })
})
