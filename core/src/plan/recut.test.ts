import { expect, test } from '@jest/globals'
import type { Contact } from './planResult'
import { recutsOf } from './recut'

/** Layers of 0.2 mm up to 20 mm. */
const layers = Array.from({ length: 100 }, (_, index) => ({
  index,
  bottomMm: index * 0.2,
  topMm: (index + 1) * 0.2,
  region: { xyMm: new Float64Array(0), starts: Uint32Array.of(0) },
}))
/**
 * An underside at 10 mm whose support ends a gap below, with three interface layers of the plan's own
 * thickness.
 */
const contact = (gap: number): Contact => {
  const top = 10 - gap
  const last = top - Math.floor(top / 0.2 - 1e-9) * 0.2
  const stack = [0, 1, 2].map((n) => ({
    role: 'interface' as const,
    bottomMm: top - last - 0.2 * (2 - n),
    topMm: n === 2 ? top : top - last - 0.2 * (1 - n),
  }))
  return { layerIndex: 50, achievedGapMm: gap, stack } as unknown as Contact
}

test('plain layers fill where their middle lies inside: gaps below half a layer close, others become whole layers', () => {
  const becomes = (gap: number) => {
    const [{ becomesMm, orMm }] = recutsOf([contact(gap)], layers)
    return [Number(becomesMm.toFixed(6)), orMm === null ? null : Number(orMm.toFixed(6))]
  }
  expect(becomes(0.05)).toEqual([0, null])
  // Exactly in the middle of a layer it may fall either way: the narrower is what has to be feared.
  expect(becomes(0.1)).toEqual([0, 0.2])
  expect(becomes(0.13)).toEqual([0.2, null])
  expect(becomes(0.2)).toEqual([0.2, null])
  expect(becomes(0.25)).toEqual([0.2, null])
  expect(becomes(0.35)).toEqual([0.4, null])
})

test('equal contacts are told once, and unheld ones not at all', () => {
  expect(recutsOf([contact(0.13), contact(0.13), contact(0.25)], layers)).toHaveLength(2)
  expect(recutsOf([{ ...contact(0.2), achievedGapMm: null }], layers)).toEqual([])
})
