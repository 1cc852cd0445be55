import { strFromU8, strToU8, unzipSync } from 'fflate'
import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { TenderError } from '../errors'
import { box, boxes, closeTo, seeded, sphere } from '../testing'
import {
  composeTurns,
  guessUnit,
  meshBounds,
  meshFacts,
  openMesh,
  packMesh,
  poseMesh,
  readStl,
  turnAbout,
  turnFaceDown,
  turnMatrix,
  unpackMesh,
  weldTriangles,
  write3mf,
  writeStl,
  type Mesh,
} from '.'

const text = (mesh: Mesh) => {
  const at = (v: number) => [0, 1, 2].map((axis) => mesh.positionsMm[3 * v + axis]).join(' ')
  const facets = Array.from(
    { length: mesh.corners.length / 3 },
    (_, t) =>
      `facet normal 0 0 0\nouter loop\n${[0, 1, 2].map((c) => `vertex ${at(mesh.corners[3 * t + c])}`).join('\n')}\nendloop\nendfacet`,
  )
  return strToU8(`solid test\n${facets.join('\n')}\nendsolid test\n`)
}
const refusal = (bytes: Uint8Array) => {
  try {
    readStl(bytes)
  } catch (error) {
    if (error instanceof TenderError) return error
    throw error
  }
  throw new Error('was not refused')
}

describe('reading STL', () => {
  const cube = box([10, 20, 30])

  test('binary and text give the same part, welded and closed', () => {
    for (const bytes of [writeStl(cube), text(cube)]) {
      const { mesh, notes } = readStl(bytes)
      expect(notes).toEqual([])
      expect(meshFacts(mesh)).toMatchObject({
        triangles: 12,
        watertight: true,
        shells: 1,
        sizeMm: [10, 20, 30],
      })
      expect(mesh.positionsMm).toHaveLength(24)
    }
  })

  test('a binary file whose header begins with "solid" is still binary', () => {
    const bytes = writeStl(cube)
    bytes.set(strToU8('solid but binary'))
    expect(meshFacts(readStl(bytes).mesh).triangles).toBe(12)
  })

  test('a file cut in half keeps its whole triangles and says how many', () => {
    const whole = writeStl(sphere(5, 24))
    const { mesh, notes } = readStl(whole.slice(0, Math.floor(whole.length / 2)))
    expect(notes).toHaveLength(1)
    expect(notes[0]).toMatch(/promises \d+ triangles but ends after \d+/)
    expect(mesh.corners.length).toBeGreaterThan(0)
    expect(readStl(text(sphere(5, 24)).slice(0, 4000)).notes[0]).toContain('stops before its "endsolid"')
  })

  test('a facet of two or four corners is left out and said, and shifts none of those that follow', () => {
    const whole = new TextDecoder().decode(text(cube))
    const corner = /vertex [^\n]*\n/.exec(whole)![0]
    for (const odd of [whole.replace(corner, ''), whole.replace(corner, corner + corner)]) {
      const { mesh, notes } = readStl(strToU8(odd))
      expect(notes).toEqual(['1 facet has not three corners; it was left out, the others kept.'])
      expect(mesh.corners).toHaveLength(33)
      expect(meshFacts(mesh)).toMatchObject({ sizeMm: [10, 20, 30], openEdges: 3 })
    }
  })

  test('a header that lies is corrected by what the file holds', () => {
    const none = writeStl(cube)
    new DataView(none.buffer).setUint32(80, 0, true)
    expect(readStl(none)).toMatchObject({
      notes: ['The header says 0 triangles, yet 12 follow; all were read.'],
    })
    const few = writeStl(cube)
    new DataView(few.buffer).setUint32(80, 10, true)
    expect(readStl(few).notes[0]).toContain('100 bytes after the 10 triangles')
    const endless = writeStl(cube)
    new DataView(endless.buffer).setUint32(80, 0xffffffff, true)
    expect(readStl(endless).notes[0]).toContain('promises 4294967295 triangles but ends after 12')
  })

  test('a triangle that is not a number is left out, and the rest kept', () => {
    const bytes = writeStl(cube)
    new DataView(bytes.buffer).setFloat32(84 + 12, NaN, true)
    const { mesh, notes } = readStl(bytes)
    expect(mesh.corners.length / 3).toBe(11)
    expect(notes[0]).toContain('1 of 12 triangles')
  })

  test('each file without a part gets a sentence of its own', () => {
    const empty = new Uint8Array(84)
    const nan = writeStl(cube)
    for (let i = 0; i < 12; i++)
      for (let c = 0; c < 9; c++) new DataView(nan.buffer).setFloat32(84 + 50 * i + 12 + 4 * c, NaN, true)
    expect(refusal(new Uint8Array(0))).toMatchObject({
      code: 'FILE_EMPTY',
      message: 'The file is empty: 0 bytes.',
    })
    expect(refusal(strToU8('Dear workshop, the plate is finished.'))).toMatchObject({
      code: 'FILE_NOT_STL',
      message: expect.stringContaining('Dear workshop'),
    })
    expect(refusal(empty)).toMatchObject({ code: 'MESH_EMPTY' })
    expect(refusal(nan)).toMatchObject({ code: 'MESH_NOT_FINITE' })
    expect(refusal(strToU8('solid nothing\nendsolid nothing\n'))).toMatchObject({ code: 'MESH_EMPTY' })
    expect(refusal(writeStl(cube).slice(0, 100))).toMatchObject({ code: 'FILE_CUT_SHORT' })
    expect(refusal(Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 251))).toBeInstanceOf(TenderError)
    const flat = weldless([0, 0, 0, 1, 1, 1, 2, 2, 2])
    expect(meshFacts(readStl(flat).mesh).areaMm2).toBe(0)
  })

  /** A binary file of one triangle. */
  function weldless(corners: number[]): Uint8Array {
    const bytes = new Uint8Array(134)
    const view = new DataView(bytes.buffer)
    view.setUint32(80, 1, true)
    corners.forEach((value, i) => view.setFloat32(96 + 4 * i, value, true))
    return bytes
  }

  test('thousands of damaged files are read or refused, never worse', () => {
    const random = seeded(11)
    const originals = [writeStl(sphere(4, 16)), text(box([3, 4, 5]))]
    let read = 0
    let refused = 0
    for (let i = 0; i < 3000; i++) {
      let bytes = random.pick(originals).slice()
      for (let n = 0; n < 1 + 8 * random.next(); n++) {
        const at = Math.floor(random.next() * bytes.length)
        const how = random.next()
        if (how < 0.5) bytes[at] = Math.floor(random.next() * 256)
        else if (how < 0.7) bytes = bytes.slice(0, at)
        else if (how < 0.85) bytes.copyWithin(at, 0, Math.floor(random.next() * 90))
        else if (bytes.length > 84)
          new DataView(bytes.buffer, bytes.byteOffset).setUint32(
            80,
            Math.floor(random.next() * 2 ** 32),
            true,
          )
        if (bytes.length === 0) break
      }
      try {
        const { mesh } = readStl(bytes)
        if (mesh.positionsMm.some((value) => !Number.isFinite(value)))
          throw new Error('a corner that is no number came through')
        meshFacts(mesh)
        read++
      } catch (error) {
        if (!(error instanceof TenderError)) throw error
        expect(error.message.length).toBeGreaterThan(20)
        refused++
      }
    }
    expect(read).toBeGreaterThan(500)
    expect(refused).toBeGreaterThan(100)
  })
})

