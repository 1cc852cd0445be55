import { beforeAll, describe, expect, test } from '@jest/globals'
import {
  applyPlacing,
  mendMesh,
  openMesh,
  turnAbout,
  UPRIGHT,
  type Mesh,
  type SolidEngine,
} from '@tender/core/mesh'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { createPlanner, type Planner } from '@tender/core/plan'
import { DEFAULT_PLAN, type PlanDocument } from '@tender/core/decide'
import type { PolygonEngine } from '@tender/core/polygon'
import { box, boxes, closeTo, join, sphere } from '@tender/core/testing'
import { drawPart, growTree, partOf, reportNeeds, reshape, reshapedFile, woundsOf } from './partWork'

let polygons: PolygonEngine
let solids: SolidEngine
let planner: Planner
beforeAll(async () => {
  ;[polygons, solids] = await Promise.all([polygonEngine(), solidEngine()])
  planner = createPlanner(polygons)
})

const document: PlanDocument = {
  ...DEFAULT_PLAN,
  decisions: { ...DEFAULT_PLAN.decisions, layerHeightMm: 0.2, firstLayerHeightMm: 0.2, freeAngleDeg: 45 },
}
/** A plate on a post: everything but the post hangs. */
const table = boxes([
  { size: [4, 4, 10], at: [8, 8, 0] },
  { size: [20, 20, 2], at: [0, 0, 10] },
])
const needsOf = (mesh: Mesh, key: string) => planner.needs(key, mesh, document)
const still = () => undefined

describe('a part as it is drawn', () => {
  test('nine numbers a triangle, as it lies, with its size', () => {
    const { positions, rough, others, sizeMm, ownBox } = drawPart(
      box([10, 20, 30]),
      { turn: turnAbout([1, 0, 0], 90), scale: 2 },
      [],
    )
    expect(positions).toHaveLength(12 * 9)
    expect([rough, others]).toEqual([null, null])
    sizeMm.forEach((side, axis) => closeTo(side, [20, 60, 40][axis], 1e-6))
    expect(ownBox.max).toEqual([10, 20, 30])
    expect(Math.min(...positions.filter((_, i) => i % 3 === 2))).toBeCloseTo(0, 5)
  })

  test('a heavy one comes with a rougher copy of the same extent', () => {
    const { positions, rough } = drawPart(sphere(20, 420), UPRIGHT, [])
    expect(positions.length / 9).toBeGreaterThan(150_000)
    expect(rough!.length).toBeLessThan(positions.length / 2)
    closeTo(
      rough!.reduce((most, value) => Math.max(most, value), 0),
      40,
      0.6,
    )
  })

  test('bodies that are no part stand apart and do not count for its size', () => {
    const mesh: Mesh = {
      ...join([box([10, 10, 10]), box([3, 3, 30], [20, 0, 0])]),
      bodies: [
        { name: 'part', from: 0, to: 12 },
        { name: 'stand', from: 12, to: 24 },
      ],
    }
    const { positions, others, sizeMm } = drawPart(mesh, UPRIGHT, ['part', 'stand'])
    expect([positions.length, others!.length]).toEqual([12 * 9, 12 * 9])
    expect(sizeMm).toEqual([10, 10, 10])
    // Where nothing is left as part, the whole file is shown rather than nothing.
    expect(partOf(mesh, ['stand', 'stand'])).toBe(mesh)
  })

  test('the tree of its triangles leaves them where they are', () => {
    const { positions } = drawPart(sphere(5, 40), UPRIGHT, [])
    const before = positions.slice()
    const tree = growTree(positions)
    expect(positions).toEqual(before)
    expect((tree.roots as ArrayBuffer[])[0].byteLength).toBeGreaterThan(100)
  })
})

