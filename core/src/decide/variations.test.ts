import { expect, test } from '@jest/globals'
import { PLAIN_PRINTER, plainFilament } from '../bench'
import { aPrint, aTile, named } from '../testing'
import type { KnownTrial } from '../trial'
import {
  checkDocument,
  holdsAsMuch,
  newDocument,
  nothingBeats,
  pairsOf,
  startFromEvidence,
  variationsOf,
  type Decisions,
  type PlanDocument,
  type Standing,
} from '.'

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const slate = plainFilament('Slate ABS', 'ABS', '#4b5561')
const trials: KnownTrial[] = [chalk, moss].map((touching, n) => ({
  id: `ladder ${n}`,
  name: 'ladder',
  printedOn: '2026-11-19',
  kind: 'gap',
  conditions: aPrint({ supportFilament: named(touching.name) }),
  readings: [0, 0.1, 0.2, 0.3].map((gapMm) =>
    aTile(gapMm, gapMm > 0.15 - 0.1 * n ? 1 : 5, gapMm < 0.25 ? 1 : 5),
  ),
}))
const document = startFromEvidence(newDocument({ filaments: [chalk] }), trials)
const variations = variationsOf(document, { trials, filaments: [chalk, moss, slate] })
const standing = (changes: Partial<Standing> = {}): Standing => ({
  massG: 50,
  timeS: 3600,
  pTender: 0.9,
  release: 0,
  errors: 0,
  unsteady: false,
  unheldMm2: 10,
  ...changes,
})

test('a plan is varied in one thing at a time, each variation a plan that can be, with the readings of its own pairing', () => {
  expect(variations[0]).toMatchObject({ subject: 'nothing', document })
  for (const { document: varied, subject, words } of variations.slice(1)) {
    expect(() => checkDocument(varied)).not.toThrow()
    const differing = (Object.keys(document.decisions) as (keyof Decisions)[]).filter(
      (name) => varied.decisions[name] !== document.decisions[name],
    )
    // Values that stood on readings go along with what they were read of.
    const own = differing.filter(
      // How branches are counts only where there are any.
      (name) =>
        !['branches', 'upperGapMm', 'purgeMm3', 'supportSpanMm', 'freeAngleDeg', 'leanDeg'].includes(name),
    )
    expect([
      words,
      own.length <= 1 || subject === 'layer',
      differing.length + varied.exceptions.length > 0,
    ]).toEqual([words, true, true])
  }
  const touched = variations.find(({ words }) => words === 'touched by Moss PETG')!
  expect(touched.document.evidence.upperGapMm?.trials.map(({ id }) => id)).toEqual(['ladder 1'])
  expect(touched.document.decisions.upperGapMm).not.toBe(document.decisions.upperGapMm)
  // What no bed suits is not tried.
  expect(variations.some(({ words }) => words.includes('Slate ABS'))).toBe(false)
  expect(
    variationsOf(
      { ...document, decisions: { ...document.decisions, supports: false } },
      { filaments: [moss] },
    ),
  ).toHaveLength(1)
})

test('kinds of stands are varied under one kind of underside at a time, and what is said of it already stays', () => {
  const under = (one: PlanDocument) =>
    variationsOf(one, { trials, filaments: [] })
      .filter(({ words }) => words.endsWith('alone'))
      .map(({ words, document: { exceptions, decisions } }) => [words, exceptions, decisions.standKind])
  expect(under(document)).toEqual([
    ...(['flat', 'sloped', 'rounded', 'tip'] as const).map((kind) => [
      `branching stands under ${kind === 'tip' ? 'tips' : `${kind} undersides`} alone`,
      [{ where: { kind }, standKind: 'branching' }],
      'straight',
    ]),
    [
      '1 interface layer under sloped undersides alone',
      [{ where: { kind: 'sloped' }, interfaceLayers: 1 }],
      'straight',
    ],
  ])
  const said = { where: { kind: 'flat' }, marginMm: 1 } as const
  const branching = newDocument({ decisions: { standKind: 'branching', interfaceLayers: 1 } })
  expect(under({ ...branching, exceptions: [said] })).toEqual([
    ['straight stands under flat undersides alone', [{ ...said, standKind: 'straight' }], 'branching'],
  ])
})

test('leftovers go into stands where one nozzle swaps filaments, and nowhere else', () => {
  const words = (feed: 'changer' | 'nozzles', touching: string) => {
    const plan = newDocument({
      printer: { ...PLAIN_PRINTER, feed },
      filaments: [chalk, moss],
      decisions: { interfaceFilament: touching },
    })
    return variationsOf(plan, { trials, filaments: [chalk, moss] }).filter(
      ({ document: { decisions } }) => decisions.purgeInto === 'stands',
    )
  }
  expect(words('changer', moss.id)).toHaveLength(1)
  expect(words('changer', chalk.id)).toEqual([])
  expect(words('nozzles', moss.id)).toEqual([])
})

test('shown is what nothing beats: lighter or quicker or cleaner than every other; hairs do not count, and of two alike one stays', () => {
  const all = [
    { name: 'base', standing: standing() },
    { name: 'lighter', standing: standing({ massG: 40, timeS: 4000 }) },
    { name: 'lighter and slower still', standing: standing({ massG: 40, timeS: 5000 }) },
    { name: 'a hair lighter', standing: standing({ massG: 49.95 }) },
    { name: 'cleaner', standing: standing({ pTender: 0.97, massG: 60 }) },
    { name: 'unheld', standing: standing({ unheldMm2: 400 }) },
    { name: 'lightest, unsteady', standing: standing({ massG: 38, timeS: 3500, unsteady: true }) },
  ]
  expect(nothingBeats(all).map(({ name }) => name)).toEqual([
    'base',
    'lighter',
    'cleaner',
    'lightest, unsteady',
  ])
  expect(holdsAsMuch(standing({ unheldMm2: 30 }), standing())).toBe(true)
  expect(holdsAsMuch(standing({ unheldMm2: 400, massG: 1 }), standing())).toBe(false)
  expect(holdsAsMuch(standing({ errors: 1 }), standing())).toBe(false)
})

test('pairs are of different subjects, hold both changes, and leave out what something beats', () => {
  const of = (words: string) => variations.find((one) => one.words === words)!
  const singles = [
    { variation: variations[0], standing: standing() },
    { variation: of('touched by Moss PETG'), standing: standing({ pTender: 0.98, massG: 55 }) },
    { variation: of('branching stands'), standing: standing({ massG: 35, timeS: 4200 }) },
    { variation: of('2 interface layers'), standing: standing({ massG: 48, timeS: 3400 }) },
    { variation: of('4 interface layers'), standing: standing({ massG: 52, timeS: 3800 }) },
  ]
  const pairs = pairsOf(singles, 10)
  const words = pairs.map((one) => one.words)
  expect(words).toContain('touched by Moss PETG, branching stands')
  expect(words.some((one) => one.includes('4 interface layers'))).toBe(false)
  expect(new Set(words.map((one) => one.split(', ').sort().join())).size).toBe(words.length)
  const both = pairs.find((one) => one.words === 'touched by Moss PETG, branching stands')!.document
  expect(both.decisions).toMatchObject({ interfaceFilament: moss.id, standKind: 'branching' })
  expect(pairsOf(singles, 1)).toHaveLength(1)
})
