import { describe, expect, test } from '@jest/globals'
import type { Plan } from '@tender/contract'
import { plainFilament } from '@tender/core/bench'
import { newDocument, type PlanDocument } from '@tender/core/decide'
import { differingRows, figureRow } from './sideBySide'

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const plan = (document: PlanDocument) => ({ document }) as unknown as Plan

describe('plans beside each other', () => {
  test('only what differs has a row, in the words of the letter', () => {
    const one = newDocument({ filaments: [chalk, moss], decisions: { interfaceFilament: chalk.id } })
    const other = newDocument({
      filaments: [chalk, moss],
      decisions: { interfaceFilament: moss.id, upperGapMm: 0.06, supports: false },
      exceptions: [{ where: { kind: 'flat' }, upperGapMm: 0 }],
      posts: [{ atMm: [0, 0, 5], widthMm: 4 }],
    })
    const rows = differingRows([plan(one), plan(other)])
    expect(rows.map(({ label, cells }) => [label, ...cells])).toEqual([
      ['What touches the part', 'Chalk PLA', 'Moss PETG'],
      ['What is held', 'held', 'left free'],
      ['Upper gap', '0.20\u202fmm', '0.06\u202fmm'],
      ['Exceptions', 'none', 'under flat undersides: Upper gap 0.00\u202fmm'],
      ['Posts by hand', 'none', '4\u202fmm at 0, 0, 5'],
    ])
    expect(differingRows([plan(one), plan(one)])).toEqual([])
    // The same underside held otherwise, and a post somewhere else.
    const third = {
      ...other,
      exceptions: [{ where: { kind: 'flat' as const }, upperGapMm: 0.1 }],
      posts: [{ atMm: [8, 0, 5] as const, widthMm: 4 }],
    }
    expect(differingRows([plan(other), plan(third)]).map(({ label }) => label)).toEqual([
      'Exceptions',
      'Posts by hand',
    ])
  })

  test('the best is marked, several when they show alike, none when all do; what is unknown never wins', () => {
    const show = (value: number) => value.toFixed(0)
    expect(figureRow('Grams', [12.2, 11.9, 30, null], show, 'least')).toEqual({
      label: 'Grams',
      cells: ['12', '12', '30', '–'],
      best: [0, 1],
    })
    expect(figureRow('Clean', [0.2, 0.9], (value) => value.toFixed(1), 'most').best).toEqual([1])
    expect(figureRow('Swaps', [3, 3], show, 'least').best).toEqual([])
    expect(figureRow('Clean', [null, null], show, 'most').best).toEqual([])
  })
})
