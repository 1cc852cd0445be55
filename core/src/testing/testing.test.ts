import { expect, test } from '@jest/globals'
import { meshFacts } from '../mesh'
import { box, closeTo, cone, seeded, sphere } from '.'

test('closeTo refuses NaN and distance', () => {
  expect(() => closeTo(NaN, 1, 10)).toThrow()
  expect(() => closeTo(1.2, 1, 0.1)).toThrow()
  expect(() => closeTo(1.05, 1, 0.1)).not.toThrow()
})

test('the builders make closed meshes of the volume they should have', () => {
  expect(meshFacts(box([2, 3, 4]))).toMatchObject({ watertight: true, shells: 1, triangles: 12 })
  closeTo(meshFacts(box([2, 3, 4], [5, 5, 5])).volumeMm3, 24, 1e-4)
  const ball = meshFacts(sphere(10))
  expect(ball.watertight).toBe(true)
  closeTo(ball.volumeMm3, (4 / 3) * Math.PI * 1000, 12)
  expect(meshFacts(cone(45))).toMatchObject({ watertight: true, shells: 1 })
})

test('a seed gives the same numbers again, and others give others', () => {
  const draw = (seed: number) => Array.from({ length: 5 }, seeded(seed).next)
  expect(draw(1)).toEqual(draw(1))
  expect(draw(1)).not.toEqual(draw(2))
})
