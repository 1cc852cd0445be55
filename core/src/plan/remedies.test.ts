import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { changePlan, type Evidence, type PlanDocument } from '../decide'
import type { Mesh } from '../mesh'
import type { PolygonEngine } from '../polygon'
import { aFilament, aPlan, box, boxes, join, table, turned } from '../testing'
import { createPlanner, dissolvingWays, planRelease, type PlanWarning, type PlanWarningCode } from '.'
import { dissolvesAll } from './dissolvesAll'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const planned = async (mesh: Mesh, document: PlanDocument) => {
  const { summary } = await createPlanner(engine).plan('part', mesh, document)
  return summary
}
const told = (warnings: readonly PlanWarning[], code: PlanWarningCode) =>
  warnings.filter((one) => one.code === code)

const turnedInside = (mesh: Mesh): Mesh => ({ ...mesh, corners: mesh.corners.slice().reverse() })
const room = join([box([40, 40, 20]), turnedInside(box([34, 34, 14], [3, 3, 3]))])
/** A block beside a block: what is under the overhang can only stand on the lower one. */
const overAPlate = boxes([
  { size: [40, 40, 4], at: [0, 0, 0] },
  { size: [8, 40, 20], at: [0, 0, 4] },
  { size: [40, 40, 4], at: [0, 0, 24] },
])
const slender = boxes([
  { size: [20, 20, 41], at: [0, 0, 0] },
  { size: [6, 6, 3], at: [40, 0, 38] },
])

/** A thin stand along a wall, which leaves no room for footing on that side. */
const alongAWall = boxes([
  { size: [4, 30, 30], at: [0, 0, 0] },
  { size: [2.2, 20, 4], at: [4, 5, 26] },
])

/** A stand so thin that neither footing nor filling it helps: it has to be thicker. */
const underALip = boxes([
  { size: [60, 20, 44], at: [0, 0, 0] },
  { size: [60, 1, 4], at: [0, 20, 40] },
])

/** A paddle on a thin arm beside a block. */
const onAnArm = boxes([
  { size: [30, 30, 20], at: [0, 0, 0] },
  { size: [7, 4, 4], at: [29.5, 13, 10] },
  { size: [14, 14, 4], at: [36, 8, 10] },
])

/** A head on a neck of that radius. */
const headOn = (neckMm: number) =>
  turned(
    [
      [0, 0],
      [12, 0],
      [12, 3],
      [neckMm, 3],
      [neckMm, 20],
      [8, 20],
      [8, 36],
      [0, 36],
    ],
    96,
  )
const head = headOn(1.5)

/** Readings by which a gap, and every other, comes off clean. */
const cleanAt = (value: number): Evidence => ({
  value,
  low: 0,
  high: 1,
  source: 'measured',
  sentence: '',
  trials: [],
  readings: 20,
  newest: null,
  mismatches: [],
  tender: { gapsMm: [0, 1], chance: [0.99, 0.99] },
})

