import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { plainFilament } from '../bench'
import { newDocument, type NewDocument } from '../decide'
import type { Mesh } from '../mesh'
import { regionAreaMm2, type PolygonEngine } from '../polygon'
import { checkPlastic, cone, join, table } from '../testing'
import { createPlanner } from '.'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const aside = (mesh: Mesh, byMm: number): Mesh => ({
  ...mesh,
  positionsMm: mesh.positionsMm.map((value, i) => value + (i % 3 === 0 ? byMm : 0)),
})
/** A flat underside at 10 mm, and a slope of 60 degrees beside it. */
const both = join([table, aside(cone(60, 4, 3), 50)])

async function planned(mesh: Mesh, more: NewDocument) {
  const document = newDocument({
    filaments: [chalk, moss],
    ...more,
    decisions: { placement: 'anywhere', interfaceFilament: chalk.id, ...more.decisions },
  })
  return createPlanner(engine).plan('part', mesh, document)
}

describe('exceptions', () => {
  test('under flat undersides alone another filament touches, at a gap of its own; the slope stays as the letter has it', async () => {
    const plain = await planned(both, {})
    const { summary, geometry } = await planned(both, {
      exceptions: [{ where: { kind: 'flat' }, interfaceFilament: moss.id, upperGapMm: 0 }],
    })
    const of = (kind: string) => summary.contacts.find((contact) => contact.kind === kind)!
    expect(of('flat')).toMatchObject({ holding: 1, achievedGapMm: 0 })
    expect(of('sloped')).toMatchObject({ holding: 0, achievedGapMm: 0.2 })
    expect(plain.summary.swaps).toBe(0)
    // Three layers of the other filament: there and back.
    expect(summary.swaps).toBe(4)
    const touching = geometry.passes.filter(({ role, holding }) => role === 'interface' && holding === 1)
    expect(Math.max(...touching.map(({ topMm }) => topMm))).toBeCloseTo(10, 9)
    const ofMoss = summary.estimate.filaments.find(({ id }) => id === moss.id)!
    const laid = touching.reduce(
      (sum, { region, bottomMm, topMm }) => sum + regionAreaMm2(region) * (topMm - bottomMm),
      0,
    )
    // And what its swaps purge.
    expect(Math.abs(ofMoss.mm3 / (laid + 2 * 15) - 1)).toBeLessThan(0.05)
  })

  test('one underside may be left free, which is no warning; of two that fit the later counts', async () => {
    const { summary } = await planned(both, {
      exceptions: [
        { where: { kind: 'sloped' }, upperGapMm: 0.3 },
        { where: { contact: [50, 0, 3] }, supports: false },
      ],
    })
    const slope = summary.contacts.find(({ kind }) => kind === 'sloped')!
    expect(slope).toMatchObject({ holding: 2, achievedGapMm: null, areaMm2: 0 })
    expect(Math.abs(slope.unheldMm2['left free']! - slope.wantedMm2)).toBeLessThan(0.1)
    expect(summary.warnings.map(({ code }) => code)).not.toContain('OVERHANG_NOT_HELD')
  })

  test('one that is meant for an underside that is not there leaves all others alone, and says so', async () => {
    const { summary } = await planned(both, {
      exceptions: [
        { where: { contact: [50, 0, 30] }, supports: false },
        { where: { kind: 'tip' }, supports: false },
        { where: { kind: 'flat' }, upperGapMm: 0.3 },
        { where: { contact: [0, 0, 10] }, upperGapMm: 0.4 },
      ],
    })
    expect(summary.contacts.map(({ holding }) => holding).sort()).toEqual([0, 4])
    const idle = summary.warnings.filter(({ code }) => code === 'EXCEPTION_IDLE')
    expect(idle.map(({ severity, atMm }) => [severity, atMm])).toEqual([
      ['warning', [50, 0, 30]],
      ['note', undefined],
      ['note', undefined],
    ])
  })

  test('a zone has its part of an underside; one that is not there is refused by name', async () => {
    const zone = {
      id: 'west',
      name: 'West half',
      kind: 'show' as const,
      limitDeg: 0,
      shape: { kind: 'box' as const, minMm: [-5, -5, 5] as const, maxMm: [10, 25, 15] as const },
    }
    const { summary } = await planned(table, {
      zones: [zone],
      exceptions: [{ where: { zone: 'west' }, upperGapMm: 0.3 }],
    })
    expect(
      summary.contacts.map(({ holding, achievedGapMm, wantedMm2 }) => [
        holding,
        achievedGapMm,
        Math.round(wantedMm2),
      ]),
    ).toEqual(
      expect.arrayContaining([
        [0, 0.2, 192],
        [1, 0.3, 192],
      ]),
    )
    await expect(
      planned(table, { exceptions: [{ where: { zone: 'east' }, upperGapMm: 0.3 }] }),
    ).rejects.toMatchObject({ code: 'VALUE_OUT_OF_RANGE', message: expect.stringContaining('"east"') })
  })
})

