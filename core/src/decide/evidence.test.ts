import { describe, expect, test } from '@jest/globals'
import { NO_CHANGES, plainFilament } from '../bench'
import {
  fitsAskedBy,
  gradeChance,
  type FanReading,
  type GapReading,
  type Grade,
  type KnownTrial,
  type PurgeReading,
  type TrialConditions,
} from '../trial'
import { aFilament, aPlan, aPrint, fanUpTo, closeTo, named } from '../testing'
import {
  DEFAULT_PLAN,
  fitsAhead,
  followEvidence,
  leftoverShare,
  newerEvidence,
  startFromEvidence,
  suggest,
  tenderFromEvidence,
  type PlanDocument,
} from '.'

const moss = aFilament(plainFilament('Moss PETG', 'PETG', '#6d7f4b'))
const conditions = aPrint()
const fan = (limitDeg: number, changes: Partial<TrialConditions> = {}): KnownTrial => ({
  id: 'fan',
  name: 'Fan',
  printedOn: '2026-11-14',
  kind: 'fan',
  conditions: { ...conditions, ...changes },
  readings: fanUpTo(limitDeg),
})
const ladder = (from: number, to: number, changes: Partial<TrialConditions> = {}): KnownTrial => ({
  id: 'ladder',
  name: 'Ladder',
  printedOn: '2026-11-19',
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

test('a plan of any width of lines finds its fits made ahead, so that no key waits for one', async () => {
  const spaced = ladder(0.1, 0.3)
  const both: KnownTrial = {
    ...spaced,
    kind: 'gap',
    readings: (spaced.readings as readonly GapReading[]).flatMap((one) => [one, { ...one, spacingMm: 0.3 }]),
  }
  const trials = [fan(50), both]
  const ids = [both.conditions.partFilament.id, both.conditions.supportFilament.id]
  const filaments = [aFilament({ id: ids[0] }), aFilament({ ...moss, id: ids[1] })]
  const roles = { partFilament: ids[0], standFilament: ids[0], interfaceFilament: ids[1] }
  const familyOf = (id: string) => filaments.find((one) => one.id === id)?.family
  const ahead = await fitsAhead(trials, familyOf, NO_CHANGES)
  const known = new Set(ahead.map(({ name, trials, key }) => `${name} ${trials.join()} ${key}`))
  for (const lineWidthMm of [0.3, 0.45, 0.8]) {
    const plan = aPlan({ ...roles, lineWidthMm }, { filaments })
    const asked = fitsAskedBy(() => said(plan, trials))
    expect(asked.some(({ name, trials }) => name === 'gap' && trials.length > 0)).toBe(true)
    for (const { name, trials, key } of asked) expect(known).toContain(`${name} ${trials.join()} ${key}`)
  }
})

describe('sides and spans', () => {
  const towards = (limits: Readonly<Record<string, number>>): KnownTrial => {
    const read = fan(0).readings as readonly FanReading[]
    return {
      ...fan(0),
      readings: Object.entries(limits).flatMap(([direction, limit]) =>
        [0, 1, 2].flatMap(() =>
          read.map((one) => ({ ...one, direction, grade: (one.angleDeg < limit ? 1 : 5) as Grade })),
        ),
      ),
    } as KnownTrial
  }

  test('each side read has a limit of its own, those between a mean, and plans that use them follow', () => {
    const trials = [towards({ north: 67, east: 57, south: 47, west: 57 })]
    const { sidesDeg, value } = said(aPlan(), trials).freeAngleDeg
    expect(sidesDeg).toHaveLength(8)
    const [north, northEast, east, , south] = sidesDeg!
    expect(north).toBeGreaterThan(east)
    expect(east).toBeGreaterThan(south)
    expect(northEast).toBe(Math.floor((north + east) / 2))
    expect(value).toBe(south)
    const own = followEvidence(aPlan({ sideAnglesDeg: new Array<number>(8).fill(40) }), trials)
    expect(own.decisions.sideAnglesDeg).toEqual(sidesDeg)
    expect(followEvidence(aPlan(), trials).decisions.sideAnglesDeg).toBeNull()
    // Readings of one direction alone say nothing of sides.
    expect(said(aPlan(), [fan(57)]).freeAngleDeg.sidesDeg).toBeUndefined()
  })

  test('the free span is the cautious end of the ladders read, and a guess without any', () => {
    const span = (good: number): KnownTrial => ({
      id: 'span',
      name: 'Bridges',
      printedOn: '2026-11-20',
      kind: 'span',
      conditions,
      readings: [5, 10, 15, 20, 30, 40].map((spanMm) => ({
        spanMm,
        grade: (spanMm <= good ? 1 : 5) as Grade,
      })),
    })
    const guessed = said(aPlan(), []).freeSpanMm
    expect(guessed).toMatchObject({ source: 'guess', readings: 0 })
    // What plans start from without a bench is the same guess.
    expect(guessed.value).toBe(DEFAULT_PLAN.decisions.freeSpanMm)
    const measured = said(aPlan(), [span(20)]).freeSpanMm
    expect(measured).toMatchObject({
      source: 'measured',
      readings: 6,
      trials: [{ id: 'span', name: 'Bridges' }],
    })
    expect(measured.value).toBeGreaterThan(12)
    expect(measured.value).toBeLessThan(30)
    expect(said(aPlan({ layerHeightMm: 0.12 }), [span(20)]).freeSpanMm.source).toBe('transferred')
  })
})

describe('where a value comes from', () => {
  test('measured: same filament, same layer; the value is the cautious end, and the readings are counted', () => {
    const evidence = said(aPlan(), [fan(57)])
    expect(evidence.freeAngleDeg).toMatchObject({
      source: 'measured',
      readings: 9,
      trials: [{ id: 'fan', name: 'Fan' }],
      newest: '2026-11-14',
      mismatches: [],
    })
    expect(evidence.freeAngleDeg.value).toBeGreaterThan(45)
    expect(evidence.freeAngleDeg.value).toBeLessThan(57)
    expect(evidence.freeAngleDeg.low!).toBeLessThan(evidence.freeAngleDeg.high!)
  })

  test('carried over: a thinner layer holds steeper, by the share that hangs over', () => {
    const thick = said(aPlan({ layerHeightMm: 0.2 }), [fan(57)])
    const thin = said(aPlan({ layerHeightMm: 0.1 }), [fan(57)])
    expect(thin.freeAngleDeg.source).toBe('transferred')
    const tangent = (angle: number) => Math.tan((angle * Math.PI) / 180)
    closeTo(tangent(thin.freeAngleDeg.low!) / tangent(thick.freeAngleDeg.low!), 2, 1e-6)
  })

  test('a starting guess says so, and a pairing’s ladder speaks for that pairing alone', () => {
    const touching = aPlan({ interfaceFilament: 'Moss PETG' }, { filaments: [aFilament(), moss] })
    const evidence = said(touching, [ladder(0.15, 0.3)])
    expect(evidence.upperGapMm).toMatchObject({
      source: 'guess',
      readings: 0,
      sentence: expect.stringContaining('starting guess'),
    })
    expect(said(aPlan(), [ladder(0.15, 0.3)]).upperGapMm).toMatchObject({ source: 'measured', readings: 9 })
    const mossLadder = said(touching, [ladder(0, 0.1, { supportFilament: named('Moss PETG') })])
    expect(mossLadder.upperGapMm.value).toBeLessThan(0.1)
  })

  test('branches lean by what fans say of their own filament, in its own layers, and it is news where they do', () => {
    const other = fan(62, { partFilament: { id: moss.id, name: moss.name } })
    const trials = [fan(45), { ...other, id: 'moss fan' }]
    const filaments = [...aPlan().filaments, moss]
    const at = (decisions: object) => aPlan({ ...decisions }, { filaments })
    const own = said(at({}), trials)
    expect(own.leanDeg.value).toBe(own.freeAngleDeg.value - 5)
    const stands = said(at({ standFilament: moss.id }), trials)
    expect(stands.freeAngleDeg.value).toBe(own.freeAngleDeg.value)
    expect(stands.leanDeg.value).toBeGreaterThan(own.freeAngleDeg.value)
    expect(stands.leanDeg.trials.map(({ id }) => id)).toEqual(['moss fan'])
    const thick = said(at({ standFilament: moss.id, thickStands: true }), trials)
    expect(thick.leanDeg.value).toBeLessThan(stands.leanDeg.value - 5)
    const news = (decisions: object) =>
      Object.keys(newerEvidence(startFromEvidence(at(decisions), []), trials)).includes('leanDeg')
    expect([news({}), news({ standKind: 'branching' })]).toEqual([false, true])
  })

  test('what the share does not cover is listed: speed, nozzle, fan, printer, lot, a damp spool', () => {
    const evidence = said(aPlan({}, { filaments: [aFilament({ lots: ['C-131'] })] }), [
      fan(57, {
        speedMmS: 30,
        nozzleMm: 0.6,
        fanPercent: 40,
        printer: named('Another'),
        partLot: 'C-114',
        supportLot: 'C-114',
        damp: true,
      }),
    ])
    expect(evidence.freeAngleDeg.mismatches).toHaveLength(6)
    expect(evidence.freeAngleDeg.mismatches.join(' ')).toMatch(
      /30 mm\/s.*fan at 40 %.*lot C-114 of Chalk PLA; on the bench is C-131.*damp/s,
    )
    // The same lot, or none noted, is no mismatch.
    expect(
      said(aPlan({}, { filaments: [aFilament({ lots: ['C-114'] })] }), [fan(57, { partLot: 'C-114' })])
        .freeAngleDeg.mismatches,
    ).toEqual([])
  })

  test('purge: measured on a changer, whichever way round the ladder was printed; two nozzles only prime', () => {
    const strips = (dead: number, decay: number, swap: 'AB' | 'BA') =>
      [40, 80, 120, 160, 200, 250, 300].map((volumeMm3): PurgeReading => {
        const share = Math.min(0, -(volumeMm3 - dead) / decay)
        const grade = ([1, 2, 3, 4, 5] as const).reduce((best, one) =>
          gradeChance(one, share, 0.1) > gradeChance(best, share, 0.1) ? one : best,
        )
        return { volumeMm3, swap, grade }
      })
    const ladderOf = (partFilament: string, supportFilament: string, slow: 'AB' | 'BA'): KnownTrial => ({
      id: 'p',
      name: 'Purge',
      printedOn: '2026-11-21',
      kind: 'purge',
      conditions: {
        ...conditions,
        partFilament: named(partFilament),
        supportFilament: named(supportFilament),
      },
      readings: [...strips(30, 25, slow === 'AB' ? 'BA' : 'AB'), ...strips(50, 60, slow)],
    })
    const printedIn = (colour: string) =>
      aPlan(
        { interfaceFilament: 'Moss PETG' },
        {
          filaments: [
            { ...aFilament(), colour },
            { ...moss, colour: '#3a4a2a' },
          ],
          printer: { ...DEFAULT_PLAN.printer, feed: 'changer' },
        },
      )
    const pair = printedIn('#3a3a3a')
    const ladder = ladderOf('Chalk PLA', 'Moss PETG', 'BA')
    const one = said(pair, [ladder]).purgeMm3
    const turned = said(pair, [ladderOf('Moss PETG', 'Chalk PLA', 'AB')]).purgeMm3
    expect(one).toMatchObject({
      source: 'measured',
      readings: 14,
      sentence: expect.stringMatching(/from Moss PETG to Chalk PLA/i),
    })
    // 50 + 60 ln(20) = 230 do; the cautious volume lies a little above.
    expect(one.value).toBeGreaterThan(220)
    expect(one.value).toBeLessThan(300)
    expect(turned.value).toBe(one.value)
    // A light face after a dark filament bears a fifth of that: 50 + 60 ln(100) = 326.
    const light = said(printedIn('#f4f1ea'), [ladder]).purgeMm3
    expect(light.sentence).toMatch(/for a light face/)
    expect(light.value).toBeGreaterThan(320)
    // The other way round 30 + 25 ln(20) = 105 make an interface that lets go.
    const away = said(pair, [ladder]).purgeAwayMm3
    expect(away.value).toBeGreaterThan(95)
    expect(away.value).toBeLessThan(150)
    // What is left over follows r(V) = exp(-(V - Vd) / Vm).
    const left = leftoverShare(one, 'Moss PETG', 'Chalk PLA', 170)!
    expect(left).toBeGreaterThan(0.6 * Math.exp(-(170 - 50) / 60))
    expect(left).toBeLessThan(1.6 * Math.exp(-(170 - 50) / 60))
    expect(leftoverShare(one, 'Chalk PLA', 'Moss PETG', 170)).toBeNull()
    expect(said(pair, []).purgeMm3).toMatchObject({ source: 'guess', value: 200 })
    expect(said(aPlan(), [ladderOf('Chalk PLA', 'Moss PETG', 'AB')]).purgeMm3).toMatchObject({
      source: 'guess',
      value: 15,
    })
  })

  test('a cling that the maker changed moves the starting guess', () => {
    const touching = aPlan({ interfaceFilament: 'Moss PETG' }, { filaments: [aFilament(), moss] })
    const weak = suggest({ trials: [], ...touching, book: { facts: {}, cling: { 'PLA-PETG': 0 } } })
      .upperGapMm.value
    const strong = suggest({ trials: [], ...touching, book: { facts: {}, cling: { 'PLA-PETG': 3 } } })
      .upperGapMm.value
    expect(weak).toBeLessThan(strong)
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