describe('remedies of warnings', () => {
  const cases: [PlanWarningCode, Mesh, PlanDocument][] = [
    ['SUPPORTS_OFF', table, aPlan({ supports: false })],
    ['LOCKED_IN', room, aPlan({ placement: 'anywhere', freeSpanMm: 0 })],
    ['OVERHANG_NOT_HELD', overAPlate, aPlan({ placement: 'bed', freeSpanMm: 0 })],
    ['UNSTEADY', slender, aPlan({ marginMm: 0, footingLines: 0, standWalls: 2, freeSpanMm: 0 })],
    ['UNSTEADY', alongAWall, aPlan({ marginMm: 0, footingLines: 0, standWalls: 2, freeSpanMm: 0 })],
    ['UNSTEADY', underALip, aPlan({ freeSpanMm: 0 })],
    ['WEAK_NECK', head, aPlan({ placement: 'anywhere', freeSpanMm: 0 })],
    // A wider gap and sparser lines together, and where these are not enough either, no support.
    ['WEAK_NECK', headOn(0.4), aPlan({ placement: 'anywhere', freeSpanMm: 0 })],
    ['WEAK_NECK', headOn(0.4), aPlan({ placement: 'anywhere', freeSpanMm: 0, upperGapMm: 0.06 })],
    [
      'WELDED_PAIR',
      table,
      aPlan({ upperGapMm: 0.02 }, { filaments: [aFilament({ name: 'Chalk PLA', family: 'PLA' })] }),
    ],
  ]
  test.each(cases)('%s: the first one, taken as it is, puts it right', async (code, mesh, document) => {
    const [found] = told((await planned(mesh, document)).warnings, code)
    const [remedy] = found.remedies!
    const after = await planned(mesh, changePlan(document, remedy.change))
    expect(told(after.warnings, code)).toEqual([])
  })

  const stands: [string, RegExp, Mesh, PlanDocument][] = [
    ['locked in', /no tool gets to it/, room, aPlan({ placement: 'anywhere', freeSpanMm: 0 })],
    [
      'unsteady',
      /while it is printed/,
      slender,
      aPlan({ marginMm: 0, footingLines: 0, standWalls: 2, freeSpanMm: 0 }),
    ],
    ['at a neck', /through a neck/, head, aPlan({ placement: 'anywhere', freeSpanMm: 0 })],
    ['at an arm', /through an arm/, onAnArm, aPlan({ upperGapMm: 0.1 })],
  ]
  test.each(stands)(
    'a stand %s: the first remedy of its own, taken, leaves no such stand',
    async (_, reason, mesh, document) => {
      const releaseOf = async (of: PlanDocument) =>
        planRelease(of, await createPlanner(engine).plan('part', mesh, of), engine).stands
      const minded = ({ reasons }: { readonly reasons: readonly string[] }) =>
        reasons.some((one) => reason.test(one))
      const before = await releaseOf(document)
      const [found] = before.filter(minded)
      expect(before.filter((one) => !minded(one)).flatMap(({ remedies }) => remedies)).toEqual([])
      const after = await releaseOf(changePlan(document, found.remedies[0].change))
      expect(after.filter(minded)).toEqual([])
    },
  )

  test('an underside that pulls at a neck and at an arm as well gets one exception, not two', async () => {
    const both = boxes([
      { size: [40, 40, 12], at: [0, 0, 0] },
      { size: [4, 4, 8], at: [10, 14, 12] },
      { size: [14, 14, 12], at: [5, 9, 20] },
      { size: [27.5, 2, 2], at: [18.5, 15, 24] },
      { size: [20, 30, 2], at: [45, 1, 24] },
    ])
    const document = aPlan({ upperGapMm: 0.05, freeSpanMm: 0 })
    const result = await createPlanner(engine).plan('both', both, document)
    const { warnings } = result.summary
    const { stands } = planRelease(document, result, engine)
    const [found] = stands.toSorted((a, b) => b.contactMm2 - a.contactMm2)
    expect(told(warnings, 'WEAK_NECK')).toHaveLength(1)
    expect(found.reasons.join()).toMatch(/through an arm/)
    const exceptions = changePlan(document, found.remedies[0].change).exceptions
    expect(new Set(exceptions.map(({ where }) => JSON.stringify(where))).size).toBe(exceptions.length)
  })

  test('a filament that dissolves is offered where the part stays and the two live together', () => {
    const [chalk, mist, fog, tide] = [
      aFilament({ id: 'chalk' }),
      aFilament({ id: 'mist', name: 'Mist', family: 'PVA' }),
      aFilament({ id: 'fog', name: 'Fog', family: 'ABS' }),
      aFilament({ id: 'tide', name: 'Tide', family: 'BVOH' }),
    ]
    const own = { partFilament: 'chalk', standFilament: 'chalk', interfaceFilament: 'chalk' }
    const document = aPlan(own, {
      filaments: [chalk],
      exceptions: [{ where: { kind: 'flat' }, interfaceFilament: 'chalk', upperGapMm: 0.1 }],
    })
    const ways = dissolvingWays(document, [chalk, fog, mist, tide])
    expect(ways.map(({ words }) => words)).toEqual([
      'stands and interface in Mist, which dissolves',
      'stands and interface in Tide, which dissolves',
    ])
    const changed = changePlan(document, ways[0].change)
    expect(changed.filaments.map(({ id }) => id)).toEqual(['chalk', 'mist'])
    expect(changed.exceptions).toEqual([{ where: { kind: 'flat' }, upperGapMm: 0.1 }])
    // There is nothing more to win then, and nothing for a part that would go as well.
    expect(dissolvingWays(changed, [tide])).toEqual([])
    const washesAway = aPlan(
      { partFilament: 'mist', standFilament: 'mist', interfaceFilament: 'mist' },
      { filaments: [mist] },
    )
    expect(dissolvingWays(washesAway, [tide])).toEqual([])
    expect([changed, washesAway, document].map(dissolvesAll)).toEqual([true, false, false])
  })

  test('what an exception already rules stays ruled by it when one of its undersides is weakened', async () => {
    const filaments = [aFilament({ id: 'chalk' }), aFilament({ id: 'moss', name: 'Moss', family: 'PETG' })]
    const document = aPlan(
      {
        placement: 'anywhere',
        freeSpanMm: 0,
        partFilament: 'chalk',
        standFilament: 'chalk',
        interfaceFilament: 'chalk',
      },
      { filaments, exceptions: [{ where: { kind: 'flat' }, interfaceFilament: 'moss', upperGapMm: 0.1 }] },
    )
    const [found] = told((await planned(head, document)).warnings, 'WEAK_NECK')
    const [wider] = found.remedies!
    expect(changePlan(document, wider.change).exceptions[1]).toMatchObject({
      interfaceFilament: 'moss',
      upperGapMm: 0.15,
    })
  })

  test('a stand that bends is stiffened in the sentence that rules it, as much as it takes', async () => {
    const needle = boxes([
      { size: [20, 20, 61], at: [0, 0, 0] },
      { size: [7, 7, 3], at: [40, 0, 58] },
    ])
    const document = aPlan(
      { marginMm: 0, footingLines: 12, standWalls: 2, freeSpanMm: 0 },
      { exceptions: [{ where: { kind: 'flat' }, standWalls: 0, standDensity: 0.1 }] },
    )
    const [found] = told((await planned(needle, document)).warnings, 'UNSTEADY')
    expect(found.remedies).toHaveLength(2)
    for (const { change } of found.remedies!) {
      const changed = changePlan(document, change)
      expect(changed.decisions).toEqual(document.decisions)
      expect(told((await planned(needle, changed)).warnings, 'UNSTEADY')).toEqual([])
      const [{ standWalls, standDensity }] = changed.exceptions
      expect([standWalls! > 0, standDensity! > 0.1].filter(Boolean)).toHaveLength(1)
    }
  })

  test('an interface that may stay under an exception is told and mended in it, by readings of its own pairing', async () => {
    const filaments = [
      aFilament({ id: 'chalk' }),
      aFilament({ id: 'fog', name: 'Fog' }),
      aFilament({ id: 'moss', name: 'Moss', family: 'PETG' }),
    ]
    const own = { partFilament: 'chalk', standFilament: 'chalk', interfaceFilament: 'chalk' }
    const document = aPlan(
      { ...own, placement: 'anywhere', freeSpanMm: 0 },
      {
        filaments,
        evidence: { upperGapMm: cleanAt(0.2) },
        exceptions: [{ where: { kind: 'flat' }, interfaceFilament: 'fog', standFilament: 'moss' }],
      },
    )
    const { warnings, pTender } = await planned(table, document)
    // Of the letter’s own pairing nothing is held here, and its readings say nothing of another one.
    expect(pTender).toBeNull()
    expect(told(warnings, 'WELDED_PAIR')).toEqual([])
    const [found, ...others] = told(warnings, 'INTERFACE_MAY_STAY')
    expect(others).toEqual([])
    expect(found.message).toMatch(/^Under flat undersides: /)
    const changed = changePlan(document, found.remedies![0].change)
    expect(changed.decisions).toEqual(document.decisions)
    expect(told((await planned(table, changed)).warnings, 'INTERFACE_MAY_STAY')).toEqual([])
  })

  test('a pair that welds under an exception alone is told and mended in it; what readings trust is no error', async () => {
    const filaments = [aFilament({ id: 'chalk' }), aFilament({ id: 'moss', name: 'Moss', family: 'PETG' })]
    const welding = (more: Partial<PlanDocument['exceptions'][0]> = {}) =>
      aPlan(
        {
          ...{ partFilament: 'chalk', standFilament: 'moss', interfaceFilament: 'moss', upperGapMm: 0 },
          ...{ placement: 'anywhere', freeSpanMm: 0 },
        },
        { filaments, exceptions: [{ where: { kind: 'flat' }, interfaceFilament: 'chalk', ...more }] },
      )
    const [found] = told((await planned(table, welding())).warnings, 'WELDED_PAIR')
    expect(found).toMatchObject({
      severity: 'error',
      message: expect.stringMatching(/^Under flat undersides: .*0\.00 mm/),
    })
    const changed = changePlan(welding(), found.remedies![0].change)
    expect(changed.decisions.upperGapMm).toBe(0)
    expect(told((await planned(table, changed)).warnings, 'WELDED_PAIR')).toEqual([])
    const trusted = welding({ evidence: { upperGapMm: cleanAt(0) } })
    expect(told((await planned(table, trusted)).warnings, 'WELDED_PAIR')).toMatchObject([
      {
        severity: 'warning',
        message: expect.stringMatching(/a guess, .*your readings give it a chance of 0\.99/),
      },
    ])
  })

  test('a weak neck is spared by what weakens the contact above it, and nothing else of the plan changes', async () => {
    const document = aPlan({ placement: 'anywhere', freeSpanMm: 0 })
    const before = await planned(head, document)
    const [found] = told(before.warnings, 'WEAK_NECK')
    expect(found.remedies).toHaveLength(2)
    for (const { change } of found.remedies!) {
      const changed = changePlan(document, change)
      expect(changed.decisions).toEqual(document.decisions)
      const after = await planned(head, changed)
      const contact = after.contacts.find(({ holding }) => holding > 0)!
      const was = before.contacts.find(({ zMm }) => zMm === contact.zMm)!
      // The bond is weaker as it is printed: its gap is wider, or less plastic lies below it.
      const wider = contact.achievedGapMm! - was.achievedGapMm!
      const sparser = before.estimate.roles.interface.g / after.estimate.roles.interface.g
      expect(wider > 0.03 || sparser > 1.2).toBe(true)
    }
  })
})
