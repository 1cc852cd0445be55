import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, jest, test } from '@jest/globals'
import { strFromU8, unzipSync } from 'fflate'
import { weldTriangles, writeStl, type Mesh } from '@tender/core/mesh'
import { ROLES } from '@tender/core/print'
import { polygonEngine } from '@tender/core/node'
import { createPlanner } from '@tender/core/plan'
import { boxes, readGcode, sphere } from '@tender/core/testing'
import { summaryJson } from '@tender/contract'
import { openPart } from './files'
import { planFile } from './planFile'
import { tender as run } from './tender'

const BIN = join(process.cwd(), 'cli/bin/tender.mjs')
let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'tender-cli-'))
  writeFileSync(
    at('table.stl'),
    writeStl(
      boxes([
        { size: [4, 4, 10], at: [8, 8, 0] },
        { size: [20, 20, 2], at: [0, 0, 10] },
      ]),
    ),
  )
})
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string) => join(folder, name)
/** The program as a user starts it. */
const started = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], { encoding: 'utf8' })
  return { status, stdout, stderr }
}
/** The same in this process, which spares a start for every line. */
async function tender(...args: string[]): Promise<{ status: number; stdout: string; stderr: string }> {
  const said = { stdout: '', stderr: '' }
  const spies = (['stdout', 'stderr'] as const).map((out) =>
    jest.spyOn(process[out], 'write').mockImplementation((text) => ((said[out] += String(text)), true)),
  )
  const before = process.exitCode
  process.exitCode = 0
  try {
    await run(args)
    return { ...said, status: Number(process.exitCode ?? 0) }
  } finally {
    for (const spy of spies) spy.mockRestore()
    process.exitCode = before
  }
}
const json = async (...args: string[]) => JSON.parse((await tender(...args, '--json')).stdout)

