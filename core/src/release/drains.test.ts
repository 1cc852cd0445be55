import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { plainFilament } from '../bench'
import { newDocument } from '../decide'
import type { Mesh } from '../mesh'
import { createPlanner, planRelease } from '../plan'
import type { PolygonEngine } from '../polygon'
import { boxes, closeTo, spun } from '../testing'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

type Box = { size: readonly [number, number, number]; at: readonly [number, number, number] }
/** A wall of 4 mm from side to side of a room, with a square hole in it, or a slit below the lid. */
const wall = (y: number, hole: number | 'slit', side: number): Box[] => {
  if (hole === 'slit') return [{ size: [side, 4, 15], at: [0, y, 4] }]
  const [x, z] = [side / 2 - hole / 2, 13 - hole / 2]
  if (hole === 0) return [{ size: [side, 4, 18], at: [0, y, 4] }]
  return [
    { size: [x, 4, 18], at: [0, y, 4] },
    { size: [x, 4, 18], at: [side - x, y, 4] },
    { size: [hole, 4, z - 4], at: [x, y, 4] },
    { size: [hole, 4, 22 - z - hole], at: [x, y, z + hole] },
  ]
}
/** A room of 18 mm from floor to ceiling, holes in its front and back. */
const room = (front: number | 'slit', back: number, side = 40): Mesh =>
  boxes([
    { size: [side, side, 4], at: [0, 0, 0] },
    { size: [side, side, 4], at: [0, 0, 22] },
    { size: [4, side - 8, 18], at: [0, 4, 4] },
    { size: [4, side - 8, 18], at: [side - 4, 4, 4] },
    ...wall(0, front, side),
    ...wall(side - 4, back, side),
  ])

async function standOf(mesh: Mesh, family: 'PVA' | 'PLA') {
  const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
  const other = plainFilament('Mist', family, '#cfe0e6')
  const document = newDocument({
    filaments: [chalk, other],
    decisions: {
      placement: 'anywhere',
      standFilament: other.id,
      interfaceFilament: other.id,
      freeSpanMm: 0,
    },
  })
  const result = await createPlanner(engine).plan('part', mesh, document)
  // A hole may have a stand of its own: the room's is the one that carries most.
  return planRelease(document, result).stands.toSorted((a, b) => b.contactMm2 - a.contactMm2)[0]
}
const inRoom = (front: number, back: number, deg = 0) => standOf(spun(room(front, back), deg), 'PVA')

describe('drains of a soluble stand', () => {
  test('a closed room with one hole fills and drains through that: as wide as it is, where it is, and said to be the only one', async () => {
    for (const hole of [6, 13]) {
      const { drains, reasons, verdict } = await inRoom(hole, 0)
      expect(verdict).not.toBe('locked in')
      expect(drains).toHaveLength(1)
      const [{ atMm, widthMm, toward }] = drains!
      expect(toward).toBe('toward the front')
      // As wide as a round hole of its area, on cells of a millimetre.
      closeTo(widthMm, 2 * hole * Math.sqrt(1 / Math.PI), 0.12 * hole)
      closeTo(atMm[0], 0, 1.5)
      closeTo(atMm[1], -18, 2.5)
      closeTo(atMm[2], 13, 1.5)
      expect(reasons.join()).toMatch(
        /through one opening only, \d+ mm wide, that looks toward the front: turn that side down/,
      )
    }
  })

  test('in a large part holes narrow for its size are found one by one, a slit once', async () => {
    const inLarge = async (mesh: Mesh) => (await standOf(spun(mesh, 35), 'PVA')).drains!
    const [wide, narrow] = await inLarge(room(2.6, 3.8, 130))
    expect([wide, narrow].map(({ toward }) => toward)).toEqual([
      'toward the back and left',
      'toward the front and right',
    ])
    closeTo(wide.widthMm, 3.8, 0.3)
    closeTo(narrow.widthMm, 2.6, 0.3)
    closeTo(Math.hypot(...narrow.atMm.slice(0, 2)), 65 - 2, 3)
    closeTo(narrow.atMm[2], 13, 1.5)
    expect(await inLarge(room(0, 2.2, 130))).toHaveLength(1)
    expect(await inLarge(room('slit', 0, 130))).toMatchObject([{ toward: 'toward the front and right' }])
  })

  test('through two holes liquid flows, the widest is named first, however the room is turned; a shut one is locked in', async () => {
    const sides = { 0: ['back', 'front'], 35: ['back and left', 'front and right'] }
    for (const [deg, [wide, narrow]] of Object.entries(sides)) {
      const { drains, reasons } = await inRoom(7, 10, Number(deg))
      expect(drains!.map(({ toward }) => toward)).toEqual([`toward the ${wide}`, `toward the ${narrow}`])
      expect(reasons.join()).toContain(`flows through 2 openings, the widest`)
      expect(reasons.join()).toContain(`mm wide toward the ${wide}`)
    }
    const shut = await inRoom(0, 0)
    expect(shut).toMatchObject({ verdict: 'locked in', drains: [] })
  })

  test('walls thinner than a cell of the grid let nothing through, and along them runs no way out', async () => {
    const [side, deep, high, t, hole] = [36, 30, 16, 0.9, 4]
    const [x, y] = [(side - hole) / 2, (deep - hole) / 2]
    const box = boxes([
      { size: [side, deep, t], at: [0, 0, 0] },
      { size: [t, deep, high - 2 * t], at: [0, 0, t] },
      { size: [t, deep, high - 2 * t], at: [side - t, 0, t] },
      { size: [side - 2 * t, t, high - 2 * t], at: [t, 0, t] },
      { size: [side - 2 * t, t, high - 2 * t], at: [t, deep - t, t] },
      { size: [x, deep, t], at: [0, 0, high - t] },
      { size: [x, deep, t], at: [x + hole, 0, high - t] },
      { size: [hole, y, t], at: [x, 0, high - t] },
      { size: [hole, y, t], at: [x, y + hole, high - t] },
    ])
    for (const deg of [10, 29, 61]) {
      const { drains } = await standOf(spun(box, deg), 'PVA')
      expect(drains?.map(({ toward }) => toward)).toEqual(['up'])
      closeTo(drains![0].widthMm, 2 * hole * Math.sqrt(1 / Math.PI), 1)
    }
  })

  test('what does not dissolve has no drains, nor has what is washed from all sides', async () => {
    expect(await standOf(room(6, 0), 'PLA')).toMatchObject({ drains: null })
    const betweenPlates = boxes([
      { size: [40, 40, 3], at: [0, 0, 0] },
      { size: [6, 6, 12], at: [17, 17, 3] },
      { size: [40, 40, 3], at: [0, 0, 15] },
    ])
    const open = await standOf(betweenPlates, 'PVA')
    closeTo(open.reachMm, 12, 0.6)
    expect(open.drains).toBeNull()
  })
})