describe('what is wrong with it', () => {
  test('open edges and turned triangles are where the part lies, not where the file has them', () => {
    const whole = box([10, 10, 10], [50, 0, 0])
    const corners = whole.corners.slice(0, -3)
    ;[corners[0], corners[1]] = [corners[1], corners[0]]
    const { mesh, report } = mendMesh({ ...whole, corners })
    const wounds = woundsOf(mesh, report, { turn: UPRIGHT.turn, scale: 2 }, [])!
    expect(wounds.report).toMatchObject({ openEdges: 3, turnedTriangles: 1 })
    expect(wounds.openEdges).toHaveLength(3 * 6)
    expect(wounds.turned).toHaveLength(9)
    // Twice as large it is 20 mm wide, in the middle of the bed and standing on it; in the file it is 50 mm
    // away.
    const [x, y, z] = [0, 1, 2].map((axis) =>
      [...wounds.openEdges, ...wounds.turned].filter((_, i) => i % 3 === axis),
    )
    for (const value of [...x, ...y]) closeTo(Math.abs(value), 10, 1e-4)
    for (const value of z) expect([0, 20]).toContainEqual(Math.round(value * 1e4) / 1e4)
    expect(woundsOf(mesh, null, UPRIGHT, [])).toBeNull()
  })

  test('shells in one another are outlined at their heights', async () => {
    const crossed = boxes([
      { size: [10, 10, 6], at: [0, 0, 0] },
      { size: [10, 10, 8], at: [5, 0, 2] },
    ])
    const { overlap } = reportNeeds(await needsOf(crossed, 'crossed'))
    expect(overlap!.sentence).toContain('0.2 cm³, from 2.0 to 6.0 mm up')
    const heights = [...overlap!.outlines].filter((_, i) => i % 3 === 2)
    expect([Math.min(...heights) > 2, Math.max(...heights) < 6]).toEqual([true, true])
    expect(overlap!.outlines.length % 6).toBe(0)
    expect(reportNeeds(await needsOf(box([10, 10, 4]), 'box')).overlap).toBeNull()
  })
})

describe('what needs holding, small enough to be sent', () => {
  test('areas, heights and places agree with the shape', async () => {
    const report = reportNeeds(await needsOf(table, 'table'))
    closeTo(report.holdMm2, 400 - 16, 2)
    expect(report.patches).toMatchObject([{ kind: 'flat', access: 'open' }])
    closeTo(report.patches[0].lowestMm, 10, 1e-6)
    closeTo(report.slicedMm3, 160 + 800, 1)
    expect([report.layers, report.undersides, report.islands.length]).toEqual([60, 1, 0])
    expect(() => structuredClone(report)).not.toThrow()
  })
})

describe('reshaping', () => {
  test.each(['add', 'cut'] as const)(
    'what %s changes is told in volume and grams, and drawn',
    async (mode) => {
      const needs = await needsOf(table, 'table')
      const report = await reshape(needs, document, mode, polygons, solids, still)
      const changed = mode === 'add' ? report.addedMm3 : report.cutMm3
      expect(mode === 'add' ? report.cutMm3 : report.addedMm3).toBeCloseTo(0, 1)
      expect(changed).toBeGreaterThan(100)
      const density = document.filaments.find(
        ({ name }) => name === document.decisions.partFilament,
      )!.densityGcm3
      closeTo(report.grams, (changed * density) / 1000, 1e-6)
      expect(report.positions.length % 9).toBe(0)
      expect(report.layers).toBeGreaterThan(5)
    },
  )

  test('a part that needs nothing stays as it is, and nothing is drawn', async () => {
    const report = await reshape(
      await needsOf(box([10, 10, 4]), 'box'),
      document,
      'add',
      polygons,
      solids,
      still,
    )
    expect([report.addedMm3, report.layers, report.positions.length]).toEqual([0, 0, 0])
  })

  test.each(['stl', '3mf'] as const)(
    'the file (%s) is a closed part that needs nothing any more',
    async (form) => {
      const bytes = await reshapedFile(
        await needsOf(table, 'table'),
        document,
        'add',
        form,
        'Table',
        polygons,
        solids,
        still,
      )
      const { mesh, report } = openMesh(bytes)
      expect(report.openEdges).toBe(0)
      const after = reportNeeds(await planner.needs(`after ${form}`, mesh, document))
      expect(after.holdMm2).toBeLessThan(0.07 * 384)
      closeTo(after.heightMm, 12, 0.01)
    },
  )

  test('stopping in the middle stops it', async () => {
    const needs = await needsOf(table, 'table')
    const stop = () => {
      throw new Error('stopped')
    }
    await expect(reshape(needs, document, 'add', polygons, solids, stop)).rejects.toThrow('stopped')
  })
})

test('laying a mesh and laying its drawing are the same', async () => {
  const { posed, placing } = await needsOf(table, 'table')
  expect([...applyPlacing(table, placing).positionsMm]).toEqual([...posed.positionsMm])
})
