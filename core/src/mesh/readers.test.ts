import { beforeAll, describe, expect, test } from '@jest/globals'
import { strToU8, zipSync } from 'fflate'
import { TenderError } from '../errors'
import { solidEngine } from '../../node'
import { box, closeTo, seeded, sphere } from '../testing'
import {
  demoParts,
  meshBounds,
  meshFacts,
  openMesh,
  readMesh,
  saysUnit,
  triangleCount,
  write3mf,
  writeStl,
  type DemoPart,
  type Mesh,
} from '.'

let parts: DemoPart[]
beforeAll(async () => {
  parts = demoParts(await solidEngine())
})
const readText = (text: string) => readMesh(strToU8(text))
const CORE = 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02'
const LISTINGS = {
  '[Content_Types].xml': strToU8('<Types/>'),
  '_rels/.rels': strToU8(
    '<Relationships><Relationship Target="/3D/3dmodel.model" Id="r" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>',
  ),
}
const packed = (model: string) => zipSync({ ...LISTINGS, '3D/3dmodel.model': strToU8(model) })
const model = (inside: string, unit = 'millimeter') =>
  packed(`<?xml version="1.0"?><model unit="${unit}" xmlns="${CORE}">${inside}</model>`)
/** A tetrahedron of a given size with its corner at the origin: volume size^3 / 6. */
const tetra = (size: number) =>
  `<mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="${size}" y="0" z="0"/><vertex x="0" y="${size}" z="0"/><vertex x="0" y="0" z="${size}"/></vertices><triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="0" v2="3" v3="2"/><triangle v1="1" v2="2" v3="3"/></triangles></mesh>`
const objOf = ({ positionsMm: p, corners: c }: Mesh) =>
  `${Array.from({ length: p.length / 3 }, (_, v) => `v ${p[3 * v]} ${p[3 * v + 1]} ${p[3 * v + 2]}`).join('\n')}\n${Array.from({ length: c.length / 3 }, (_, t) => `f ${c[3 * t] + 1} ${c[3 * t + 1] + 1} ${c[3 * t + 2] + 1}`).join('\n')}\n`

describe('OBJ', () => {
  test('every demo part comes back as it was, whatever its name says', () => {
    for (const { mesh } of parts) {
      const { mesh: back, notes } = readText(objOf(mesh))
      expect(notes).toEqual([])
      const [before, after] = [meshFacts(mesh), meshFacts(back)]
      expect(after.triangles).toBe(before.triangles)
      closeTo(after.volumeMm3, before.volumeMm3, 1e-6 * Math.abs(before.volumeMm3))
      expect(after.watertight).toBe(true)
    }
  })

  test('quads and faces of many corners, dented ones too, indices from the end, groups and comments', () => {
    // A box of quads, the corners counted from the end, in groups: volume 2 x 3 x 4.
    const corners = [
      [0, 0, 0],
      [2, 0, 0],
      [2, 3, 0],
      [0, 3, 0],
      [0, 0, 4],
      [2, 0, 4],
      [2, 3, 4],
      [0, 3, 4],
    ]
    const cube = `# a box\nmtllib x.mtl\no box\n${corners.map((c) => `v ${c.join(' ')}`).join('\r\n')}\nvn 0 0 1\ng sides\nf -8//1 -5//1 -6//1 -7//1\nf 5/1/1 6/2/1 7/3/1 8/4/1\nf 1 2 6 5\nf 2 3 7 6\ns off\nf 3 4 8 7\nf 4 1 5 \\\n8\n`
    const facts = meshFacts(readText(cube).mesh)
    expect(facts).toMatchObject({ triangles: 12, watertight: true, sizeMm: [2, 3, 4] })
    closeTo(facts.volumeMm3, 24, 1e-9)
    // An L of six corners, dented at (1, 1), pulled up by 2: area 3, volume 6.
    const outline = [
      [0, 0],
      [2, 0],
      [2, 1],
      [1, 1],
      [1, 2],
      [0, 2],
    ]
    const l = `${[0, 2].flatMap((z) => outline.map(([x, y]) => `v ${x} ${y} ${z}`)).join('\n')}\nf 6 5 4 3 2 1\nf 7 8 9 10 11 12\n${outline.map((_, i) => `f ${i + 1} ${((i + 1) % 6) + 1} ${((i + 1) % 6) + 7} ${i + 7}`).join('\n')}\n`
    const bent = meshFacts(readText(l).mesh)
    expect(bent.watertight).toBe(true)
    closeTo(bent.volumeMm3, 6, 1e-9)
  })

  test('is known by its first telling line, after a byte mark, a licence as long as a book, or normals that come first', () => {
    const triangle = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'
    for (const before of [
      '\ufeff',
      'vn 0 0 1\n',
      'vt 0.5 0.5\n',
      `${'# all rights\n'.repeat(9000)}`,
      'usemtl solid\n',
      'g v 1 2 3\n',
    ])
      expect(triangleCount(readText(before + triangle).mesh)).toBe(1)
    expect(() => readText('victory is ours\n')).toThrow('plain text')
  })

  test('what is wrong is left out and said; what is nothing is refused', () => {
    const { mesh, notes } = readText(
      `v 0 0 0\nv 1 0 0\nv 0 1 0\nv nan 0 0\nf 1 2 3\nf 1 2 9\nf 1 2\nf 0 1 2\nf 1 2 4\n`,
    )
    expect(triangleCount(mesh)).toBe(1)
    expect(notes).toEqual([
      '3 faces name a corner that is not there, or fewer than three; left out.',
      '1 vertex line holds something that is not a number.',
      '1 triangle has a corner that is not a number or lies beyond 100 m; it was left out, the others kept.',
    ])
    expect(() => readText('v 0 0 0\nv 1 0 0\n')).toThrow('no face that can be used')
    expect(() => readText('v nan 0 0\nv 1 0 nan\nv 0 1e9 0\nf 1 2 3')).toThrow('None of the 1 triangles')
    expect(() => readText('v 0 0 0\nv 1 0 0\nv 2 0 0\nf 1 1 2')).toThrow('no triangle with an area')
  })
})

