import { expect, test } from '@jest/globals'
import type { SupportPass } from '../stand'
import { closeTo, square } from '../testing'
import { onSomething } from './overNothing'
import { PathWriter, type ToolPaths } from './toolPaths'

const W = 0.45
type Line = readonly (readonly [number, number])[]
const level = (y: number, from = 0, to = 10): Line => [
  [from, y],
  [to, y],
]
const laid = (...lines: Line[]): ToolPaths => {
  const writer = new PathWriter()
  for (const line of lines) writer.add('stand', Float64Array.from(line.flat()), 0, line.length, false)
  return writer.finish()
}
const endsOf = ({ xyMm, starts }: ToolPaths) =>
  Array.from({ length: starts.length - 1 }, (_, p) => [
    ...xyMm.subarray(2 * starts[p], 2 * starts[p] + 2),
    ...xyMm.subarray(2 * starts[p + 1] - 2, 2 * starts[p + 1]),
  ])
const pass = (role: 'stand' | 'interface', bottomMm: number, topMm: number): SupportPass => ({
  role,
  fill: role,
  holding: 0,
  bottomMm,
  topMm,
  region: square(1),
  facesLayer: 0,
})
const NO_PART = { layers: [], belowMm: 0.5 }

test('a line stays where something below or beside it carries it, and only there', async () => {
  const carried = level(0.3)
  const tied = level(0.65)
  const alone = level(5, 0, 40)
  const onAlone = level(5.1, 0, 40)
  const onPart = level(22, 30, 34)
  const passes = [pass('stand', 0, 0.2), pass('stand', 0.2, 0.4), pass('stand', 0.4, 0.6)]
  const lines = [laid(level(0)), laid(tied, alone, carried, onPart), laid(carried, onAlone)]
  const plate = { bottomMm: -0.4, topMm: -0.1, region: square(6, 29, 19) }
  const [first, second, third] = await onSomething(passes, lines, { layers: [plate], belowMm: 0.5 }, W)
  expect(first).toBe(lines[0])
  expect(endsOf(second)).toEqual([tied, carried, onPart].map((line) => line.flat()))
  // What lay on the one that is gone goes too.
  expect(endsOf(third)).toEqual([carried.flat()])
  const [, bare] = await onSomething(passes, lines, NO_PART, W)
  expect(endsOf(bare)).toEqual([tied, carried].map((line) => line.flat()))
})

test('ends of interface lines hang 1.9 mm at most, also where a line goes on as another; rings stay whole', async () => {
  const ring: Line = [...level(0), [10, 8], [0, 8], [0, 0]]
  const ends = level(0.1, -5, 16)
  // One line that hangs by 9 mm, as three: nothing is left of the first, and 1.9 mm of the second.
  const chain = [level(-0.1, -9, -6), level(-0.1, -6, -1), level(-0.1, -1, 10)]
  const passes = [pass('stand', 0, 0.2), pass('interface', 0.2, 0.4)]
  const [, held] = await onSomething(passes, [laid(level(0)), laid(ring, ends, ...chain)], NO_PART, W)
  const [ringEnds, cut, second, third, ...more] = endsOf(held)
  expect(ringEnds).toEqual([0, 0, 0, 0])
  // What carries it reaches half a width beyond its own ends.
  closeTo(cut[0], -W / 2 - 1.9, 0.15)
  closeTo(cut[2], 10 + W / 2 + 1.9, 0.15)
  closeTo(second[0], -W / 2 - 1.9, 0.15)
  expect(second.slice(2)).toEqual([-1, -0.1])
  expect(third).toEqual(chain[2].flat())
  expect(more).toEqual([])
})

test('an end that only touches the rim of what carries it hangs, if it then goes on over nothing', async () => {
  // Its end lies beside a short line, half a width away, and the next that it meets is three millimetres off.
  const touching: Line = [
    [0, W / 2],
    [10, W / 2],
  ]
  const rim: Line = [
    [-1, 0],
    [0.05, 0],
  ]
  const across = (x: number): Line => [
    [x, -2],
    [x, 2],
  ]
  const passes = [pass('stand', 0, 0.2), pass('interface', 0.2, 0.4)]
  const below = laid(rim, across(3), across(5), across(7), across(9.9))
  const [, held] = await onSomething(passes, [below, laid(touching)], NO_PART, W)
  const [[x]] = endsOf(held)
  closeTo(x, 3 - W / 2 - 1.9, 0.15)
})