describe('posts set by hand', () => {
  test('stand though nothing else is held, near ones joined, each up to the gap; what they hold is counted once', async () => {
    const alone = { decisions: { supports: false }, posts: [{ atMm: [3, 3, 10] as const, widthMm: 3 }] }
    const { summary, geometry } = await planned(table, alone)
    const disc = Math.PI * 1.5 ** 2
    const [contact] = summary.contacts
    expect(Math.abs(contact.areaMm2 - disc)).toBeLessThan(0.8)
    expect(contact.achievedGapMm).toBe(0.2)
    const report = checkPlastic(geometry, { lineWidthMm: 0.45, gapMm: 0.2, lowerGapMm: 0.2 })
    expect(report.floatingMm2).toBe(0)
    expect(Math.abs(report.heldMm2 - disc)).toBeLessThan(1)

    const clump = await planned(table, {
      ...alone,
      posts: [...alone.posts, { atMm: [8, 3, 10], widthMm: 3 }],
    })
    // 5 mm apart: the space between them is filled.
    expect(clump.summary.contacts[0].areaMm2).toBeGreaterThan(2 * disc + 3)
    const whole = await planned(table, { posts: alone.posts })
    expect(whole.summary.contacts[0].areaMm2).toBeLessThan(whole.summary.contacts[0].wantedMm2)
  })

  test('a branching one stands on a single branch, up to the gap', async () => {
    for (const widthMm of [1.5, 3]) {
      const { geometry, summary } = await planned(table, {
        decisions: { supports: false, standKind: 'branching' },
        posts: [{ atMm: [6, 6, 10], widthMm }],
      })
      const disc = Math.PI * (widthMm / 2) ** 2
      expect(Math.abs(summary.contacts[0].areaMm2 - disc)).toBeLessThan(0.15 * disc)
      const report = checkPlastic(geometry, { lineWidthMm: 0.45, gapMm: 0.2, lowerGapMm: 0.2 })
      expect(report.floatingMm2).toBe(0)
      expect(report.heldMm2).toBeGreaterThan(0.8 * disc)
      expect(summary.warnings.map(({ code }) => code)).not.toContain('POST_IDLE')
    }
  })

  test('keep the gap of the letter under an exception, and change nothing of other undersides', async () => {
    const two = join([table, aside(table, 40)])
    const exceptions = [{ where: { kind: 'flat' as const }, upperGapMm: 0 }]
    const flatsWith = async (posts: NewDocument['posts']) => {
      const { summary } = await planned(two, { exceptions, posts })
      expect(summary.warnings.map(({ code }) => code)).not.toContain('GAP_MISSED')
      return summary.contacts.toSorted((a, b) => a.atMm[0] - b.atMm[0])
    }
    const [left, right] = await flatsWith([])
    expect([left, right].map(({ achievedGapMm }) => achievedGapMm)).toEqual([0, 0])
    // A post's top ends where lower layers of the others' interface end.
    const [narrow, beside] = await flatsWith([{ atMm: [-14, -6, 10], widthMm: 4 }])
    expect(narrow.achievedGapMm).toBe(0)
    expect(beside.achievedGapMm).toBe(0)
    expect(beside.areaMm2).toBeCloseTo(right.areaMm2, 3)
    const [mostly, besides] = await flatsWith([{ atMm: [-20, -6, 10], widthMm: 28 }])
    expect(mostly).toMatchObject({ achievedGapMm: 0.2, gapMm: 0.2 })
    expect(besides.achievedGapMm).toBe(0)
  })

  test('one that holds nothing is told, with the reason', async () => {
    const told = async (atMm: readonly [number, number, number], widthMm: number) => {
      const { summary } = await planned(table, { posts: [{ atMm, widthMm }] })
      return summary.warnings.find(({ code }) => code === 'POST_IDLE')?.message
    }
    expect(await told([40, 40, 10], 3)).toContain('no underside above it')
    // The part lies in the middle, its stem ends at 2: all of the post lies within the side gap of 0.6 mm.
    expect(await told([2.3, 0, 10], 0.5)).toContain('nearer to an upright wall than the side gap')
    expect(await told([6, 0, 10], 0.3)).toContain('narrower than a line')
    expect(await told([3, 3, 10], 3)).toBeUndefined()
  })
})
