import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { findOverhangs } from '../overhang'
import { supportPaths } from '../path'
import { isEmptyRegion, regionAreaMm2, type PolygonEngine } from '../polygon'
import { sliceMesh } from '../slice'
import type { Mesh } from '../mesh'
import { boxes, closeTo, cone } from '../testing'
import { straightStands, supportPasses, type StandOptions, type SupportOptions } from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

const STANDS: StandOptions = { placement: 'bed', sideGapMm: 0.5, lowerGapMm: 0.2, marginMm: 0, lineWidthMm: 0.45, footingLines: 0 }
const PASSES: SupportOptions = { upperGapMm: 0.2, interfaceLayers: 2, stackMode: 'own', thicknessMm: [0.1, 0.3], lineWidthMm: 0.45 }

async function supportsOf(mesh: Mesh, stand: Partial<StandOptions> = {}, pass: Partial<SupportOptions> = {}) {
  const { layers } = await sliceMesh(mesh, engine, { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 })
  const overhangs = await findOverhangs(layers, engine, { freeAngleDeg: 45, lineWidthMm: 0.45 })
  const stands = await straightStands(layers, overhangs, engine, { ...STANDS, ...stand })
  return { layers, overhangs, stands, ...(await supportPasses(layers, stands, engine, { ...PASSES, ...pass })) }
}

/** A wall with a shelf 10 mm up, 8 mm deep and 20 wide. */
const shelf = boxes([
  { size: [4, 20, 14], at: [0, 0, 0] },
  { size: [12, 20, 2], at: [0, 0, 10] },
])

describe('straight stands', () => {
  test('keep the side gap from an upright wall all the way up', async () => {
    const { stands, layers } = await supportsOf(shelf)
    // Below the shelf: 8 mm less the side gap, 20 mm wide.
    for (const index of [5, 25, 48]) closeTo(regionAreaMm2(stands.columns[index]), 7.5 * 20, 0.2)
    const apart = regionAreaMm2(engine.common(engine.grow(layers[20].region, 0.49), stands.columns[20]))
    closeTo(apart, 0, 1e-3)
  })

  test('reach right under a slope although the part is near there, and keep away from the wall below it', async () => {
    const mesh = cone(60, 8, 10)
    const { stands, overhangs } = await supportsOf(mesh)
    const wanted = overhangs.patches.reduce((sum, patch) => sum + patch.areaMm2, 0)
    const held = [...stands.heldMm2[0].values()].reduce((a, b) => a + b, 0)
    expect(held).toBeGreaterThan(0.9 * wanted)
  })

  test('a margin widens them, a footing rings them on the bed alone', async () => {
    const plain = await supportsOf(shelf)
    const wide = await supportsOf(shelf, { marginMm: 1, footingLines: 3 })
    // A millimetre more on three sides; the fourth is kept off by the wall.
    closeTo(regionAreaMm2(wide.stands.columns[10]), 8.5 * 22, 1.5)
    expect(regionAreaMm2(wide.stands.footing)).toBeGreaterThan(2 * 1.35 * 20)
    expect(isEmptyRegion(plain.stands.footing)).toBe(true)
    expect(regionAreaMm2(engine.common(wide.stands.footing, wide.stands.columns[0]))).toBeLessThan(0.01)
    expect(wide.passes.filter((pass) => pass.role === 'footing')).toHaveLength(1)
  })

  test('on the part they leave the lower gap free', async () => {
    const twoShelves = boxes([{ size: [4, 20, 24], at: [0, 0, 0] }, { size: [12, 20, 2], at: [0, 0, 6] }, { size: [12, 20, 2], at: [0, 0, 18] }]) // prettier-ignore
    const { passes } = await supportsOf(twoShelves, { placement: 'anywhere', lowerGapMm: 0.4 })
    const upper = passes.filter((pass) => pass.bottomMm > 8.1)
    expect(upper.length).toBeGreaterThan(20)
    closeTo(Math.min(...upper.map((pass) => pass.bottomMm)), 8.4, 1e-6)
    const bedOnly = await supportsOf(twoShelves, { placement: 'bed' })
    expect(bedOnly.passes.filter((pass) => pass.bottomMm > 8.1)).toHaveLength(0)
  })
})

