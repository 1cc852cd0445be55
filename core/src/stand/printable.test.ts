import { expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { regionAreaMm2, regionFromRings, stackEngine } from '../polygon'
import { closeTo } from '../testing'
import { printable } from './printable'

test('a piece whose hole ends in its highest tip stays, but for what is narrower than a line', async () => {
  const engine = stackEngine(await polygonEngine())
  const piece = regionFromRings([
    [-3, -6, 5, -6, 1.7029, 2.4283, 1.7958, 3.2121, 1.9252, 4.0555, -1.9216, -1.5182],
    [1.6283, 3.6253, 1.9252, 4.0555, 1.8459, 3.5391],
  ])
  const { kept, slivers } = printable(piece, 0.45, engine)
  closeTo(regionAreaMm2(kept) + regionAreaMm2(slivers), regionAreaMm2(piece), 0.02)
  expect(regionAreaMm2(slivers)).toBeGreaterThan(0.02)
  expect(regionAreaMm2(slivers)).toBeLessThan(0.5)
})