describe('tender print', () => {
  test('writes the whole plan: plastic, swaps and gaps read back as planned, every move on the bed', async () => {
    writeFileSync(
      at('two.json'),
      JSON.stringify({
        filaments: [{ name: 'A' }, { name: 'B', family: 'PETG' }],
        printer: { swapGcode: 'T{tool}\nG1 E{purgeLength} F300' },
        decisions: { upperGapMm: 0.13, marginMm: 0 },
      }),
    )
    const told = await json('print', at('table.stl'), '--plan', at('two.json'), '--out', at('t.gcode'))
    const text = readFileSync(at('t.gcode'), 'utf8')
    const read = readGcode(text, 1.75)
    expect(told.bytes).toBe(text.length)
    const plan = await json('plan', at('table.stl'), '--plan', at('two.json'))
    const laid = told.filaments.reduce((sum: number, { mm3 }: { mm3: number }) => sum + mm3, 0)
    const purged = plan.roles.purge.mm3
    expect(purged).toBe(told.swaps * 15)
    expect(Math.abs(read.mm3 / (laid - purged) - 1)).toBeLessThan(0.005)
    expect([read.swaps, told.swaps]).toEqual([plan.swaps, plan.swaps])
    expect(Math.abs(told.timeS / plan.timeS - 1)).toBeLessThan(1e-3)
    expect(read.lowTravels).toEqual([])
    expect(read.bounds.minX).toBeGreaterThan(0)
    expect(read.bounds.maxX).toBeLessThan(220)
    expect(Math.abs(read.bounds.minX + read.bounds.maxX - 220)).toBeLessThan(0.5)
    // The interface ends the gap below the plate, which begins at 10 mm.
    const tops = [...text.matchAll(/^; layer .* z ([\d.]+) mm.*\n; interface/gm)].map(([, z]) => Number(z))
    expect(Math.max(...tops)).toBeCloseTo(9.87, 6)
    expect(told.warnings).toEqual(plan.warnings)
    expect(text).toContain('G1 E6.236 F300')
    // From where they are loaded, be it the other way round.
    expect(told.filaments.map(({ tool }: { tool: number }) => tool)).toEqual([0, 1])
    const round = ['print', at('table.stl'), '--plan', at('two.json'), '--out', at('r.gcode'), '--loaded']
    await json(...round, 'B', 'A')
    const other = await json('read', at('r.gcode'), '--plan', at('two.json'))
    expect(other.tools.map(({ name }: { name: string }) => name)).toEqual(['B', 'A'])
    expect(other.differences).toEqual([])
    expect(await tender(...round, '-', 'B', 'A')).toMatchObject({
      status: 1,
      stderr: expect.stringMatching(/^--loaded names 3 filaments; .* takes 2 at once\.\n$/),
    })
  })

  test('variants of a part on one bed: one file, each with its dots, and each with its own gap in it', async () => {
    for (const [name, upperGapMm] of [
      ['tight', 0.12],
      ['wide', 0.3],
    ] as const)
      writeFileSync(at(`${name}.json`), JSON.stringify({ name, decisions: { upperGapMm } }))
    const told = await json(
      'print',
      at('table.stl'),
      '--plan',
      at('tight.json'),
      '--beside',
      at('wide.json'),
      '--out',
      at('bed.gcode'),
    )
    expect(told.variants).toMatchObject([
      { name: 'tight', dots: 1 },
      { name: 'wide', dots: 2 },
    ])
    const read = await json('read', at('bed.gcode'))
    const gaps = read.gaps.map(({ gapMm }: { gapMm: number }) => gapMm)
    for (const wanted of [0.12, 0.3])
      expect(gaps.some((gapMm: number) => Math.abs(gapMm - wanted) < 0.005)).toBe(true)
    const same = await tender(
      'print',
      at('table.stl'),
      '--plan',
      at('wide.json'),
      '--beside',
      at('wide.json'),
      '--out',
      at('bed.gcode'),
    )
    expect([same.status, same.stderr]).toEqual([1, expect.stringContaining('same name')])
  })

  test('what a take-off teaches, with ladders beside it; what is none is refused in one sentence', async () => {
    const document = JSON.parse((await tender('plan', '--print-defaults')).stdout)
    const [{ id: filament }] = document.filaments
    const contact = (n: number) => ({
      key: `c${n}`,
      atMm: [0, 0, 10],
      kind: 'flat',
      access: 'open',
      areaMm2: 40,
      gapMm: 0.2,
      achievedGapMm: 0.2,
      interfaceSpacingMm: 0,
      interfaceLayers: 3,
      touching: filament,
      bulk: filament,
      guessed: 'surely',
      neckMm: null,
      outline: [],
    })
    const note = (atKey: string, changes: object) => ({
      at: atKey,
      revision: 1,
      release: null,
      finish: null,
      stayed: null,
      specks: null,
      damage: null,
      damageWhere: '',
      leftOut: false,
      note: '',
      tool: null,
      minutes: null,
      partG: null,
      wasteG: null,
      ...changes,
    })
    const takeOff = {
      format: 'tender-take-off',
      version: 1,
      name: 'Plate',
      printedOn: '2026-11-20',
      damp: false,
      lessonsLeftOut: [],
      document,
      printed: {
        contacts: [1, 2, 3].map(contact),
        moreContacts: 0,
        silhouette: [],
        minutes: 3,
        timeS: 3600,
        heightMm: 20,
        grams: [{ filament, partG: 30, wasteG: 10 }],
      },
      notes: [
        note('c1', { release: 5, stayed: 'all' }),
        note('c2', { release: 5 }),
        note('whole', { minutes: 9, partG: 33 }),
      ],
    }
    writeFileSync(at('take-off.json'), JSON.stringify(takeOff))
    writeFileSync(
      at('ladder.csv'),
      'trial,gapMm,spacingMm,release,finish\n' + [0.1, 0.2, 0.3].map((gap) => `L,${gap},0,1,1`).join('\n'),
    )
    const alone = await json('learn', at('take-off.json'))
    expect(alone.pairings[0]).toMatchObject({
      readings: 2,
      sentence: expect.stringContaining('one take-off'),
    })
    expect(alone.followed).toMatchObject([{ came: 0, stayed: 1 }])
    expect(alone.grams[0].factor.median).toBeGreaterThan(1.05)
    expect(alone.minutes.factor.median).toBeGreaterThan(1.8)
    const both = await json('learn', at('take-off.json'), '--ladders', at('ladder.csv'))
    expect(both.pairings[0].readings).toBe(5)
    expect(both.pairings[0].releaseThresholdMm.median).toBeLessThan(
      alone.pairings[0].releaseThresholdMm.median,
    )
    writeFileSync(at('bad.json'), JSON.stringify({ ...takeOff, notes: [note('c1', { release: 9 })] }))
    const bad = await tender('learn', at('bad.json'))
    expect([bad.status, bad.stderr]).toEqual([
      1,
      expect.stringContaining('"notes.0.release" must be at most 5.'),
    ])
  })

  test('reads a file back, held against a plan, and refuses what is none', async () => {
    writeFileSync(at('read.json'), JSON.stringify({ decisions: { upperGapMm: 0.13 } }))
    await json('print', at('table.stl'), '--plan', at('read.json'), '--out', at('read.gcode'))
    const read = await json('read', at('read.gcode'), '--plan', at('read.json'))
    expect(read).toMatchObject({ swaps: 0, differences: [], unknown: {}, tools: [{ tool: 0 }] })
    expect(read.gaps[0]).toMatchObject({ gapMm: 0.13, zMm: 10 })
    const plan = await json('plan', at('table.stl'), '--plan', at('read.json'))
    expect(Math.abs(read.tools[0].g / plan.massG - 1)).toBeLessThan(0.005)
    expect((await tender('read', at('table.stl'))).stderr).toMatch(/not text|no G-code/)
    expect((await tender('read', at('none.gcode'))).stderr).toBe(`There is no file "${at('none.gcode')}".\n`)
    expect((await tender('read', folder)).stderr).toBe(`"${folder}" is a folder, not a file.\n`)
  })

  test('a swap block that does not purge is told; a print that does not fit leaves no file behind', async () => {
    writeFileSync(
      at('dry.json'),
      JSON.stringify({ filaments: [{ name: 'A' }, { name: 'B', family: 'PETG' }] }),
    )
    const told = await json('print', at('table.stl'), '--plan', at('dry.json'), '--out', at('t.gcode'))
    expect(told.warnings).toContainEqual(expect.objectContaining({ code: 'NOT_PURGED' }))
    const { status, stderr } = await tender(
      'print',
      at('table.stl'),
      '--scale',
      '20',
      '--out',
      at('large.gcode'),
    )
    expect(status).toBe(1)
    expect(stderr).toContain('off the bed')
    expect(existsSync(at('large.gcode'))).toBe(false)
  })
})

