import { describe, expect, test } from '@jest/globals'
import { plainFilament, type Family } from '../bench'
import { aPrint, aTile, closeTo, named } from '../testing'
import type { KnownTrial } from '../trial'
import { colourAdvice, knownPairing, livesTogether, pairingSentence } from '.'

const filament = (family: Family, name: string = family) => plainFilament(name, family, '#888888')
const twin = { feed: 'nozzles' } as const
const changer = { feed: 'changer' } as const
const verdict = (
  part: Family,
  touching: Family,
  about: string,
  printer: { feed: 'nozzles' | 'changer' } = twin,
) => livesTogether(filament(part), filament(touching), printer).find((one) => one.about === about)!

describe('can two filaments live together', () => {
  test('bed: windows that meet are named by what they share, those that do not by both', () => {
    expect(verdict('ABS', 'HIPS', 'bed')).toMatchObject({
      grade: 'good',
      sentence: 'A bed of 95 to 110 °C suits both.',
    })
    // PLA 50 to 60, PETG 70 to 85: ten degrees apart.
    expect(verdict('PLA', 'PETG', 'bed')).toMatchObject({ grade: 'mind' })
    expect(verdict('PLA', 'ABS', 'bed')).toMatchObject({
      grade: 'bad',
      sentence: expect.stringContaining('PLA wants 50 to 60 °C, ABS wants 95 to 110 °C'),
    })
  })

  test('softening: a stand that softens below the heat of the bed gives way', () => {
    // ABS heats the bed to 103; PLA softens at 60.
    expect(verdict('ABS', 'PLA', 'softening')).toMatchObject({
      grade: 'bad',
      sentence: expect.stringContaining('PLA softens at 60 °C and the bed stands at 103'),
    })
    expect(verdict('PLA', 'ABS', 'softening').grade).toBe('good')
  })

  test('heat counts only in a shared nozzle', () => {
    expect(verdict('PLA', 'PC', 'heat', changer)).toMatchObject({
      grade: 'bad',
      sentence: expect.stringContaining('scorch'),
    })
    expect(verdict('PLA', 'PETG', 'heat', changer).grade).toBe('mind')
    expect(verdict('PLA', 'PLA', 'heat', changer).grade).toBe('good')
    expect(verdict('PLA', 'PC', 'heat', twin).grade).toBe('good')
  })

  test('damp and solvent: what to keep dry, what takes the support away, and when it takes the part too', () => {
    expect(verdict('PLA', 'PVA', 'damp')).toMatchObject({
      grade: 'mind',
      sentence: expect.stringContaining('Keep PVA dry'),
    })
    expect(verdict('PLA', 'PETG', 'damp').grade).toBe('good')
    expect(verdict('PLA', 'PVA', 'solvent')).toMatchObject({
      grade: 'good',
      sentence: 'Water takes PVA away where no tool reaches.',
    })
    expect(verdict('BVOH', 'PVA', 'solvent').grade).toBe('bad')
  })

  test('the maker’s own numbers are asked before ours', () => {
    const book = {
      facts: {
        PLA: {
          densityGcm3: 1.24,
          nozzleC: [190, 220],
          bedC: [50, 75],
          softensC: 60,
          dissolvesIn: null,
          drawsWater: false,
        },
      },
      cling: {},
    } as const
    expect(livesTogether(filament('PLA'), filament('PETG'), twin, book)[0].sentence).toBe(
      'A bed of 70 to 75 °C suits both.',
    )
  })
})

describe('colours', () => {
  test('black and white are a hundred apart, one colour not at all, and both sides are said', () => {
    closeTo(colourAdvice('#000000', '#ffffff').difference, 100, 0.1)
    expect(colourAdvice('#6d7f4b', '#6d7f4b')).toMatchObject({
      difference: 0,
      kind: 'close',
      sentence: expect.stringMatching(/hide.*specks/),
    })
    expect(colourAdvice('#d8d3c8', '#6b2c5c')).toMatchObject({
      kind: 'apart',
      sentence: expect.stringMatching(/specks.*swap/),
    })
  })
})

describe('what is known of a pairing', () => {
  const ladder = (part: string, touching: string): KnownTrial => ({
    id: part + touching,
    name: 'Ladder',
    printedOn: '2026-11-20',
    kind: 'gap',
    conditions: aPrint({ partFilament: named(part), supportFilament: named(touching), speedMmS: 40 }),
    readings: [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3].map((gap) =>
      aTile(gap, gap > 0.07 ? 1 : 5, gap < 0.22 ? 1 : 5),
    ),
  })

  test('a ladder speaks for its own way round only; the other way stays a guess', () => {
    const trials = [ladder('Chalk', 'Moss')]
    const known = knownPairing({ id: 'Chalk', family: 'PLA' }, { id: 'Moss', family: 'PETG' }, trials)
    expect(known).toMatchObject({ source: 'measured', cling: 1 })
    expect(known.fit.readings).toBe(7)
    closeTo(known.fit.suggestedGapMm, 0.145, 0.04)
    expect(pairingSentence(known)).toMatch(/^Leave 0\.1\d mm\. About \d+ in 100 contacts come off clean/)
    const other = knownPairing({ id: 'Moss', family: 'PETG' }, { id: 'Chalk', family: 'PLA' }, trials)
    expect(other.source).toBe('guess')
    expect(pairingSentence(other)).toContain('as a starting guess')
  })

  test('the less they cling, the smaller the gap that is guessed; nothing clings to polypropylene', () => {
    const guess = (a: Family, b: Family) => knownPairing({ id: a, family: a }, { id: b, family: b }, []).fit
    expect(guess('PLA', 'PP').suggestedGapMm).toBeLessThan(guess('PLA', 'PETG').suggestedGapMm)
    expect(guess('PLA', 'PETG').suggestedGapMm).toBeLessThan(guess('PLA', 'PLA').suggestedGapMm)
    expect(guess('PLA', 'PP').pTender).toBeGreaterThan(guess('PLA', 'PLA').pTender)
    expect(
      pairingSentence(knownPairing({ id: 'A', family: 'PC' }, { id: 'B', family: 'TPU' }, [])),
    ).toContain('probably cling at 2')
  })
})
