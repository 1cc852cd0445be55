import { describe, expect, test } from '@jest/globals'
import {
  SpoolFields,
  type Printer,
  type StoredFilament,
  type StepReading,
  type Trial,
  type TrialInput,
} from '@tender/contract'
import { PLAIN_PRINTER, plainFilament, type Printer as PrinterFacts } from '@tender/core/bench'
import { DEFAULT_PLAN, type Evidence, type PlanDocument } from '@tender/core/decide'
import { COUPON_KINDS, couponGrid, STARTING_COUPONS, stepsOf } from '@tender/core/trial'
import { aTrial, idOf } from '../testing/samples'
import { inkOn } from '../drawings/grades'
import { signed } from '../format/numbers'
import { usualPrinter } from './bench/usualPrinter'
import { changesInWords } from './plans/changesInWords'
import { cannotTell, orderOf } from './trials/couponOrder'
import { describeStep, GRADE_WORDS, KINDS, rowName, stepName } from './trials/trialKinds'
import { storedOffset, trialSentence } from './trials/trialSentence'
import { withSteps } from './trials/withSteps'

const names = { a: 'Chalk', b: 'Moss' }
const seen = (what: Partial<StepReading>): StepReading => ({
  step: '',
  revision: 1,
  grade: null,
  release: null,
  finish: null,
  forceN: null,
  leftOut: false,
  note: '',
  ...what,
})
// Spools of this file go by letters, not by ids as the contract wants them.
const spool = (id: string) => ({ ...SpoolFields.parse({ id: idOf(1), label: '', gramsLeft: 500 }), id })
const filament = (id: string, name: string, spools: string[] = []): StoredFilament => {
  const { id: _id, gramsLeft: _grams, lots: _lots, ...plain } = plainFilament(name, 'PLA', '#d8d3c8')
  return { ...plain, id, revision: 1, updatedAt: '', spools: spools.map(spool) }
}
const printer = (changes: Partial<PrinterFacts> & { loaded?: (string | null)[] } = {}) =>
  ({ ...PLAIN_PRINTER, id: 'p', revision: 1, updatedAt: '', loaded: [], ...changes }) as unknown as Printer
const input = (coupon: TrialInput['coupon']): TrialInput => {
  const {
    id: _i,
    revision: _r,
    updatedAt: _u,
    printerName: _p,
    partFilamentName: _f,
    supportFilamentName: _s,
    readings: _d,
    photos: _o,
    ...kept
  } = aTrial({ name: 'Test', coupon, printerId: 'p', partFilamentId: 'a', supportFilamentId: 'b' })
  return kept
}
const coupon = (kind: keyof typeof STARTING_COUPONS) =>
  structuredClone(STARTING_COUPONS[kind]) as TrialInput['coupon']

describe('steps in words', () => {
  test('each kind says its value, its place and its grade, and nothing where nothing was read', () => {
    const first = Object.fromEntries(COUPON_KINDS.map((kind) => [kind, stepsOf(STARTING_COUPONS[kind])[1]]))
    expect(describeStep(first.fan, seen({ grade: 4 }), names)).toBe('35° facing north: drooping')
    expect(describeStep(first.span, seen({ grade: 2 }), names)).toBe('10 mm: a little slack')
    expect(describeStep(first.gap, seen({ release: 2, finish: 3, leftOut: true }), names)).toBe(
      '0.05 mm: came off by hand, face lined, left out',
    )
    expect(describeStep(first.purge, seen({ grade: 5 }), names)).toBe('80 mm³ Chalk to Moss: the old colour')
    expect(describeStep(first.offset, undefined, names)).toBe('−0.20 mm along X: not read')
    expect(describeStep(stepsOf(STARTING_COUPONS.purge).at(-1)!, undefined, names)).toContain('Moss to Chalk')
    expect(stepName(stepsOf(STARTING_COUPONS.offset).at(-1)!, names)).toEqual({
      value: '+0.25\u202fmm',
      place: 'in height',
    })
    for (const kind of COUPON_KINDS) {
      expect(GRADE_WORDS[kind]).toHaveLength(5)
      expect(KINDS[kind].about.length).toBeGreaterThan(40)
      const rows = couponGrid(STARTING_COUPONS[kind]).rows.map((row) => rowName(kind, row, names))
      expect(new Set(rows).size).toBe(rows.length)
    }
  })

  test('a trial says its sentence from what was read; a comb from what the printer had stored', () => {
    const trial = {
      lineWidthMm: 0.45,
      offsetMm: [24.1, 0, -0.05],
      partFilamentName: 'Chalk',
      supportFilamentName: 'Moss',
    } as Pick<Trial, 'lineWidthMm' | 'offsetMm' | 'partFilamentName' | 'supportFilamentName'>
    const comb = [-0.1, 0, 0.1].map((shiftMm) => ({
      axis: 'x' as const,
      shiftMm,
      grade: shiftMm === 0.1 ? (1 as const) : null,
      comb: 'a',
    }))
    expect(trialSentence({ kind: 'offset', readings: comb }, trial)).toMatch(
      /^As far as these readings go: type in X \+2[34]\.\d\d as the second nozzle’s offset\.$/,
    )
    expect(trialSentence({ kind: 'purge', readings: [] }, trial)).toContain('from Chalk to Moss purge')
    expect(storedOffset({ offsetMm: null })).toEqual({ x: 0, y: 0, z: 0 })
  })

  test('a coupon with other steps keeps everything else', () => {
    for (const kind of COUPON_KINDS) {
      const changed = withSteps(coupon(kind), [1, 2])
      expect(couponGrid(changed).columns).toEqual([1, 2])
      expect(couponGrid(changed).rows).toEqual(couponGrid(STARTING_COUPONS[kind]).rows)
    }
  })
})

