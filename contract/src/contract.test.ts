import { describe, expect, test } from '@jest/globals'
import { clingGuess, plainFilament } from '@tender/core/bench'
import { DECISION_RANGES, DEFAULT_DECISIONS, DEFAULT_PLAN, type NumberDecision } from '@tender/core/decide'
import {
  completePlan,
  DecisionFields,
  familyBook,
  FilamentInput,
  issueSentence,
  knownTrial,
  knownTrials,
  loadProblems,
  planFilament,
  PlanDocumentFields,
  PlanFile,
  PrinterFields,
  Problem,
  readFilamentCsv,
  TrialInput,
  writeFilamentCsv,
  type Printer,
  SpoolFields,
  type StoredFilament,
  type Trial,
} from '.'

const sentenceOf = (value: unknown) => issueSentence(PlanFile.safeParse(value).error!).message

describe('plan files', () => {
  test('an empty file is the default plan, and a complete one comes back as it was', () => {
    expect(completePlan(PlanFile.parse({}))).toEqual(DEFAULT_PLAN)
    const document = completePlan(
      PlanFile.parse({
        name: 'Mine',
        decisions: { upperGapMm: 0.17 },
        filaments: [{ name: 'Chalk PLA' }, { name: 'Moss PETG', family: 'PETG', densityGcm3: 1.27 }],
        printer: { feed: 'changer' },
      }),
    )
    expect(completePlan(PlanFile.parse(JSON.parse(JSON.stringify(document))))).toEqual(document)
    expect(PlanDocumentFields.parse(document)).toEqual(document)
  })

  test('filaments take their roles by order, and a changer starts with a real purge', () => {
    const { decisions } = completePlan(
      PlanFile.parse({ filaments: [{ name: 'A' }, { name: 'B' }], printer: { feed: 'changer' } }),
    )
    expect(decisions).toMatchObject({
      partFilament: 'A',
      standFilament: 'A',
      interfaceFilament: 'B',
      purgeMm3: 200,
    })
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
    expect(sentenceOf({ decisions: { layerHeightMm: 9 } })).toBe(
      '"decisions.layerHeightMm" must be at most 1.2.',
    )
    expect(sentenceOf({ decisions: { walls: 1.5 } })).toBe('"decisions.walls" must be a whole number.')
    expect(sentenceOf({ decisions: { placement: 'moon' } })).toBe(
      '"decisions.placement" must be "bed" or "anywhere".',
    )
    expect(sentenceOf({ decision: {} })).toContain('"decision", which nothing here is called')
    expect(sentenceOf({ name: '' })).toBe('"name" must not be empty.')
    expect(sentenceOf([])).toBe('The document must be a set of fields in braces.')
    expect(sentenceOf({ pose: { turn: 7 } })).toBe('"pose.turn" must be a list.')
    expect(sentenceOf({ decisions: { supports: 'yes' } })).toBe('"decisions.supports" must be true or false.')
    expect(sentenceOf({ decisions: { upperGapMm: NaN } })).toContain('upperGapMm')
    // Of what may be said in several ways, the one that it comes nearest to.
    const where = (value: unknown) => sentenceOf({ exceptions: [{ where: value }] })
    expect(where({ kind: 'weird' })).toBe(
      '"exceptions.0.where.kind" must be "flat" or "sloped" or "rounded" or "tip".',
    )
    expect(where({ contact: [1, 2, 'x'] })).toBe('"exceptions.0.where.contact.2" must be a number.')
    expect(where({ contact: [1, 2] })).toBe('"exceptions.0.where.contact" must have 3 values.')
  })
})

let spools = 0
const aSpool = (changes: Partial<SpoolFields> = {}): SpoolFields =>
  SpoolFields.parse({
    id: `00000000-0000-4000-8000-${String(++spools).padStart(12, '0')}`,
    label: '',
    gramsLeft: 500,
    ...changes,
  })

