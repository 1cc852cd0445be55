import { describe, expect, test } from '@jest/globals'
import { clingKey, PLAIN_PRINTER, plainFilament } from '../bench'
import { aPlan, aPrint, fanUpTo, named } from '../testing'
import type { KnownTrial } from '../trial'
import {
  changePlan,
  checkDocument,
  DEFAULT_PLAN,
  holdingUnder,
  newDocument,
  startFromEvidence,
  upgradeDocument,
  type PlanDocument,
} from '.'

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const fan = (filament: string, limitDeg: number): KnownTrial => ({
  id: `fan ${filament}`,
  name: `Fan ${filament}`,
  printedOn: '2026-11-14',
  kind: 'fan',
  conditions: aPrint({ partFilament: named(filament), supportFilament: named(filament) }),
  readings: fanUpTo(limitDeg),
})
const trials = [fan('Chalk PLA', 57), fan('Moss PETG', 42)]

describe('a plan changed', () => {
  const plan = startFromEvidence(newDocument({ filaments: [chalk] }), trials)

  test('another filament comes along with its facts, its clings and its readings; what nobody uses leaves', () => {
    const touched = changePlan(
      plan,
      { decisions: { interfaceFilament: moss.id }, filaments: [moss] },
      { trials },
    )
    expect(touched.filaments.map(({ id }) => id)).toEqual([chalk.id, moss.id])
    expect(touched.cling[clingKey('PLA', 'PETG')]).toBe(1)
    expect(touched.decisions.freeAngleDeg).toBe(plan.decisions.freeAngleDeg)
    const whole = changePlan(
      touched,
      { decisions: { partFilament: moss.id, standFilament: moss.id } },
      { trials },
    )
    expect(whole.filaments).toEqual([moss])
    expect(Object.keys(whole.cling)).toEqual([clingKey('PETG', 'PETG')])
    // Its own fan was good to 42 only.
    expect(whole.decisions.freeAngleDeg).toBeLessThan(plan.decisions.freeAngleDeg)
    expect(whole.evidence.freeAngleDeg?.trials).toEqual([{ id: 'fan Moss PETG', name: 'Fan Moss PETG' }])
  })

  test('values that stood at the evidence follow it, those the maker moved stay; without readings all stays', () => {
    const thin = changePlan(plan, { decisions: { layerHeightMm: 0.1 } }, { trials })
    expect(thin.decisions.freeAngleDeg).toBeGreaterThan(plan.decisions.freeAngleDeg)
    const moved = changePlan(plan, { decisions: { freeAngleDeg: 33 } }, { trials })
    expect(changePlan(moved, { decisions: { layerHeightMm: 0.1 } }, { trials }).decisions.freeAngleDeg).toBe(
      33,
    )
    expect(changePlan(plan, { decisions: { layerHeightMm: 0.1 } }).decisions.freeAngleDeg).toBe(
      plan.decisions.freeAngleDeg,
    )
  })

  test('a renamed filament is the same one: nothing of the evidence is lost', () => {
    const renamed = changePlan(plan, { filaments: [{ ...chalk, name: 'Chalk, the old one' }] }, { trials })
    expect(renamed.filaments[0].name).toBe('Chalk, the old one')
    expect(renamed.evidence.freeAngleDeg).toMatchObject({ source: 'measured', readings: 9 })
    expect(() => checkDocument(renamed)).not.toThrow()
  })

  test('the maker’s own clings are what the plan goes by', () => {
    const book = { facts: {}, cling: { [clingKey('PLA', 'PETG')]: 4 as const } }
    const touched = changePlan(
      plan,
      { decisions: { interfaceFilament: moss.id }, filaments: [moss] },
      { book },
    )
    expect(touched.cling[clingKey('PLA', 'PETG')]).toBe(4)
  })
})

describe('documents of version 1', () => {
  const old = () => {
    const { exceptions: _, posts: __, cling: ___, ...rest } = aPlan({}, { filaments: [chalk, moss] })
    const { standLines: _l, standWalls: _w, brimLines: _b, supportSpanMm: _s, ...decisions } = rest.decisions
    return {
      ...rest,
      version: 1,
      printer: { ...rest.printer, id: undefined },
      filaments: rest.filaments.map(({ id: _id, ...filament }) => filament),
      decisions: { ...decisions, interfaceFilament: 'Moss PETG' },
    }
  }

  test('are what they were in version 2, known by their identity on the bench, or by name', () => {
    const bench = new Map([['Moss PETG', 'moss-id']])
    const upgraded = upgradeDocument(old(), (_, name) => bench.get(name)) as PlanDocument
    expect(upgraded.version).toBe(2)
    expect(upgraded.decisions).toMatchObject({
      partFilament: 'Chalk PLA',
      interfaceFilament: 'moss-id',
      standLines: 'joined',
      brimLines: 0,
    })
    expect(upgraded.filaments.map(({ id }) => id)).toEqual(['Chalk PLA', 'moss-id'])
    expect(upgraded).toMatchObject({ exceptions: [], posts: [] })
    expect(upgraded.cling[clingKey('PLA', 'PETG')]).toBe(1)
    expect(() => checkDocument(upgraded)).not.toThrow()
  })

  test('branches lean on as they did: by the free angle that the plan had', () => {
    const { leanDeg: _, ...decisions } = aPlan({ freeAngleDeg: 61 }).decisions
    const of2 = { ...aPlan(), decisions }
    expect((upgradeDocument(of2) as PlanDocument).decisions.leanDeg).toBe(56)
    const { supportSpanMm: __, ...older } = decisions
    const of1 = { ...old(), decisions: older }
    expect((upgradeDocument(of1) as PlanDocument).decisions.leanDeg).toBe(56)
    const chosen = { ...aPlan({ leanDeg: 20 }) }
    expect(upgradeDocument(chosen)).toBe(chosen)
  })

  test('anything else is given back as it is', () => {
    for (const other of [null, 7, [], { version: 2 }, { version: 1, filaments: 'none' }, DEFAULT_PLAN]) {
      const upgraded = upgradeDocument(other)
      if ((other as { version?: number } | null)?.version !== 1) expect(upgraded).toBe(other)
    }
  })
})

test('an exception changes what it names and nothing else', () => {
  const { decisions } = DEFAULT_PLAN
  const under = holdingUnder(decisions, {
    where: { kind: 'flat' },
    upperGapMm: 0,
    interfaceFilament: 'moss',
    sideGapMm: undefined,
  })
  expect(under).toEqual({ ...decisions, upperGapMm: 0, interfaceFilament: 'moss' })
})

test('on another printer a plan purges where that one starts to, unless the maker had decided', () => {
  const changer = { ...PLAIN_PRINTER, id: 'changer', feed: 'changer' as const, loads: 4 }
  const chute = { ...changer, id: 'chute', swapGcode: 'T{tool}\nG1 E{purgeLength} F300' }
  const where = (plan: PlanDocument) => plan.decisions.purgeWhere
  const onChanger = changePlan(DEFAULT_PLAN, { printer: changer })
  expect(where(onChanger)).toBe('tower')
  expect(where(changePlan(onChanger, { printer: chute }))).toBe('printer')
  const decided = changePlan(onChanger, { decisions: { purgeWhere: 'printer' } })
  expect(where(changePlan(decided, { printer: { ...changer, id: 'other' } }))).toBe('printer')
})