const placedBy = (transform: string) =>
  `<resources><object id="1">${tetra(1)}</object></resources><build><item objectid="1" transform="${transform}"/></build>`

describe('3MF', () => {
  test('what we write is read back the same, in millimetres that are known', () => {
    const bytes = write3mf(
      'Parts',
      parts.map(({ name, mesh }) => ({ name, colour: '#a5a8b4', mesh })),
    )
    const { mesh, notes } = readMesh(bytes)
    expect(notes).toEqual([])
    expect([saysUnit(bytes), saysUnit(writeStl(mesh))]).toEqual([true, false])
    const sum = parts.reduce((volume, part) => volume + meshFacts(part.mesh).volumeMm3, 0)
    closeTo(meshFacts(mesh).volumeMm3, sum, 1e-5 * sum)
    expect(meshFacts(mesh).watertight).toBe(true)
  })

  test('units, places, components in components and mirror images', () => {
    // An inch of a 1-sized tetrahedron: 25.4^3 / 6.
    closeTo(
      meshFacts(
        readMesh(
          model(
            `<resources><object id="1">${tetra(1)}</object></resources><build><item objectid="1"/></build>`,
            'inch',
          ),
        ).mesh,
      ).volumeMm3,
      25.4 ** 3 / 6,
      1e-6,
    )
    const assembly = model(
      `<resources><object id="1">${tetra(2)}</object><object id="2"><components><component objectid="1" transform="1 0 0 0 1 0 0 0 1 10 0 0"/><component objectid="1" transform="-1 0 0 0 1 0 0 0 1 0 0 0"/></components></object><object id="3"><components><component objectid="2" transform="2 0 0 0 2 0 0 0 2 0 0 5"/></components></object></resources><build><item objectid="3" transform="1 0 0 0 1 0 0 0 1 0 100 0"/></build>`,
    )
    const { mesh, notes } = readMesh(assembly)
    expect(notes).toEqual([])
    // Two tetrahedra of size 2, doubled: 2 x 4^3 / 6. The mirrored one faces outwards too.
    closeTo(meshFacts(mesh).volumeMm3, (2 * 64) / 6, 1e-9)
    expect(meshBounds(mesh)).toEqual({ min: [-4, 100, 5], max: [24, 104, 9] })
  })

  test('a build list of nothing, references to nothing, corners that are not there: said, and the rest taken', () => {
    const noBuild = readMesh(model(`<resources><object id="1">${tetra(2)}</object></resources>`))
    expect(noBuild.notes).toEqual([expect.stringContaining('names nothing to build')])
    expect(triangleCount(noBuild.mesh)).toBe(4)
    const broken = readMesh(
      model(
        `<resources><object id="1">${tetra(2).replace('v1="1" v2="2" v3="3"', 'v1="1" v2="2" v3="99"')}</object></resources><build><item objectid="1"/><item objectid="7"/></build>`,
      ),
    )
    expect(broken.notes).toEqual([
      expect.stringContaining('1 object that the file refers to is not in it'),
      expect.stringContaining('1 triangle names a corner that is not there'),
    ])
    expect(triangleCount(broken.mesh)).toBe(3)
  })

  test('bodies marked as supports come along as such, what is not to be printed stays out, and each part of an object comes once', () => {
    const { mesh, notes } = readMesh(
      model(
        `<resources><object id="1" name="Plate">${tetra(2)}</object><object id="2" type="support" name="Prop">${tetra(1)}</object><object id="3" type="other">${tetra(9)}</object></resources><build><item objectid="1"/><item objectid="2" transform="1 0 0 0 1 0 0 0 1 5 0 0"/><item objectid="3"/></build>`,
      ),
    )
    expect(mesh.bodies).toEqual([
      { name: 'Plate', from: 0, to: 4 },
      { name: 'Prop', from: 4, to: 8, drawnStand: true },
    ])
    expect(notes).toEqual([
      '1 object is marked in the file as not to be printed; left out.',
      '1 body is marked in the file as supports; taken as stands already drawn.',
    ])
    const assembly = readMesh(
      model(
        `<resources><object id="1">${tetra(2)}</object><object id="2"><components><component objectid="1"/></components></object></resources>`,
      ),
    )
    expect(triangleCount(assembly.mesh)).toBe(4)
    // Vertices that no triangle uses are no shells, and corners at one place are one.
    const loose = tetra(2).replace('</vertices>', '<vertex x="9" y="9" z="9"/></vertices>')
    const soup = `<mesh><vertices>${'<vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/>'.repeat(2)}</vertices><triangles><triangle v1="0" v2="1" v3="2"/><triangle v1="3" v2="5" v3="4"/></triangles></mesh>`
    for (const [inside, triangles] of [
      [loose, 4],
      [soup, 2],
    ] as const) {
      const facts = meshFacts(
        readMesh(
          model(
            `<resources><object id="1">${inside}</object></resources><build><item objectid="1"/></build>`,
          ),
        ).mesh,
      )
      expect(facts).toMatchObject({ shells: 1, watertight: true, triangles })
    }
    const bare = zipSync({
      'other/part.model': strToU8(
        `<model><resources><object id="1">${tetra(1)}</object></resources><build><item objectid="1"/></build></model>`,
      ),
    })
    expect(readMesh(bare).notes).toEqual([
      expect.stringContaining('lacks its list of content types and of relationships'),
    ])
  })

  test('bombs, circles, entities and damage are refused with a sentence', () => {
    const circle = model(
      '<resources><object id="1"><components><component objectid="1"/></components></object></resources><build><item objectid="1"/></build>',
    )
    const doubling = Array.from(
      { length: 20 },
      (_, i) =>
        `<object id="${i + 2}"><components><component objectid="${i + 1}"/><component objectid="${i + 1}"/></components></object>`,
    ).join('')
    const entities = packed(
      '<?xml version="1.0"?><!DOCTYPE model [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><model>&b;</model>',
    )
    const blank = new Uint8Array(30e6).fill(32)
    const cases: [Uint8Array, RegExp][] = [
      [circle, /more than 32 deep/],
      [
        model(
          `<resources><object id="1">${tetra(1)}</object>${doubling}</resources><build><item objectid="21"/></build>`,
        ),
        /more than 2000 objects/,
      ],
      [entities, /document type of its own/],
      [zipSync({ '3D/3dmodel.model': blank }), /unpacks to more than \d+ MB/],
      [model('<resources><object id="1"><mesh>'), /no valid XML/],
      [zipSync({ 'readme.txt': strToU8('nothing') }), /without a 3D model/],
      [model('<resources/><build/>'), /no triangle that is to be built/],
      [
        model(`<resources><object id="1">${tetra(1)}</object></resources>`).subarray(0, 150),
        /ends in the middle|damaged|without a 3D model/,
      ],
      [Uint8Array.of(0x50, 0x4b), /without a 3D model|damaged/],
      // Small files that would unfold to more than a browser or a server has.
      [
        model(
          `<resources><object id="1">${tetra(1)}</object></resources><build>${'<item objectid="1"/>'.repeat(19_000)}</build>`,
        ),
        /more than 2000 objects/,
      ],
      [
        model(
          `<resources>${Array.from({ length: 50_000 }, (_, i) => `<object id="${i}"/>`).join('')}</resources>`,
        ),
        /more than 20000 objects/,
      ],
      // What the format tells readers to refuse.
      [
        model(`<resources><object id="1">${tetra(1)}</object></resources>`, 'cubit'),
        /"cubit", a unit the format does not know/,
      ],
      [model(placedBy('1 0 0 0 1 0 0 0 1 0 0')), /a place is twelve numbers/],
      [model(placedBy('1 0 0 0 1 0 0 0 0 0 0 0')), /pressed flat/],
      [
        packed(
          `<model xmlns="${CORE}" xmlns:b="http://example.com/lattice" requiredextensions="b"><resources/></model>`,
        ),
        /demands the extension "http:\/\/example.com\/lattice"/,
      ],
      [
        model(
          `<resources><object id="1">${tetra(1)}</object><object id="1">${tetra(1)}</object></resources>`,
        ),
        /Two objects/,
      ],
      [Uint8Array.of(0x1f, 0x8b, 8, 0), /packed by gzip/],
    ]
    for (const [bytes, sentence] of cases) {
      expect(() => readMesh(bytes)).toThrow(TenderError)
      expect(() => readMesh(bytes)).toThrow(sentence)
    }
  })
})

