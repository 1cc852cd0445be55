import { describe, expect, test } from '@jest/globals'
import { plainFilament } from '../bench'
import type { FanReading, GapReading, Grade } from '../trial'
import { aFilament, aPlan, closeTo } from '../testing'
import { followEvidence, newerEvidence, startFromEvidence, suggest, tenderFromEvidence, type KnownTrial, type PlanDocument, type TrialConditions } from '.'

const moss = aFilament(plainFilament('Moss PETG', 'PETG', '#6d7f4b'))
const conditions: TrialConditions = {
  printer: 'Plain two-nozzle printer',
  partFilament: 'Chalk PLA',
  supportFilament: 'Chalk PLA',
  nozzleMm: 0.4,
  layerHeightMm: 0.2,
  lineWidthMm: 0.45,
  speedMmS: 60,
  fanPercent: 100,
  damp: false,
}
const fan = (limitDeg: number, changes: Partial<TrialConditions> = {}): KnownTrial => ({
  id: 'fan',
  name: 'Fan',
  kind: 'fan',
  conditions: { ...conditions, ...changes },
  readings: [30, 35, 40, 45, 50, 55, 60, 65, 70].map((angleDeg): FanReading => ({ angleDeg, direction: 'any', layerHeightMm: 0.2, lineWidthMm: 0.45, grade: (angleDeg < limitDeg ? 1 : 5) as Grade })),
})
const ladder = (from: number, to: number, changes: Partial<TrialConditions> = {}): KnownTrial => ({
  id: 'ladder',
  name: 'Ladder',
  kind: 'gap',
  conditions: { ...conditions, speedMmS: 40, ...changes },
  readings: [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4].map((gapMm): GapReading => ({
    gapMm,
    spacingMm: 0,
    release: gapMm >= from ? 1 : 5,
    finish: gapMm <= to ? 2 : 5,
    forceN: null,
    areaMm2: null,
  })),
})
const said = (document: PlanDocument, trials: readonly KnownTrial[]) => suggest({ trials, ...document })

describe('where a value comes from', () => {
  test('measured: same filament, same layer; the value is the cautious end, and the readings are counted', () => {
    const { freeAngleDeg, evidence } = said(aPlan(), [fan(57)])
    expect(evidence.freeAngleDeg).toMatchObject({ source: 'measured', readings: 9, trials: [{ id: 'fan', name: 'Fan' }], mismatches: [] })
    expect(freeAngleDeg).toBeGreaterThan(45)
    expect(freeAngleDeg).toBeLessThan(57)
    expect(evidence.freeAngleDeg.low!).toBeLessThan(evidence.freeAngleDeg.high!)
  })

  test('carried over: a thinner layer holds steeper, by the share that hangs over', () => {
    const thick = said(aPlan({ layerHeightMm: 0.2 }), [fan(57)])
    const thin = said(aPlan({ layerHeightMm: 0.1 }), [fan(57)])
    expect(thin.evidence.freeAngleDeg.source).toBe('transferred')
    const tangent = (angle: number) => Math.tan((angle * Math.PI) / 180)
    closeTo(tangent(thin.evidence.freeAngleDeg.low!) / tangent(thick.evidence.freeAngleDeg.low!), 2, 1e-6)
  })

  test('a starting guess says so, and a pairing’s ladder speaks for that pairing alone', () => {
    const touching = aPlan({ interfaceFilament: 'Moss PETG' }, { filaments: [aFilament(), moss] })
    const { evidence } = said(touching, [ladder(0.15, 0.3)])
    expect(evidence.upperGapMm).toMatchObject({ source: 'guess', readings: 0, sentence: expect.stringContaining('starting guess') })
    expect(said(aPlan(), [ladder(0.15, 0.3)]).evidence.upperGapMm).toMatchObject({ source: 'measured', readings: 9 })
    const mossLadder = said(touching, [ladder(0, 0.1, { supportFilament: 'Moss PETG' })])
    expect(mossLadder.upperGapMm).toBeLessThan(0.1)
  })

  test('what the share does not cover is listed: speed, nozzle, printer, a damp spool', () => {
    const { evidence } = said(aPlan(), [fan(57, { speedMmS: 30, nozzleMm: 0.6, printer: 'Another', damp: true })])
    expect(evidence.freeAngleDeg.mismatches).toHaveLength(4)
    expect(evidence.freeAngleDeg.mismatches.join(' ')).toMatch(/30 mm\/s.*damp/s)
  })
})

describe('a plan and its evidence', () => {
  const trials = [fan(57), ladder(0.15, 0.3)]

  test('starts where the evidence puts it, and the chance is read from the same curve', () => {
    const document = startFromEvidence(aPlan(), trials)
    expect(document.decisions.upperGapMm).toBe(document.evidence.upperGapMm!.value)
    const at = (gap: number) => tenderFromEvidence(document.evidence.upperGapMm, gap)!
    expect(at(document.decisions.upperGapMm)).toBeGreaterThan(0.8)
    expect(at(0)).toBeLessThan(0.2)
    expect(tenderFromEvidence(undefined, 0.2)).toBeNull()
  })

  test('values that followed go along with new readings, the maker’s own stay', () => {
    const start = startFromEvidence(aPlan(), trials)
    const mine = { ...start, decisions: { ...start.decisions, upperGapMm: 0.33 } }
    const next = followEvidence(mine, [fan(42), ladder(0.15, 0.3)])
    expect(next.decisions.freeAngleDeg).toBeLessThan(start.decisions.freeAngleDeg)
    expect(next.decisions.upperGapMm).toBe(0.33)
  })

  test('new readings mark an older plan; the same ones do not', () => {
    const start = startFromEvidence(aPlan(), trials)
    expect(newerEvidence(start, trials)).toEqual({})
    const more = fan(57)
    const further = { ...more, readings: [...more.readings, more.readings[0]] } as KnownTrial
    expect(Object.keys(newerEvidence(start, [further, trials[1]]))).toEqual(['freeAngleDeg'])
  })
})