describe('passes', () => {
  test('interface layers end at the gap, the stand below them, nothing between', async () => {
    const { passes } = await supportsOf(shelf, {}, { upperGapMm: 0.13, interfaceLayers: 3 })
    const touching = passes.filter((pass) => pass.role === 'interface')
    expect(touching).toHaveLength(3)
    closeTo(touching.at(-1)!.topMm, 10 - 0.13, 1e-9)
    const stand = passes.filter((pass) => pass.role === 'stand')
    closeTo(stand.at(-1)!.topMm, touching[0].bottomMm, 1e-9)
    expect(passes.map((pass) => pass.topMm)).toEqual(passes.map((pass) => pass.topMm).sort((a, b) => a - b))
  })

  test('what was remembered for one gap is right for another', async () => {
    const { layers, stands } = await supportsOf(cone(62, 6, 8))
    const memo = new Map()
    for (const upperGapMm of [0.2, 0.1, 0.3, 0.2]) {
      const warm = await supportPasses(layers, stands, engine, { ...PASSES, upperGapMm }, memo)
      const cold = await supportPasses(layers, stands, engine, { ...PASSES, upperGapMm })
      expect(warm.passes.map((pass) => [pass.role, pass.bottomMm, pass.topMm, regionAreaMm2(pass.region)])).toEqual(
        cold.passes.map((pass) => [pass.role, pass.bottomMm, pass.topMm, regionAreaMm2(pass.region)]),
      )
    }
    expect(memo.size).toBeGreaterThan(20)
  })
})

describe('lines', () => {
  const angleOf = (xyMm: Float64Array) => Math.abs((Math.atan2(xyMm[3] - xyMm[1], xyMm[2] - xyMm[0]) * 180) / Math.PI) % 180
  const lengthOf = ({ xyMm, starts }: { xyMm: Float64Array; starts: Uint32Array }) => {
    let sum = 0
    for (let p = 0; p + 1 < starts.length; p++) for (let i = starts[p] + 1; i < starts[p + 1]; i++) sum += Math.hypot(xyMm[2 * i] - xyMm[2 * i - 2], xyMm[2 * i + 1] - xyMm[2 * i - 1])
    return sum
  }
  const paths = { lineWidthMm: 0.45, standDensity: 0.2, interfaceSpacingMm: 0, interfaceDirection: 'across' as const }

  test('interface lines cross the part’s first lines above, or run along them', async () => {
    const { passes } = await supportsOf(shelf)
    const touching = passes.find((pass) => pass.role === 'interface')!
    // The part's lines lie at 45 degrees on even layers and at -45 on odd ones.
    expect(angleOf(supportPaths(touching, 50, engine, paths).xyMm)).toBeCloseTo(135, 3)
    expect(angleOf(supportPaths(touching, 51, engine, paths).xyMm)).toBeCloseTo(45, 3)
    expect(angleOf(supportPaths(touching, 50, engine, { ...paths, interfaceDirection: 'along' }).xyMm)).toBeCloseTo(45, 3)
  })

  test('density and spacing are what the lines cover; on the bed a stand is solid', async () => {
    const { passes } = await supportsOf(shelf)
    const stand = passes.filter((pass) => pass.role === 'stand')
    const cover = (pass: (typeof passes)[number], options = paths) => (lengthOf(supportPaths(pass, 50, engine, options)) * 0.45) / regionAreaMm2(pass.region)
    expect(cover(stand[0])).toBeGreaterThan(0.85)
    // A fifth, and the joints between the lines.
    expect(cover(stand[10])).toBeGreaterThan(0.17)
    expect(cover(stand[10])).toBeLessThan(0.34)
    const touching = passes.find((pass) => pass.role === 'interface')!
    closeTo(cover(touching), 0.93, 0.08)
    closeTo(cover(touching, { ...paths, interfaceSpacingMm: 0.45 }), 0.47, 0.06)
  })
})