describe('facts and poses', () => {
  test('open edges, shells and volume', () => {
    const pair = boxes([
      { size: [2, 2, 2], at: [0, 0, 0] },
      { size: [1, 1, 1], at: [5, 5, 5] },
    ])
    expect(meshFacts(pair)).toMatchObject({ watertight: true, shells: 2 })
    closeTo(meshFacts(pair).volumeMm3, 9, 1e-4)
    expect(meshFacts({ ...pair, corners: pair.corners.slice(0, -3) })).toMatchObject({
      watertight: false,
      openEdges: 3,
    })
    // Far from the origin the volume keeps its digits.
    closeTo(meshFacts(box([10, 10, 10], [20000, 20000, 20000])).volumeMm3, 1000, 1)
  })

  test('a posed part stands on the bed in the middle, and keeps its volume at any turn', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: 0.1, max: 5, noNaN: true }),
        (angle, scale) => {
          const posed = poseMesh(box([3, 4, 5]), { turn: turnAbout([1, 2, 3], angle), scale })
          const { min, max } = meshBounds(posed)
          closeTo(min[2], 0, 1e-9)
          closeTo(min[0] + max[0], 0, 1e-9)
          closeTo(meshFacts(posed).volumeMm3, 60 * scale ** 3, 60 * scale ** 3 * 1e-6)
        },
      ),
    )
  })

  test('any face can be put on the bed', () => {
    for (const normal of [
      [1, 0, 0],
      [0, 0, 1],
      [0, 0, -1],
      [0.3, -0.5, 0.8],
      [-1, 2, -3],
    ] as const) {
      const m = turnMatrix(turnFaceDown(normal))
      const length = Math.hypot(...normal)
      const z = (m[6] * normal[0] + m[7] * normal[1] + m[8] * normal[2]) / length
      closeTo(z, -1, 1e-9)
    }
    const twice = composeTurns(turnAbout([0, 0, 1], 40), turnAbout([0, 0, 1], 50))
    turnMatrix(twice).forEach((value, i) => closeTo(value, turnMatrix(turnAbout([0, 0, 1], 90))[i], 1e-9))
  })

  test('the unit is guessed from the size, and asked about only when in doubt', () => {
    expect(guessUnit(80)).toMatchObject({ unit: 'mm', sentence: null })
    expect(guessUnit(3.2)).toMatchObject({
      unit: 'inch',
      scale: 25.4,
      sentence: expect.stringContaining('81.3 mm'),
    })
    expect(guessUnit(0.08)).toMatchObject({ unit: 'm', scale: 1000 })
  })

  test('welding joins 0 and -0 and drops triangles without corners of their own', () => {
    const mesh = weldTriangles(
      Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, -0, 0, -0, 0, 1, 0, 0, 0, 1, 5, 5, 5, 5, 5, 5, 6, 6, 6]),
    )
    expect(mesh.corners.length / 3).toBe(2)
    expect(mesh.corners[0]).toBe(mesh.corners[3])
  })
})