test('three thousand damaged files: a mesh that can be used, or a refusal in words, never anything else, and quickly', () => {
  const random = seeded(99)
  const seeds = [
    writeStl(sphere(5, 12)),
    strToU8(objOf(sphere(5, 12))),
    write3mf('Ball', [{ name: 'Ball', colour: '#a5a8b4', mesh: sphere(5, 12) }]),
    strToU8(
      `solid x\n${'facet normal 0 0 1 outer loop vertex 0 0 0 vertex 1 0 0 vertex 0 1 0 endloop endfacet\n'.repeat(12)}endsolid x\n`,
    ),
    writeStl(box([1, 2, 3])),
  ]
  let read = 0
  let refused = 0
  let slowest = 0
  for (let n = 0; n < 3000; n++) {
    const seed = seeds[n % seeds.length]
    const from = Math.floor(random.next() * seed.length)
    const bytes = n % 3 === 0 ? seed.slice(0, from) : seed.slice()
    for (let k = 0; k < 1 + (n % 5) && bytes.length > 0; k++)
      bytes[Math.floor(random.next() * bytes.length)] = Math.floor(random.next() * 256)
    if (n % 7 === 0 && bytes.length > 8) bytes.copyWithin(Math.floor(random.next() * bytes.length), from)
    const start = performance.now()
    try {
      const { mesh } = openMesh(bytes)
      read++
      expect(mesh.corners.length).toBeGreaterThan(0)
      for (const corner of mesh.corners)
        if (corner >= mesh.positionsMm.length / 3)
          throw new Error(`corner ${corner} of ${mesh.positionsMm.length / 3}`)
      for (let c = 0; c < mesh.corners.length; c++)
        if (!Number.isFinite(mesh.positionsMm[3 * mesh.corners[c]]))
          throw new Error('a corner that is no place')
    } catch (error) {
      if (!(error instanceof TenderError)) throw error
      expect(error.message).toMatch(/\.$/)
      refused++
    }
    slowest = Math.max(slowest, performance.now() - start)
  }
  expect(read).toBeGreaterThan(300)
  expect(refused).toBeGreaterThan(300)
  expect(slowest).toBeLessThan(2000)
})