/** A stem under a head whose rim goes in and out, so that no corner of it may be left out. */
function fluted(corners: number): Mesh {
  const ring = (r: number) =>
    Array.from({ length: corners }, (_, k): [number, number] => {
      const [turn, out] = [(2 * Math.PI * k) / corners, r * (1 + 0.02 * (k % 2))]
      return [out * Math.cos(turn), out * Math.sin(turn)]
    })
  const rings = [4, 4, 40, 40].map(ring)
  const heights = [0, 12, 12, 24]
  const soup: number[] = []
  for (let k = 0; k < corners; k++) {
    const next = (k + 1) % corners
    const at = (level: number, i: number) => [...rings[level][i], heights[level]]
    for (let level = 0; level < 3; level++) {
      soup.push(...at(level, k), ...at(level, next), ...at(level + 1, next))
      soup.push(...at(level, k), ...at(level + 1, next), ...at(level + 1, k))
    }
    soup.push(0, 0, 0, ...at(0, next), ...at(0, k), 0, 0, 24, ...at(3, k), ...at(3, next))
  }
  return weldTriangles(Float32Array.from(soup))
}

describe('tender plan', () => {
  test('an open part still gives its numbers and its stands, one in metres is asked after, and folders get their own sentence', async () => {
    const open = boxes([
      { size: [4, 4, 10], at: [8, 8, 0] },
      { size: [20, 20, 2], at: [0, 0, 10] },
    ])
    writeFileSync(at('open.stl'), writeStl({ ...open, corners: open.corners.slice(0, -3) }))
    const result = await json('plan', at('open.stl'), '--out', at('open.3mf'))
    expect(result.contacts).toHaveLength(1)
    expect(result.warnings.map(({ code }: { code: string }) => code)).toContain('PART_LEFT_OUT')
    const model = strFromU8(unzipSync(readFileSync(at('open.3mf')))['3D/3dmodel.model'])
    expect(model.match(/<object [^>]*name="(Part|Stand|Interface)"/g)).toHaveLength(2)
    expect(model).toMatch(/<metadata name="Description">Tops of support layers in mm: 0.2 0.4 .* 9.8</)

    writeFileSync(
      at('metres.stl'),
      writeStl({ ...open, positionsMm: open.positionsMm.map((value) => value / 1000) }),
    )
    const asked = 'Ask for --scale 1000 if so.'
    for (const command of ['plan', 'part', 'relief'])
      expect((await tender(command, at('metres.stl'))).stderr).toContain(asked)
    expect((await json('poses', at('metres.stl'))).notes).toEqual([expect.stringContaining(asked)])
    expect((await json('plan', at('metres.stl'), '--scale', '1000')).heightMm).toBe(12)
    expect((await tender('plan', folder)).stderr).toBe(`"${folder}" is a folder, not a file.\n`)
    expect((await tender('plan', at('table.stl'), '--out', at('none/x.3mf'))).stderr).toBe(
      `There is no folder "${at('none')}".\n`,
    )
    writeFileSync(at('marked.json'), '\uFEFF{"decisions":{"upperGapMm":0.25}}')
    expect((await json('plan', at('table.stl'), '--plan', at('marked.json'))).contacts[0].gapMm).toBe(0.25)
    expect((await tender('coupon', 'gap', '--steps', '0.1,,0.2')).stderr).toContain(
      'Write numbers with commas',
    )
  })

  test('prints the numbers of a plan, keys with their units', async () => {
    const result = await json('plan', at('table.stl'))
    expect(result).toMatchObject({
      part: { triangles: 24, watertight: true },
      layers: 60,
      heightMm: 12,
      swaps: 0,
      swapLayers: 0,
      islands: [],
      warnings: [],
    })
    expect(result.part.volumeMm3).toBeCloseTo(960, 1)
    expect(result.contacts).toEqual([expect.objectContaining({ zMm: 10, gapMm: 0.2, achievedGapMm: 0.2 })])
    expect(Object.keys(result.roles).sort()).toEqual([...ROLES].sort())
    const grams = result.filaments.reduce((sum: number, one: { g: number }) => sum + one.g, 0)
    expect(Object.values<{ g: number }>(result.roles).reduce((sum, role) => sum + role.g, 0)).toBeCloseTo(
      grams,
      3,
    )
    expect(result.timeS).toBeGreaterThan(60)
  })

  test('says how each stand comes off, and takes kinds of stands and exceptions from a plan file', async () => {
    writeFileSync(at('straight.json'), JSON.stringify({ decisions: { placement: 'bed' } }))
    const straight = await json('plan', at('table.stl'), '--plan', at('straight.json'))
    // It stands round the leg and leaves over its foot.
    expect(straight.release).toMatchObject({
      verdict: 'comes out whole',
      stands: [{ pieces: 1, wayOut: 'down', pullN: null, neckMm: null, reasons: [] }],
    })
    writeFileSync(
      at('branching.json'),
      JSON.stringify({
        decisions: { placement: 'bed', standKind: 'branching' },
        exceptions: [{ where: { kind: 'flat' }, upperGapMm: 0.3 }],
        posts: [{ atMm: [2, 2, 10], widthMm: 3 }],
      }),
    )
    const branching = await json('plan', at('table.stl'), '--plan', at('branching.json'))
    expect(branching.contacts[0].achievedGapMm).toBe(0.3)
    expect(branching.roles.stand.g).toBeLessThan(straight.roles.stand.g)
  })

  test('takes a plan file with any of its fields, and a whole one printed by --print-defaults changes nothing', async () => {
    writeFileSync(
      at('plan.json'),
      JSON.stringify({
        decisions: { upperGapMm: 0.13, interfaceLayers: 2 },
        filaments: [{ name: 'Chalk' }, { name: 'Moss', family: 'PETG' }],
      }),
    )
    const result = await json('plan', at('table.stl'), '--plan', at('plan.json'))
    expect(result.contacts[0]).toMatchObject({ gapMm: 0.13, achievedGapMm: 0.13 })
    expect(result.swaps).toBeGreaterThan(0)
    writeFileSync(at('defaults.json'), (await tender('plan', '--print-defaults')).stdout)
    expect(await json('plan', at('table.stl'), '--plan', at('defaults.json'))).toEqual(
      await json('plan', at('table.stl')),
    )
  })

  test('a part heavy enough for a thread beside has the same numbers as without, both bodies, and the program ends', async () => {
    const mushroom = fluted(1200)
    writeFileSync(at('mushroom.stl'), writeStl(mushroom))
    const { status, stdout, stderr } = started(
      'plan',
      at('mushroom.stl'),
      '--json',
      '--out',
      at('mushroom.3mf'),
    )
    expect([status, stderr]).toEqual([0, ''])
    const told = JSON.parse(stdout)
    const { mesh } = openPart(at('mushroom.stl'))
    const alone = createPlanner(await polygonEngine())
    const { summary, geometry } = await alone.plan('mushroom', mesh, planFile(undefined))
    // From so many points on lines are traced beside.
    expect(geometry.layers.reduce((n, { region }) => n + region.xyMm.length / 2, 0)).toBeGreaterThan(100_000)
    expect(told.layers).toBe(120)
    expect(told.roles).toEqual(summaryJson(summary).roles)
    expect(told.timeS).toBe(summaryJson(summary).timeS)
    // One body was made here, the other beside: both are in the file.
    const model = strFromU8(unzipSync(readFileSync(at('mushroom.3mf')))['3D/3dmodel.model'])
    expect([...model.matchAll(/<object [^>]*name="([^"]+)"/g)].map(([, name]) => name)).toEqual([
      'Part',
      'Stand',
      'Interface',
      'Plan',
    ])
  })

  test('writes the bodies as 3MF', async () => {
    expect((await tender('plan', at('table.stl'), '--out', at('table.3mf'))).status).toBe(0)
    const model = strFromU8(unzipSync(readFileSync(at('table.3mf')))['3D/3dmodel.model'])
    for (const name of ['Part', 'Stand', 'Interface']) expect(model).toContain(`name="${name}"`)
  })

  test('refuses with one sentence and exit code 1, as JSON when asked', async () => {
    writeFileSync(at('empty.stl'), '')
    writeFileSync(at('text.stl'), 'not a mesh at all')
    writeFileSync(at('bad.json'), '{ "decisions": { "upperGapMm": 99 } }')
    writeFileSync(at('broken.json'), '{ nope')
    const cases: [string[], string][] = [
      [['plan', at('empty.stl')], 'The file is empty'],
      [['plan', at('text.stl')], 'does not start with "solid"'],
      [['plan', at('missing.stl')], 'There is no file'],
      [['plan', folder], 'is a folder'],
      [['plan', at('table.stl'), '--plan', at('bad.json')], '"decisions.upperGapMm" must be at most 2'],
      [['plan', at('table.stl'), '--plan', at('broken.json')], 'is not valid JSON'],
    ]
    for (const [args, sentence] of cases) {
      const { status, stderr, stdout } = await tender(...args, '--json')
      expect(status).toBe(1)
      expect(stderr).toContain(sentence)
      expect(stderr.trim().split('\n')).toHaveLength(1)
      expect(JSON.parse(stdout).error.message).toContain(sentence)
    }
  })

  test('a file cut in half is planned with what is whole, and says so', async () => {
    const whole = writeStl(sphere(6, 32))
    writeFileSync(at('half.stl'), whole.slice(0, whole.length / 2))
    expect(
      (await json('plan', at('half.stl'))).warnings.map((warning: { code: string }) => warning.code),
    ).toEqual(expect.arrayContaining(['FILE_MENDED', 'MESH_OPEN']))
  })
})

