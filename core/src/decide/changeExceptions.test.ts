import { describe, expect, test } from '@jest/globals'
import { plainFilament } from '../bench'
import {
  addException,
  changePlan,
  differsIn,
  holdingUnder,
  letDiffer,
  newDocument,
  touchFlatAlone,
  withinException,
} from '.'

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const fog = plainFilament('Fog PVA', 'PVA', '#dfe3e6')
const start = newDocument({
  filaments: [chalk, moss],
  decisions: { interfaceFilament: moss.id, upperGapMm: 0.06 },
})

describe('changing exceptions', () => {
  test('a new one differs in its gap alone, and at first not in its value', () => {
    const document = changePlan(start, addException(start, { kind: 'rounded' }))
    expect(document.exceptions).toEqual([{ where: { kind: 'rounded' }, upperGapMm: 0.06 }])
    expect(holdingUnder(document.decisions, document.exceptions[0])).toEqual(
      holdingUnder(document.decisions, { where: { kind: 'rounded' } }),
    )
    const second = changePlan(document, addException(document, { zone: 'west' }))
    expect(second.exceptions.map(({ where }) => where)).toEqual([{ kind: 'rounded' }, { zone: 'west' }])
  })

  test('a change of decisions meant for one goes there, and leaves letter and neighbours alone', () => {
    const two = changePlan(start, {
      exceptions: [
        { where: { kind: 'flat' }, upperGapMm: 0.1 },
        { where: { kind: 'tip' }, upperGapMm: 0.2 },
      ],
    })
    const changed = changePlan(
      two,
      withinException(two, 1, { decisions: { upperGapMm: 0.25, standKind: 'branching' } }),
    )
    expect(changed.decisions).toEqual(two.decisions)
    expect(changed.exceptions).toEqual([
      two.exceptions[0],
      { where: { kind: 'tip' }, upperGapMm: 0.25, standKind: 'branching' },
    ])
  })

  test('another filament of an exception comes along with its clings, and leaves with it', () => {
    const one = changePlan(start, addException(start, { kind: 'flat' }))
    const dissolving = changePlan(
      one,
      withinException(one, 0, { decisions: { interfaceFilament: fog.id }, filaments: [fog] }),
    )
    expect(dissolving.filaments.map(({ name }) => name)).toEqual(['Chalk PLA', 'Moss PETG', 'Fog PVA'])
    expect(Object.keys(dissolving.cling).length).toBeGreaterThan(Object.keys(one.cling).length)
    const without = changePlan(dissolving, { exceptions: [] })
    expect(without.filaments.map(({ name }) => name)).toEqual(['Chalk PLA', 'Moss PETG'])
    expect(without.cling).toEqual(one.cling)
  })

  test('what it differs in is chosen by name: kept, begun as the letter has it, or given up; held turns to free', () => {
    const one = changePlan(start, {
      exceptions: [{ where: { kind: 'flat' }, upperGapMm: 0.3, sideGapMm: 0.8 }],
    })
    expect(differsIn(one.exceptions[0])).toEqual(['upperGapMm', 'sideGapMm'])
    const other = changePlan(one, letDiffer(one, 0, ['upperGapMm', 'standDensity', 'supports']))
    expect(other.exceptions).toEqual([
      {
        where: { kind: 'flat' },
        upperGapMm: 0.3,
        standDensity: start.decisions.standDensity,
        supports: false,
      },
    ])
    const none = changePlan(other, letDiffer(other, 0, []))
    expect(none.exceptions).toEqual([{ where: { kind: 'flat' } }])
    expect(differsIn(none.exceptions[0])).toEqual([])
  })

  test('a filament kept to flat undersides: the letter touches with the part’s own, one exception with it', () => {
    const many = changePlan(start, {
      exceptions: [
        { where: { kind: 'flat' }, upperGapMm: 0.4 },
        { where: { kind: 'tip' }, supports: false },
      ],
    })
    const document = changePlan(many, touchFlatAlone(many, moss.id))
    expect(document.decisions.interfaceFilament).toBe(chalk.id)
    // What was said of flat undersides before gives way; other exceptions stay.
    expect(document.exceptions).toEqual([
      { where: { kind: 'tip' }, supports: false },
      { where: { kind: 'flat' }, interfaceFilament: moss.id },
    ])
    expect(document.filaments.map(({ name }) => name).toSorted()).toEqual(['Chalk PLA', 'Moss PETG'])
  })
})
