import { describe, expect, test } from '@jest/globals'
import { GapFinder } from './gapFinder'
import { MoveClock } from './moveClock'

const W = 0.45
/** Line beside line over a square of so many millimetres, one way or across it. */
function fill(
  finder: GapFinder,
  role: string,
  side: number,
  topMm: number,
  across: boolean,
  at = 0,
  spacing = W,
): void {
  for (let v = W / 2; v < side; v += spacing)
    if (across) finder.lay(role, at + v, 0, at + v, side, topMm, 0.2)
    else finder.lay(role, at, v, at + side, v, topMm, 0.2)
}

describe('gaps found in lines alone', () => {
  test('under a solid layer the whole gap at its height, whichever way its lines run', () => {
    for (const across of [false, true]) {
      const finder = new GapFinder(W)
      fill(finder, 'interface', 20, 9.87, true)
      fill(finder, 'part', 20, 10.2, across)
      const found = finder.found()
      expect(found).toHaveLength(1)
      expect(found[0]).toMatchObject({ gapMm: 0.13 })
      expect(found[0].zMm).toBeCloseTo(10, 9)
      expect(Math.abs(found[0].areaMm2 / 400 - 1)).toBeLessThan(0.15)
    }
  })

  test('of several heights of support the highest below counts, and each is used up by the first layer above it', () => {
    const finder = new GapFinder(W)
    fill(finder, 'stand', 10, 4, true)
    fill(finder, 'interface', 10, 4.8, false)
    fill(finder, 'part', 10, 5.2, true)
    fill(finder, 'part', 10, 5.4, true)
    expect(finder.found().map(({ gapMm }) => gapMm)).toEqual([0.2])
  })

  test('two undersides, two gaps; what is beside a support, far above it, or smaller than a speck is none', () => {
    const finder = new GapFinder(W)
    fill(finder, 'interface', 10, 4.94, true)
    fill(finder, 'interface', 10, 7.8, true, 30)
    fill(finder, 'part', 10, 5.2, false)
    fill(finder, 'part', 10, 8.2, false, 30)
    expect(finder.found().map(({ gapMm, zMm }) => [gapMm, Number(zMm.toFixed(3))])).toEqual([
      [0.06, 5],
      [0.2, 8],
    ])
    const beside = new GapFinder(W)
    fill(beside, 'stand', 10, 3, true)
    fill(beside, 'part', 10, 3.4, true, 12)
    fill(beside, 'part', 10, 9, true)
    fill(beside, 'stand', 0.4, 5, true, 50)
    fill(beside, 'part', 0.4, 5.4, true, 50)
    expect(beside.found()).toEqual([])
  })

  test('between support lines laid apart a line of the part is bridged; farther apart it is at the next gap', () => {
    const over = (spacing: number) => {
      const finder = new GapFinder(W)
      fill(finder, 'interface', 12, 4.6, false)
      fill(finder, 'interface', 12, 4.8, true, 0, spacing)
      fill(finder, 'part', 10.8, 5.2, false)
      return finder.found().map(({ gapMm }) => gapMm)
    }
    expect(over(1.5)).toEqual([0.2])
    expect(over(4)).toEqual([0.2, 0.4])
    // A well between them that is deeper in its middle, and the end of a line over the edge of the last one.
    const inSteps = (farMm: number) => {
      const finder = new GapFinder(W)
      for (const [top, from, to] of [
        [4.4, 0, 10],
        [4.6, 2.2, 3.2],
        [4.8, 0, 2.3],
        [4.8, 3.1, 10 - farMm],
      ])
        for (let y = W / 2; y < 2; y += W) finder.lay('interface', from, y, to, y, top, 0.2)
      for (let y = W / 2; y < 2; y += W) finder.lay('part', 0, y, 10, y, 5.2, 0.2)
      return finder.found().map(({ gapMm }) => gapMm)
    }
    expect(inSteps(0.8)).toEqual([0.2])
    expect(inSteps(2.5)).toEqual([0.2, 0.6])
  })

  test('roles that are neither part nor what holds it leave no mark', () => {
    const finder = new GapFinder(W)
    fill(finder, 'footing', 10, 0.2, true)
    fill(finder, 'part', 10, 0.6, true)
    expect(finder.found()).toEqual([])
  })
})

describe('the clock of a file', () => {
  const clock = () => new MoveClock({ accelMmS2: 1000, cornerMmS: 10 })

  test('a straight cut into pieces takes no longer; a corner costs what slowing down for it does', () => {
    const whole = clock()
    whole.move(100, 0, 0, 50, true)
    const pieces = clock()
    for (let i = 0; i < 20; i++) pieces.move(5, 0, 0, 50, true)
    expect(pieces.finish()).toBeCloseTo(whole.finish(), 6)
    const bent = clock()
    bent.move(50, 0, 0, 50, true)
    bent.move(0, 50, 0, 50, true)
    // Down to 10 / sqrt 2 at the corner and up again, at 1000 mm/s2.
    const slow = 10 / Math.SQRT2
    expect(bent.finish()).toBeCloseTo(100 / 50 + 50 / 1000 + (50 - slow) ** 2 / 50 / 1000, 3)
  })

  test('travels begin and end at rest; filament alone and waits are counted as they are', () => {
    const moves = clock()
    moves.move(10, 0, 0, 100, false)
    // Too short for full speed: up and down again.
    expect(moves.finish()).toBeCloseTo(2 * Math.sqrt(10 / 1000), 6)
    moves.push(0.8, 40)
    moves.wait(2)
    moves.move(0, 0, 0.4, 10, false)
    expect(moves.finish()).toBeCloseTo(0.2 + 0.02 + 2 + 0.04, 6)
  })
})