describe('tender part, poses and relief', () => {
  test('a part is looked into: facts, what was mended, how it stands, what needs holding', async () => {
    const result = await json('part', at('table.stl'))
    expect(result).toMatchObject({
      part: { triangles: 24, watertight: true },
      standing: { verdict: 'wobbly' },
      islands: [],
      bridges: [],
      notes: [],
      report: { openEdges: 0, duplicates: 0 },
    })
    expect(result.part.slicedMm3).toBeCloseTo(960, 0)
    expect(result.holdMm2).toBeCloseTo(384, 0)
    expect(result.patches).toEqual([expect.objectContaining({ kind: 'flat', access: 'open', lowestMm: 10 })])
    // A zone of the plan file counts.
    writeFileSync(
      at('zoned.json'),
      JSON.stringify({
        zones: [
          {
            id: 'a',
            name: 'Off',
            kind: 'keepOff',
            limitDeg: 90,
            shape: { kind: 'box', minMm: [-1, -1, 5], maxMm: [10, 21, 11] },
          },
        ],
      }),
    )
    expect((await json('part', at('table.stl'), '--plan', at('zoned.json'))).holdMm2).toBeCloseTo(192, 0)
  })

  test('the best pose of a table is upside down', async () => {
    const { poses, sides } = await json('poses', at('table.stl'))
    expect(poses[0]).toMatchObject({ supportMm3: 0, verdict: 'stands', unbeaten: true })
    expect(sides[0]).toMatchObject({ areaMm2: 400, normal: [0, 0, 1] })
  })

  test('reshaped, next to nothing of it needs holding, and the file is closed', async () => {
    for (const [mode, out] of [
      ['add', 'filled.stl'],
      ['cut', 'less.3mf'],
    ] as const) {
      const made = await json('relief', at('table.stl'), '--mode', mode, '--out', at(out))
      expect(mode === 'add' ? made.addedG : made.cutG).toBeGreaterThan(0.1)
      const again = await json('part', at(out))
      expect(again.part.watertight).toBe(true)
      // Edges where two wedges meet lean a little more than the wedges: hairs of 384 mm2.
      expect(again.holdMm2).toBeLessThan(0.06 * 384)
    }
    expect((await json('part', at('table.stl'))).part.volumeMm3).toBeCloseTo(960, 1)
    expect((await tender('relief', at('table.stl'), '--mode', 'melt')).stderr).toContain(
      'it must be add or cut',
    )
  })
})

