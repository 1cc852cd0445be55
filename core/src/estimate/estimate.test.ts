import { describe, expect, test } from '@jest/globals'
import { FAMILIES, FAMILY_FACTS, filamentOf, plainFilament, PLAIN_PRINTER, thicknessOf } from '../bench'
import { aFilament, closeTo } from '../testing'
import { filamentMetres, massGrams } from '../units'
import { motionOf, ROLES } from '../print'
import { estimate } from '.'

describe('adding up', () => {
  const chalk = aFilament({ pricePerKg: 20, gramsLeft: 100 })
  const moss = aFilament({ ...plainFilament('Moss PETG', 'PETG', '#6d7f4b'), pricePerKg: 30 })

  test('by hand: 10 cm3 of part and 1 cm3 of stand in chalk, 0.5 cm3 of interface in moss', () => {
    const total = estimate(
      [
        { role: 'part', filament: 'Chalk PLA', mm3: 10_000 },
        { role: 'stand', filament: 'Chalk PLA', mm3: 1000 },
        { role: 'interface', filament: 'Moss PETG', mm3: 500 },
      ],
      [chalk, moss],
    )
    closeTo(total.massG, 11 * 1.24 + 0.5 * 1.27, 1e-9)
    closeTo(total.wasteG, 1.24 + 0.635, 1e-9)
    closeTo(total.cost, (13.64 / 1000) * 20 + (0.635 / 1000) * 30, 1e-9)
    expect(total.filaments.map(({ name, gramsLeft }) => [name, gramsLeft])).toEqual([
      ['Chalk PLA', 100],
      ['Moss PETG', null],
    ])
    expect(Object.keys(total.roles).sort()).toEqual([...ROLES].sort())
    expect(total.roles.purge).toEqual({ mm3: 0, g: 0 })
  })

  test('a metre of 1.75 mm filament is 2.405 cm3', () => {
    closeTo(filamentMetres(2405.28, 1.75), 1, 1e-5)
    closeTo(massGrams(2405.28, 1.24), 2.98, 0.01)
  })
})

describe('the bench', () => {
  test('every family starts with numbers that can be printed', () => {
    for (const family of FAMILIES) {
      const { densityGcm3, nozzleC, bedC } = FAMILY_FACTS[family]
      expect(densityGcm3).toBeGreaterThan(0.8)
      expect(nozzleC[0]).toBeLessThan(nozzleC[1])
      expect(bedC[0]).toBeLessThan(bedC[1])
      expect(plainFilament('x', family, '#000000').nozzleC).toBeGreaterThanOrEqual(nozzleC[0])
    }
  })

  test('a nozzle lays a quarter to three quarters of its width; no speed of a first layer exceeds its own limit', () => {
    expect(thicknessOf(PLAIN_PRINTER).map((value) => Number(value.toFixed(6)))).toEqual([0.1, 0.3])
    expect(Math.max(...Object.values(motionOf(PLAIN_PRINTER, true, null).speedsMmS))).toBe(
      PLAIN_PRINTER.firstLayerMmS,
    )
    expect(Math.max(...Object.values(motionOf(PLAIN_PRINTER, false, null).speedsMmS))).toBe(
      PLAIN_PRINTER.fillMmS,
    )
    expect(() => filamentOf([], 'Gone')).toThrow(expect.objectContaining({ code: 'FILAMENT_UNKNOWN' }))
  })
})