describe('a coupon for a printer', () => {
  const [chalk, moss] = [filament('a', 'Chalk', ['s1']), filament('b', 'Moss', ['s2'])]

  test('tools are those the filaments are loaded on, never the same one for two', () => {
    const tools = (loaded: (string | null)[], other = moss) =>
      orderOf(input(coupon('gap')), printer({ loaded }), chalk, other).tools
    expect(tools(['s1', 's2'])).toEqual([0, 1])
    expect(tools(['s2', 's1'])).toEqual([1, 0])
    expect(tools([null, null, 's2', 's1'])).toEqual([3, 2])
    expect(tools([])).toEqual([0, 1])
    expect(tools([null, 's1'])).toEqual([1, 0])
    expect(tools(['s1', 's2'], chalk)).toEqual([0, 0])
    expect(orderOf(input(coupon('gap')), printer(), chalk, moss)).toMatchObject({
      fanPercent: 80,
      speedMmS: 40,
      size: { layerHeightMm: 0.2, nozzleMm: 0.4 },
    })
  })

  test('what would tell nothing is said before it is printed', () => {
    const reason = (kind: 'purge' | 'offset' | 'gap', feed: PrinterFacts['feed'], other = moss) =>
      cannotTell(input(coupon(kind)), printer({ feed, name: 'Twin' }), chalk, other)
    expect(reason('purge', 'nozzles')).toContain('Twin has a nozzle for each filament')
    expect(reason('purge', 'changer')).toBeNull()
    expect(reason('offset', 'changer')).toContain('Twin has one nozzle')
    expect(reason('offset', 'carriages')).toBeNull()
    expect(reason('offset', 'nozzles', chalk)).toContain('two different filaments')
    expect(reason('gap', 'changer', chalk)).toBeNull()
  })

  test('pairings are judged for the printer with most spools on it, two nozzles before a changer', () => {
    const named = (name: string, feed: PrinterFacts['feed'], loaded: (string | null)[]) =>
      printer({ name, feed, loaded })
    expect(
      usualPrinter([named('changer', 'changer', ['a', 'b', null]), named('twin', 'nozzles', ['c'])])!.name,
    ).toBe('changer')
    expect(usualPrinter([named('changer', 'changer', []), named('twin', 'nozzles', [])])!.name).toBe('twin')
    expect(usualPrinter([])).toBeUndefined()
    const both = [named('changer', 'changer', ['a', 'b']), named('twin', 'nozzles', [])]
    expect(usualPrinter(both, 'offset')!.name).toBe('twin')
    expect(usualPrinter(both, 'purge')!.name).toBe('changer')
  })
})

describe('newer readings in words', () => {
  const said = (value: number, readings: number): Evidence => ({
    source: 'measured',
    value,
    low: null,
    high: null,
    readings,
    trials: [],
    sentence: '',
    mismatches: [],
    newest: null,
  })
  const document: PlanDocument = {
    ...DEFAULT_PLAN,
    decisions: { ...DEFAULT_PLAN.decisions, upperGapMm: 0.23, freeAngleDeg: 40 },
    evidence: { upperGapMm: said(0.23, 9), freeAngleDeg: said(52, 36) },
  }

  test('what would change, what would stay, and what is the maker’s own', () => {
    expect(changesInWords(document, {})).toBe('')
    expect(changesInWords(document, { upperGapMm: said(0.28, 12) })).toBe(
      'Upper gap 0.23\u202fmm becomes 0.28\u202fmm',
    )
    expect(changesInWords(document, { upperGapMm: said(0.23, 12) })).toBe(
      'Upper gap stays at 0.23\u202fmm, now on 12 readings',
    )
    expect(changesInWords(document, { freeAngleDeg: said(49, 40), upperGapMm: said(0.28, 12) })).toBe(
      'Free angle 52° becomes 49° (yours stays); Upper gap 0.23\u202fmm becomes 0.28\u202fmm',
    )
  })
})

test('what rounds to nothing has no sign, and words can be read on a filament’s own colour', () => {
  const two = (value: number) => value.toFixed(2)
  expect([signed(-0.004, two), signed(0, two), signed(-0.006, two)]).toEqual(['0.00', '0.00', '−0.01'])
  expect(inkOn('#fffdf8')).not.toBe(inkOn('#4b5561'))
})