describe('tender fit', () => {
  test('answers a fan and a ladder in the promised shape', async () => {
    writeFileSync(
      at('fan.csv'),
      `trial,angleDeg,direction,layerHeightMm,lineWidthMm,grade\n${[30, 40, 50, 60, 70].map((angle) => `A,${angle},any,0.2,0.45,${angle < 55 ? 1 : 5}`).join('\n')}\n`,
    )
    const [fan] = await json('fit', at('fan.csv'))
    expect(fan).toMatchObject({ trial: 'A', kind: 'fan' })
    expect(fan.freeAngle.lowDeg).toBeLessThan(fan.freeAngle.medianDeg)
    expect(fan.freeAngle.cautiousDeg).toBeGreaterThan(fan.freeAngle.lowDeg)
    expect(fan.share.median).toBeGreaterThan(0.4)
    writeFileSync(
      at('gap.csv'),
      `trial,gapMm,spacingMm,release,finish,forceN,areaMm2\n${[0, 0.1, 0.2, 0.3, 0.4].map((gap) => `B,${gap},0,${gap < 0.15 ? 5 : 1},${gap > 0.25 ? 5 : 2},,`).join('\n')}\n`,
    )
    const [gap] = await json('fit', at('gap.csv'))
    expect(gap).toMatchObject({ trial: 'B', kind: 'gap' })
    expect(gap.suggestedGapMm).toBeCloseTo(0.2, 1)
    expect(gap.windowMm[0]).toBeLessThan(gap.windowMm[1])
    for (const edge of [gap.releaseThresholdMm, gap.finishThresholdMm])
      expect(edge.low).toBeLessThan(edge.high)
  })

  test('--accept changes what counts as good; bad rows go to the error output by line', async () => {
    writeFileSync(
      at('grades.csv'),
      `trial,angleDeg,direction,layerHeightMm,lineWidthMm,grade\n${[30, 40, 50, 60, 70].map((angle, i) => `A,${angle},any,0.2,0.45,${i + 1}`).join('\n')}\nA,95,any,0.2,0.45,1\n`,
    )
    const strict = (await json('fit', at('grades.csv'), '--accept', '1'))[0]
    const mild = (await json('fit', at('grades.csv'), '--accept', '4'))[0]
    expect(mild.freeAngle.medianDeg).toBeGreaterThan(strict.freeAngle.medianDeg + 5)
    expect((await tender('fit', at('grades.csv'))).stderr).toContain('Line 7 has angleDeg 95')
    expect((await tender('fit', at('grades.csv'), '--accept', '9')).status).not.toBe(0)
    expect(await tender('fit', at('table.stl'), '--json')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('The header lacks'),
    })
  })

  test('answers bridges, purges and combs too', async () => {
    writeFileSync(
      at('span.csv'),
      `trial,spanMm,grade\n${[5, 10, 20, 30, 40].map((span) => `S,${span},${span < 25 ? 1 : 5}`).join('\n')}\n`,
    )
    const [span] = await json('fit', at('span.csv'))
    expect(span).toMatchObject({ kind: 'span', readings: 5 })
    expect(span.freeSpanMm.cautious).toBeLessThan(span.freeSpanMm.median)
    expect(Math.abs(span.freeSpanMm.median - 24.5)).toBeLessThan(3)
    writeFileSync(
      at('purge.csv'),
      `trial,volumeMm3,swap,grade\n${[5, 4, 3, 2, 1].map((grade, i) => `P,${50 * (i + 1)},AB,${grade}`).join('\n')}\n`,
    )
    const [purge] = await json('fit', at('purge.csv'))
    expect(purge.swaps).toHaveLength(1)
    expect(purge.swaps[0].volumeMm3.throwAway.median).toBeLessThan(purge.swaps[0].volumeMm3.light.median)
    writeFileSync(
      at('offset.csv'),
      `trial,shiftMm,axis,grade\n${[-0.1, -0.05, 0, 0.05, 0.1].map((shift) => `O,${shift},x,${shift === 0.05 ? 1 : ''}`).join('\n')}\n`,
    )
    const [comb] = await json('fit', at('offset.csv'))
    expect(comb.axes).toEqual([expect.objectContaining({ axis: 'x', readings: 1, atTheEnd: false })])
    expect(comb.axes[0].errorMm.median).toBeCloseTo(-0.05, 1)
    expect((await tender('fit', at('offset.csv'))).stdout).toContain(
      'O: Add X −0.05 mm to the second nozzle’s offset',
    )
  })
})

