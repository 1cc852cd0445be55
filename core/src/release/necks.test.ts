import { describe, expect, test } from '@jest/globals'
import { joinPieces, regionFromRings, type Region } from '../polygon'
import { necksOf } from './necks'

const square = (x: number, y: number, side: number): Region =>
  regionFromRings([[x, y, x + side, y, x + side, y + side, x, y + side]])
const layersOf = (regions: readonly Region[]) =>
  regions.map((region, i) => ({ bottomMm: 0.2 * i, topMm: 0.2 * (i + 1), region }))
const at = (layer: number, x: number, y: number) => ({ layer, x, y })

describe('necks of a part', () => {
  test('the thinnest section on the way to the bulk, of several ways the widest', () => {
    const bulk = square(0, 0, 20)
    const head = square(5, 5, 10)
    // Two stems carry the head: through the thicker one it hangs on.
    const stems = joinPieces([square(6, 6, 2), square(11, 11, 3)])
    const layers = layersOf([bulk, bulk, stems, stems, head, head])
    const [neck] = necksOf(layers, [at(4, 9, 6)])
    expect(neck!.areaMm2).toBeCloseTo(9, 9)
    expect(neck!.widthMm).toBeCloseTo(3, 9)
    expect(neck!.zMm).toBeGreaterThan(0.4)
    expect(neck!.zMm).toBeLessThan(0.8)
  })

  test('tells the side to hold: of the place, below a neck or above; the bulk hangs on what it may be held by', () => {
    const upright = (foot: number) => layersOf([square(5, 5, foot), square(9, 9, 2), square(0, 0, 20)])
    expect(necksOf(upright(11), [at(2, 3, 3), at(0, 6, 6)])).toMatchObject([
      { areaMm2: 4, side: 'above' },
      { areaMm2: 4, side: 'below' },
    ])
    // A foot with less than a quarter of its section is nothing to hold a part by.
    expect(necksOf(upright(9), [at(2, 3, 3)])).toEqual([null])
    // A part that only narrows has no other end.
    const cone = layersOf([20, 18, 16, 14, 12].map((side) => square(0, 0, side)))
    expect(necksOf(cone, [at(0, 3, 3)])).toEqual([null])
  })

  test('a neck of a neck: the narrower of two on the same way counts', () => {
    const layers = layersOf([
      square(0, 0, 20),
      square(9, 9, 4),
      square(10, 10, 1.5),
      square(9, 9, 4),
      square(5, 5, 8),
    ])
    expect(necksOf(layers, [at(4, 6, 6), at(3, 9.2, 9.2)]).map((neck) => neck?.areaMm2)).toEqual([2.25, 2.25])
  })

  test('a long thin wall is as wide as it is thick', () => {
    const wall = regionFromRings([[0, 9, 20, 9, 20, 9.8, 0, 9.8]])
    const layers = layersOf([square(0, 0, 20), wall, square(0, 4, 16)])
    const [neck] = necksOf(layers, [at(2, 1, 5)])
    expect(neck!.areaMm2).toBeCloseTo(16, 9)
    expect(neck!.widthMm).toBeCloseTo(0.8, 9)
  })

  test('no neck where a place is the bulk, where the way only widens, and where nothing joins it', () => {
    const bulk = square(0, 0, 20)
    expect(necksOf(layersOf([bulk, bulk]), [at(1, 3, 3)])).toEqual([null])
    // A tip on the bulk: the tip itself is the narrowest.
    expect(necksOf(layersOf([bulk, square(4, 4, 5), square(5, 5, 1)]), [at(2, 5.5, 5.5)])).toEqual([null])
    expect(necksOf(layersOf([bulk, square(40, 40, 5)]), [at(1, 41, 41)])).toEqual([null])
    expect(necksOf([], [at(0, 1, 1)])).toEqual([null])
  })
})
