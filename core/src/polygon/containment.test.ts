import { describe, expect, test } from '@jest/globals'
import { seeded, square } from '../testing'
import { containment } from './containment'
import { joinPieces, regionContains, regionFromRings, type Region } from './index'

const star = (corners: number, far: (n: number) => number): Region =>
  regionFromRings([
    Array.from({ length: corners }, (_, n) => {
      const angle = (2 * Math.PI * n) / corners
      return [far(n) * Math.cos(angle), far(n) * Math.sin(angle)]
    }).flat(),
  ])

describe('whether places lie in a region', () => {
  test('says the same as side by side, for jagged outlines, holes and places at corners and on level sides', () => {
    const { next } = seeded(5)
    const jagged = star(240, () => 4 + 6 * next())
    const hole = regionFromRings([[-1, -1, -1, 1, 1, 1, 1, -1]])
    for (const region of [jagged, joinPieces([square(12), hole]), star(3, () => 2), regionFromRings([])]) {
      const contains = containment(region)
      const places = [...region.xyMm]
      for (let n = 0; n < 4000; n++)
        places.push(24 * next() - 12, n % 3 === 0 ? Math.round(24 * next()) - 12 : 24 * next() - 12)
      const wrong: number[][] = []
      for (let i = 0; i < places.length; i += 2)
        if (contains(places[i], places[i + 1]) !== regionContains(region, places[i], places[i + 1]))
          wrong.push([places[i], places[i + 1]])
      expect(wrong).toEqual([])
    }
  })
})
