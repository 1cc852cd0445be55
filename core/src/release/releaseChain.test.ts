import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { FAMILIES, plainFilament } from '../bench'
import { INTERFACE_LINES } from '../path'
import { closeTo } from '../testing'
import { releaseChain, type ChainInput } from '.'

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const base: ChainInput = {
  part: chalk,
  touching: chalk,
  bulk: chalk,
  upperGapMm: 0.2,
  lineWidthMm: 0.45,
  interfaceSpacingMm: 0,
  interfaceLines: 'straight',
  interfaceLayers: 3,
  standDensity: 0.12,
  footingLines: 2,
  contactMm2: 200,
  footprintMm2: 200,
}

describe('release chain', () => {
  test('one filament throughout: the gap lets the part go first, and the interface comes along', () => {
    const chain = releaseChain(base)
    expect(chain).toMatchObject({
      weakest: 'part and interface',
      interfaceFollows: 'surely',
      bedHolds: true,
      remedies: [],
    })
    // Welded, 200 mm2 whole, e^-2 of it left by a gap of twice the scale.
    closeTo(chain.bonds[0].strength, 200 * Math.exp(-2), 1e-9)
  })

  test('a weak pair touching on the same weak pair below: the interface stays behind, and stands in its own filament cure it', () => {
    const chain = releaseChain({ ...base, touching: moss, upperGapMm: 0 })
    expect(chain.interfaceFollows).toBe('hardly')
    expect(chain.sentence).toContain(
      'The interface is likely to stay behind: Moss PETG holds on to the part more than the Chalk PLA stands hold on to it',
    )
    const cure = chain.remedies.find((remedy) => remedy.change.bulk)!
    expect(cure).toMatchObject({
      price: 'another spool',
      cures: true,
      sentence: expect.stringContaining('Moss PETG'),
    })
    expect(releaseChain({ ...base, touching: moss, upperGapMm: 0, bulk: moss }).interfaceFollows).toBe(
      'surely',
    )
  })

  test('remedies come cheapest first, and each says truly whether it cures', () => {
    const input = { ...base, touching: moss, upperGapMm: 0 }
    const { remedies } = releaseChain(input)
    expect(remedies.map((remedy) => remedy.price)).toEqual([
      'nothing',
      'grams',
      'minutes',
      'a rougher face',
      'another spool',
    ])
    for (const { change, cures } of remedies)
      expect(releaseChain({ ...input, ...change }).interfaceFollows === 'surely').toBe(cures)
  })

  test('more gap, or open lines, weaken the part’s bond; more footing holds the bed', () => {
    const part = (changes: Partial<ChainInput>) => releaseChain({ ...base, ...changes }).bonds[0].strength
    expect(part({ upperGapMm: 0.25 })).toBeLessThan(part({}))
    closeTo(part({ interfaceSpacingMm: 0.45 }), part({}) / 2, 1e-9)
    expect(releaseChain({ ...base, footprintMm2: 8, upperGapMm: 0 }).bedHolds).toBe(false)
    expect(releaseChain({ ...base, footingLines: 4 }).bonds[2].strength).toBeGreaterThan(
      releaseChain(base).bonds[2].strength,
    )
  })

  test('whatever the support: bonds are no less than nothing, more gap never strengthens the part’s, and a verdict comes with its remedies', () => {
    const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    const filament = fc.constantFrom(...FAMILIES).map((family) => plainFilament(family, family, '#888888'))
    const input: fc.Arbitrary<ChainInput> = fc.record({
      part: filament,
      touching: filament,
      bulk: filament,
      upperGapMm: between(0, 1),
      lineWidthMm: between(0.2, 1),
      interfaceSpacingMm: between(0, 2),
      interfaceLines: fc.constantFrom(...INTERFACE_LINES),
      interfaceLayers: fc.integer({ min: 0, max: 12 }),
      standDensity: between(0.02, 1),
      footingLines: fc.integer({ min: 0, max: 20 }),
      contactMm2: between(0.1, 5000),
      footprintMm2: between(0, 5000),
    })
    fc.assert(
      fc.property(input, between(0, 0.5), (given, more) => {
        const chain = releaseChain(given)
        for (const { strength } of chain.bonds) expect(strength).toBeGreaterThanOrEqual(0)
        expect(
          releaseChain({ ...given, upperGapMm: given.upperGapMm + more }).bonds[0].strength,
        ).toBeLessThanOrEqual(chain.bonds[0].strength)
        expect(chain.remedies.length > 0).toBe(chain.interfaceFollows !== 'surely')
        const least = Math.min(...chain.bonds.map(({ strength }) => strength))
        expect(chain.bonds.find(({ between: name }) => name === chain.weakest)!.strength).toBe(least)
      }),
      { seed: 11 },
    )
  })
})