describe('writing 3MF', () => {
  const bodies = [
    { name: 'Part <1> & "more"', colour: '#d8d3c8', mesh: box([10, 10, 5]) },
    { name: 'Interface', colour: '#4f3f94', mesh: box([10, 10, 0.2], [0, 0, 5.137]) },
  ]

  test('the package has the parts the core specification demands, pointing at each other', () => {
    const files = unzipSync(write3mf('Plan', bodies))
    expect(Object.keys(files).sort()).toEqual(['3D/3dmodel.model', '[Content_Types].xml', '_rels/.rels'])
    expect(strFromU8(files['[Content_Types].xml'])).toContain(
      'Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"',
    )
    expect(strFromU8(files['_rels/.rels'])).toContain('Target="/3D/3dmodel.model"')
  })

  test('every object is a valid solid in millimetres with a name and a colour, every reference leads somewhere', () => {
    const model = strFromU8(unzipSync(write3mf('Plan', bodies))['3D/3dmodel.model'])
    expect(model).toMatch(/^<\?xml version="1.0" encoding="UTF-8"\?>\n<model unit="millimeter"/)
    expect(model).toContain('Part &#60;1&#62; &#38; &#34;more&#34;')
    const objects = [
      ...model.matchAll(
        /<object id="(\d+)" type="model" name="[^"<]+" pid="1" pindex="(\d)"><mesh>(.*?)<\/mesh>/gs,
      ),
    ]
    expect(objects).toHaveLength(2)
    for (const [, , , mesh] of objects) {
      const vertices = [...mesh.matchAll(/<vertex x="(\S+)" y="(\S+)" z="(\S+)"\/>/g)].map((found) =>
        found.slice(1).map(Number),
      )
      const triangles = [...mesh.matchAll(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"\/>/g)].map((found) =>
        found.slice(1).map(Number),
      )
      expect(triangles).toHaveLength(12)
      const sides = triangles.flatMap(([a, b, c]) => [`${a}-${b}`, `${b}-${c}`, `${c}-${a}`])
      expect(new Set(sides).size).toBe(sides.length)
      // Manifold and consistently oriented: each side is met once in the other direction.
      for (const side of sides) expect(sides).toContain(side.split('-').reverse().join('-'))
      for (const corner of triangles.flat()) expect(vertices[corner].every(Number.isFinite)).toBe(true)
    }
    const ids = [...model.matchAll(/<object id="(\d+)"/g)].map(([, id]) => id)
    for (const [, id] of model.matchAll(/objectid="(\d+)"/g)) expect(ids).toContain(id)
    expect([...model.matchAll(/<item /g)]).toHaveLength(1)
    expect(model).toContain('displaycolor="#4F3F94FF"')
  })

  test('an open body is refused, and the same bodies give the same bytes', () => {
    const open = { ...bodies[0], mesh: { ...bodies[0].mesh, corners: bodies[0].mesh.corners.slice(3) } }
    expect(() => write3mf('Plan', [open])).toThrow(expect.objectContaining({ code: 'SOLID_NOT_CLOSED' }))
    expect(write3mf('Plan', bodies)).toEqual(write3mf('Plan', bodies))
  })
})

test('a packed mesh is the mesh, whatever it lies behind in memory; cut or damaged bytes are refused', () => {
  const opened = openMesh(writeStl(sphere(5, 24)))
  const bytes = packMesh(opened)
  expect(packMesh(opened)).toEqual(bytes)
  const shifted = new Uint8Array(bytes.length + 3)
  shifted.set(bytes, 3)
  for (const given of [bytes, shifted.subarray(3)]) {
    const { mesh, report } = unpackMesh(given)
    expect(mesh).toEqual(opened.mesh)
    expect(report).toEqual(opened.report)
  }
  for (const length of [0, 3, 8, 100, bytes.length - 1])
    expect(() => unpackMesh(bytes.slice(0, length))).toThrow(TenderError)
  const damaged = bytes.slice()
  damaged.fill(255, bytes.length - 12)
  expect(() => unpackMesh(damaged)).toThrow('damaged')
})