describe('tender coupon', () => {
  test('makes a coupon, says what it takes, and writes it by the ending of the name', async () => {
    for (const kind of ['purge', 'offset']) {
      const result = await json('coupon', kind, '--out', at(`${kind}.gcode`))
      expect(result).toMatchObject({ kind })
      expect(result.timeS).toBeGreaterThan(60)
      const read = readGcode(readFileSync(at(`${kind}.gcode`), 'utf8'), 1.75)
      const mm3 = result.filaments.reduce((sum: number, one: { mm3: number }) => sum + one.mm3, 0)
      expect(Math.abs(read.mm3 / mm3 - 1)).toBeLessThan(0.01)
      expect(read.lowTravels).toEqual([])
    }
    expect((await tender('coupon', 'gap', '--steps', '0,0.1', '--out', at('gap.3mf'))).stdout).toMatch(
      /^gap: 2 steps, 32 x 14 x \d mm/,
    )
    expect(strFromU8(unzipSync(readFileSync(at('gap.3mf')))['3D/3dmodel.model'])).toContain(
      'name="Interface, Support PETG"',
    )
    expect((await tender('coupon', 'gap', '--out', at('gap.zip'))).status).toBe(0)
    expect(Object.keys(unzipSync(readFileSync(at('gap.zip')))).sort()).toEqual([
      'Interface.stl',
      'Part.stl',
      'Stand.stl',
    ])
    expect((await tender('coupon', 'fan', '--steps', '45', '--out', at('fan.stl'))).status).toBe(0)
  })

  test('takes printer, filaments and conditions from a file, and refuses with one sentence', async () => {
    writeFileSync(
      at('with.json'),
      JSON.stringify({
        printer: { startGcode: '; mine', extrusion: 'absolute' },
        filaments: [{ name: 'Chalk' }, { name: 'Moss', family: 'PETG' }],
        layerHeightMm: 0.15,
        speedMmS: 33,
      }),
    )
    expect(
      (await json('coupon', 'gap', '--with', at('with.json'), '--out', at('mine.gcode'))).filaments.map(
        (one: { name: string }) => one.name,
      ),
    ).toEqual(['Chalk', 'Moss'])
    const text = readFileSync(at('mine.gcode'), 'utf8')
    expect(text).toContain('; mine')
    expect(text).toContain('M82')
    expect([...readGcode(text, 1.75).printSpeeds].sort()).toEqual([25, 33])
    writeFileSync(at('odd.json'), '{ "layerHeight": 0.2 }')
    const cases: [string[], string][] = [
      [['coupon', 'span', '--steps', '10,900'], '"spansMm.1" must be at most 500'],
      [['coupon', 'gap', '--out', at('gap.stl')], 'has 3 bodies, which one STL file cannot hold'],
      [['coupon', 'gap', '--with', at('odd.json')], 'layerHeight'],
    ]
    for (const [args, sentence] of cases) {
      const { status, stderr } = await tender(...args)
      expect(stderr).toContain(sentence)
      expect(stderr.trim().split('\n')).toHaveLength(1)
      expect(status).toBe(1)
    }
    expect((await tender('coupon', 'cube')).stderr).toContain(
      'Allowed choices are fan, span, gap, purge, offset',
    )
  })
})

test('as a program: what is asked for on one output, what is wrong on the other, and the exit code says which', () => {
  const defaults = started('plan', '--print-defaults')
  expect([defaults.status, defaults.stderr, JSON.parse(defaults.stdout).decisions.layerHeightMm]).toEqual([
    0,
    '',
    0.2,
  ])
  expect(started('part', at('missing.stl'))).toEqual({
    status: 1,
    stdout: '',
    stderr: `There is no file "${at('missing.stl')}".\n`,
  })
  const unknown = started('slice', at('table.stl'))
  expect([unknown.status, unknown.stdout]).toEqual([1, ''])
  expect(unknown.stderr).toContain("unknown command 'slice'")
  const help = started('--help')
  expect(help.status).toBe(0)
  for (const command of ['part', 'poses', 'relief', 'plan', 'fit', 'coupon'])
    expect(help.stdout).toMatch(new RegExp(`^  ${command} `, 'm'))
})
