import { describe, expect, test } from '@jest/globals'
import { plainFilament } from '@tender/core/bench'
import { DECISION_RANGES, DEFAULT_DECISIONS, DEFAULT_PLAN, type NumberDecision } from '@tender/core/plan'
import { completePlan, FilamentInput, issueSentence, knownTrial, planFilament, PlanDocumentFields, PlanFile, Problem, TrialInput, type Trial } from '.'

const sentenceOf = (value: unknown) => issueSentence(PlanFile.safeParse(value).error!).message

describe('plan files', () => {
  test('an empty file is the default plan, and a complete one comes back as it was', () => {
    expect(completePlan(PlanFile.parse({}))).toEqual(DEFAULT_PLAN)
    const document = completePlan(
      PlanFile.parse({ name: 'Mine', decisions: { upperGapMm: 0.17 }, filaments: [{ name: 'Chalk PLA' }, { name: 'Moss PETG', family: 'PETG', densityGcm3: 1.27 }], printer: { feed: 'changer' } }),
    )
    expect(completePlan(PlanFile.parse(JSON.parse(JSON.stringify(document))))).toEqual(document)
    expect(PlanDocumentFields.parse(document)).toEqual(document)
  })

  test('filaments take their roles by order, and a changer starts with a real purge', () => {
    const { decisions } = completePlan(PlanFile.parse({ filaments: [{ name: 'A' }, { name: 'B' }], printer: { feed: 'changer' } }))
    expect(decisions).toMatchObject({ partFilament: 'A', standFilament: 'A', interfaceFilament: 'B', purgeMm3: 200 })
  })

  test('every decision is checked against the range the core works in', () => {
    for (const [name, [low, high]] of Object.entries(DECISION_RANGES)) {
      expect(PlanFile.safeParse({ decisions: { [name]: low } }).success).toBe(true)
      expect(PlanFile.safeParse({ decisions: { [name]: high } }).success).toBe(true)
      expect(PlanFile.safeParse({ decisions: { [name]: high + 1 } }).success).toBe(false)
      expect(DEFAULT_DECISIONS[name as NumberDecision]).toBeGreaterThanOrEqual(low)
    }
  })

  test('what is wrong is said with its place', () => {
    expect(sentenceOf({ decisions: { layerHeightMm: 9 } })).toBe('"decisions.layerHeightMm" must be at most 1.2.')
    expect(sentenceOf({ decisions: { walls: 1.5 } })).toBe('"decisions.walls" must be a whole number.')
    expect(sentenceOf({ decisions: { placement: 'moon' } })).toBe('"decisions.placement" must be "bed" or "anywhere".')
    expect(sentenceOf({ decision: {} })).toContain('"decision", which nothing here is called')
    expect(sentenceOf({ name: '' })).toBe('"name" must not be empty.')
    expect(sentenceOf([])).toBe('The document must be an object.')
    expect(sentenceOf({ decisions: { upperGapMm: NaN } })).toContain('upperGapMm')
  })
})

describe('what goes over the wire', () => {
  const filament: FilamentInput = { ...plainFilament('Chalk PLA', 'PLA', '#d8d3c8'), spools: [{ label: '', gramsLeft: 200 }, { label: 'new', gramsLeft: 1000 }] } as never // prettier-ignore

  test('spools add up to what is left; without any nobody knows', () => {
    const stored = { ...filament, id: '', revision: 1, updatedAt: '' }
    expect(planFilament(stored)).toMatchObject({ name: 'Chalk PLA', gramsLeft: 1200 })
    expect(planFilament({ ...stored, spools: [] }).gramsLeft).toBeNull()
  })

  test('unknown fields, impossible numbers and empty coupons are refused', () => {
    const { gramsLeft: _, ...input } = filament as FilamentInput & { gramsLeft?: unknown }
    expect(FilamentInput.safeParse(input).success).toBe(true)
    expect(FilamentInput.safeParse({ ...input, densityGcm3: 0 }).success).toBe(false)
    expect(FilamentInput.safeParse({ ...input, extra: 1 }).success).toBe(false)
    expect(FilamentInput.safeParse({ ...input, colour: 'red' }).success).toBe(false)
    expect(TrialInput.shape.coupon.safeParse({ kind: 'gap', gapsMm: [], spacingsMm: [0] }).success).toBe(false)
    expect(TrialInput.shape.coupon.safeParse({ kind: 'gap', gapsMm: [0.1, Infinity], spacingsMm: [0] }).success).toBe(false)
    expect(Problem.safeParse({ type: 'about:blank', title: 'x', status: 409, code: 'STALE', current: { a: 1 } }).success).toBe(true)
  })

  test('a stored trial becomes evidence with its conditions by name', () => {
    const trial = {
      id: 't',
      name: 'Chalk fan',
      coupon: { kind: 'fan', anglesDeg: [45], directions: ['any'] },
      printerName: 'Workshop twin',
      partFilamentName: 'Chalk PLA',
      supportFilamentName: 'Chalk PLA',
      nozzleMm: 0.4,
      layerHeightMm: 0.2,
      lineWidthMm: 0.45,
      speedMmS: 60,
      fanPercent: 100,
      damp: true,
      readings: [{ step: 'any:45', grade: 2, release: null, finish: null, forceN: null, leftOut: false }],
    } as unknown as Trial
    expect(knownTrial(trial)).toMatchObject({ kind: 'fan', conditions: { printer: 'Workshop twin', damp: true }, readings: [{ angleDeg: 45, grade: 2, layerHeightMm: 0.2 }] })
  })
})