describe('what goes over the wire', () => {
  const filament: FilamentInput = {
    ...plainFilament('Chalk PLA', 'PLA', '#d8d3c8'),
    spools: [
      aSpool({ gramsLeft: 200, lot: 'C-1' }),
      aSpool({ gramsLeft: 1000, lot: 'C-2', pricePerKg: 30, damp: true }),
    ],
  } as never

  test('spools add up to what is left; without any nobody knows', () => {
    const stored = { ...filament, id: '', revision: 1, updatedAt: '' }
    expect(planFilament(stored)).toMatchObject({ name: 'Chalk PLA', gramsLeft: 1200 })
    expect(planFilament({ ...stored, spools: [] }).gramsLeft).toBeNull()
    // What is loaded says which lot is printed from, and at what price.
    expect(planFilament(stored).lots).toEqual(['C-1', 'C-2'])
    expect(planFilament(stored, { loaded: [null, filament.spools[1].id] })).toMatchObject({
      lots: ['C-2'],
      pricePerKg: 30,
      gramsLeft: 1200,
    })
  })

  test('a plan is checked against what sits on its printer', () => {
    const stored = { ...filament, id: 'chalk', revision: 1, updatedAt: '' } as StoredFilament
    const plan = completePlan({})
    const printer = (loaded: (string | null)[]) =>
      ({ id: plan.printer.id, name: plan.printer.name, feed: 'nozzles', loaded }) as Printer
    const uses = (g: number) => [
      { id: 'chalk', name: 'Chalk PLA', mm3: 1, g, partG: g, m: 1, cost: 0, gramsLeft: null },
    ]
    const problems = (loaded: (string | null)[], g = 100) =>
      loadProblems(plan, uses(g), [printer(loaded)], [stored])
    expect(problems([null, null])).toEqual([])
    expect(problems([filament.spools[0].id, null])).toEqual([])
    expect(problems(['00000000-0000-4000-8000-00000000ffff', null])).toEqual([
      expect.stringContaining('Chalk PLA sits on no nozzle'),
    ])
    expect(problems([filament.spools[0].id, null], 250)).toEqual([
      expect.stringContaining('has 200 g left, 250.0 g are needed'),
    ])
    expect(problems([filament.spools[1].id, null])).toEqual([expect.stringContaining('is damp')])
  })

  test('filaments and spools go out as CSV and come back the same; known ones are changed, nothing is taken away', () => {
    const {
      id: _id,
      gramsLeft: _grams,
      lots: _lots,
      ...own
    } = filament as FilamentInput & { id?: unknown; gramsLeft?: unknown; lots?: unknown }
    const stored: StoredFilament = {
      ...own,
      id: 'a',
      revision: 3,
      updatedAt: '',
      name: '=Chalk, "soft"',
      spools: [aSpool({ label: 'old', lot: '-7', openedOn: '2026-04-11', damp: true, emptyG: 230 })],
    }
    const csv = writeFilamentCsv([stored, { ...stored, id: 'b', name: 'Bare', spools: [] }])
    const back = readFilamentCsv(csv, [stored], () => 'new')
    expect(back.refused).toEqual([])
    expect(
      back.filaments.map(({ known, input }) => [known?.id ?? null, input.name, input.spools.length]),
    ).toEqual([
      ['a', '=Chalk, "soft"', 1],
      [null, 'Bare', 0],
    ])
    expect(back.filaments[0].input.spools).toEqual(stored.spools)
    const other = readFilamentCsv(csv.replace('old', 'other'), [stored], () => aSpool().id)
    expect(other.filaments[0].input.spools.map(({ label }) => label)).toEqual(['old', 'other'])
    const bad = readFilamentCsv(
      csv.replace(',1.24,', ',heavy,').replace('2026-04-11', 'spring'),
      [stored],
      () => 'x',
    )
    expect(bad.refused[0]).toMatchObject({
      line: 2,
      message: expect.stringMatching(/^Line 2: "densityGcm3" must be a number/),
    })
    expect(readFilamentCsv('name,family\nA,PLA', [], () => 'x').refused[0].message).toContain(
      'The header lacks "colour"',
    )
  })

  test('a book holds only what the maker changed', () => {
    const family = {
      name: 'PLA',
      own: true,
      revision: 1,
      densityGcm3: 1.3,
      nozzleC: [190, 220],
      bedC: [50, 60],
      softensC: 60,
      dissolvesIn: null,
      drawsWater: false,
      source: '',
    } as const
    const book = familyBook({
      families: [
        { ...family, nozzleC: [190, 220], bedC: [50, 60] },
        { ...family, name: 'PETG', own: false, nozzleC: [1, 2], bedC: [1, 2] },
      ],
      clings: [
        { a: 'PETG', b: 'PLA', cling: 3, own: true, known: true, source: '', revision: 1 },
        { a: 'PLA', b: 'PLA', cling: 4, own: false, known: true, source: '', revision: 0 },
      ],
    })
    expect(Object.keys(book.facts)).toEqual(['PLA'])
    expect(clingGuess('PLA', 'PETG', book)).toEqual({ cling: 3, known: true })
    expect(Object.keys(book.cling)).toHaveLength(1)
  })

  test('older documents and readings are filled in', () => {
    // A plan file may name one thing alone: everything else is as printed by --print-defaults, whatever came
    // later than the format.
    const printed = completePlan({})
    for (const [field, value] of Object.entries(printed.decisions))
      expect(completePlan(PlanFile.parse({ decisions: { [field]: value } }))).toEqual(printed)
    for (const [field, value] of Object.entries(printed.printer))
      expect(completePlan(PlanFile.parse({ printer: { [field]: value } }))).toEqual(printed)
    const { fanPercent: _, freeSpanMm: _span, ...older } = printed.decisions
    // Stored before bridges were told apart, a plan held them all, and does so still.
    expect(DecisionFields.parse(older)).toMatchObject({ fanPercent: 100, freeSpanMm: 0 })
    // Nor did it tell directions of purging apart, or know of towers.
    const { purgeAwayMm3: _away, purgeWhere: _where, ...before } = { ...printed.decisions, purgeMm3: 120 }
    const changer = { ...printed.printer, feed: 'changer' as const }
    expect(
      completePlan(PlanFile.parse({ ...printed, printer: changer, decisions: before })).decisions,
    ).toMatchObject({ purgeMm3: 120, purgeAwayMm3: 120, purgeWhere: 'printer' })
    expect(completePlan(PlanFile.parse({ printer: { feed: 'changer' } })).decisions).toMatchObject({
      purgeMm3: 200,
      purgeAwayMm3: 200,
      purgeWhere: 'tower',
    })
    const { id: _id, offsetMm: _o, startGcode: _s, ...printer } = completePlan({}).printer
    expect(PrinterFields.parse(printer)).toMatchObject({
      offsetMm: [18, 0, 0],
      startGcode: expect.stringContaining('G28'),
    })
  })

  test('unknown fields, impossible numbers and empty coupons are refused', () => {
    const {
      id: _id,
      gramsLeft: _grams,
      lots: _lots,
      ...input
    } = filament as FilamentInput & { id?: unknown; gramsLeft?: unknown; lots?: unknown }
    expect(FilamentInput.safeParse(input).success).toBe(true)
    expect(FilamentInput.safeParse({ ...input, densityGcm3: 0 }).success).toBe(false)
    expect(FilamentInput.safeParse({ ...input, extra: 1 }).success).toBe(false)
    expect(FilamentInput.safeParse({ ...input, colour: 'red' }).success).toBe(false)
    expect(TrialInput.shape.coupon.safeParse({ kind: 'gap', gapsMm: [], spacingsMm: [0] }).success).toBe(
      false,
    )
    expect(
      TrialInput.shape.coupon.safeParse({ kind: 'gap', gapsMm: [0.1, Infinity], spacingsMm: [0] }).success,
    ).toBe(false)
    expect(
      Problem.safeParse({ type: 'about:blank', title: 'x', status: 409, code: 'STALE', current: { a: 1 } })
        .success,
    ).toBe(true)
  })

  test('a stored trial becomes evidence with its conditions by identity', () => {
    const trial = {
      id: 't',
      name: 'Chalk fan',
      coupon: { kind: 'fan', anglesDeg: [45], directions: ['any'] },
      printerId: 'twin',
      printerName: 'Workshop twin',
      partFilamentId: 'chalk',
      supportFilamentId: 'chalk',
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
    expect(knownTrials([trial, { ...trial, id: 'u', leftOut: true } as Trial]).map(({ id }) => id)).toEqual([
      't',
    ])
    expect(knownTrial(trial)).toMatchObject({
      kind: 'fan',
      conditions: {
        printer: { id: 'twin', name: 'Workshop twin' },
        partFilament: { id: 'chalk' },
        damp: true,
      },
      readings: [{ angleDeg: 45, grade: 2, layerHeightMm: 0.2 }],
    })
  })
})
