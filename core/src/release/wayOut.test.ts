import { describe, expect, test } from '@jest/globals'
import { PART } from './standCells'
import type { StandGrid } from './standPieces'
import { leavingOf } from './wayOut'

const SIDE = 24

/**
 * A grid of 24 cells each way, empty but for what a rule calls part; and the cells of a piece by another
 * rule.
 */
function gridOf(
  isPart: (x: number, y: number, z: number) => boolean,
  isPiece: (x: number, y: number, z: number) => boolean,
): { grid: StandGrid; piece: number[] } {
  const cells = new Uint8Array(SIDE ** 3)
  const piece: number[] = []
  for (let z = 0; z < SIDE; z++)
    for (let y = 0; y < SIDE; y++)
      for (let x = 0; x < SIDE; x++) {
        const c = (z * SIDE + y) * SIDE + x
        if (isPiece(x, y, z)) piece.push(c)
        else if (isPart(x, y, z)) cells[c] = PART
      }
  const cellAt = (...at: [number, number, number]) => {
    const [x, y, z] = at.map(Math.floor)
    return at.every((value) => value >= 0 && value < SIDE) ? (z * SIDE + y) * SIDE + x : -1
  }
  return {
    grid: {
      cells,
      bodyOf: new Int32Array(0),
      heightMm: new Float32Array(0),
      nx: SIDE,
      ny: SIDE,
      nz: SIDE,
      cellMm: 1,
      originMm: [0, 0, 0] as const,
      pieces: [],
      pieceOf: new Int32Array(0),
      walls: {
        nx: SIDE,
        ny: SIDE,
        nz: SIDE,
        cellMm: 1,
        riseMm: 1,
        cellAt,
        placeOf: () => [0, 0, 0] as [number, number, number],
        isThin: () => false,
        contains: (...at) => cells[cellAt(...at)] === PART,
        isBetween: () => false,
        roomMm: () => 1,
        distanceMm: Float32Array.from(cells, (cell) => (cell === PART ? 0 : 0.5)),
        halfWayMm: new Float32Array(0),
        isShutX: () => false,
        isShutY: () => false,
        isShutZ: () => false,
      },
    },
    piece,
  }
}
const between = (value: number, low: number, high: number) => value >= low && value <= high
const block = (low: number, high: number) => (x: number, y: number, z: number) =>
  between(x, low, high) && between(y, low, high) && between(z, low, high)

describe('how a piece leaves', () => {
  test('downwards where it can, whatever else is open', () => {
    const { grid, piece } = gridOf((x, y, z) => z >= 16 && block(4, 19)(x, y, z), block(8, 15))
    expect(leavingOf(grid, piece)).toMatchObject({ pieces: 1, ways: [{ words: 'down' }] })
  })

  test.each([
    [
      'toward the front',
      (x: number, y: number, z: number) => !(y < 8 && between(x, 8, 15) && between(z, 8, 15)),
    ],
    [
      'toward the back',
      (x: number, y: number, z: number) => !(y > 15 && between(x, 8, 15) && between(z, 8, 15)),
    ],
    [
      'toward the left',
      (x: number, y: number, z: number) => !(x < 8 && between(y, 8, 15) && between(z, 8, 15)),
    ],
    [
      'toward the right',
      (x: number, y: number, z: number) => !(x > 15 && between(y, 8, 15) && between(z, 8, 15)),
    ],
    ['up', (x: number, y: number, z: number) => !(z > 15 && between(x, 8, 15) && between(y, 8, 15))],
  ])('out of a solid with one shaft: %s', (words, solid) => {
    const { grid, piece } = gridOf(solid, block(8, 15))
    expect(leavingOf(grid, piece)).toMatchObject({ pieces: 1, ways: [{ words }] })
  })

  test('along a slanting shaft only slantwise', () => {
    // A shaft towards the back and up, in equal steps.
    const inShaft = (x: number, y: number, z: number) =>
      between(x, 9, 14) && Math.abs(z - y) <= 4 && y + z >= 16
    const { grid, piece } = gridOf(
      (x, y, z) => !inShaft(x, y, z),
      (x, y, z) => between(x, 9, 14) && Math.abs(z - y) <= 3 && between(y + z, 18, 24),
    )
    expect(leavingOf(grid, piece)).toMatchObject({ pieces: 1, ways: [{ words: 'toward the back and up' }] })
  })

  test('a dumbbell in a wall comes out once it is broken through its neck', () => {
    // Wide on both sides of a wall with a narrow hole.
    const { grid, piece } = gridOf(
      (x, y, z) => between(y, 11, 12) && !(between(x, 11, 12) && between(z, 11, 12)),
      (x, y, z) =>
        (between(y, 5, 10) && block(6, 17)(x, 10, z)) ||
        (between(y, 13, 18) && block(6, 17)(x, 15, z)) ||
        (between(y, 11, 12) && between(x, 11, 12) && between(z, 11, 12)),
    )
    const leaving = leavingOf(grid, piece)
    expect(leaving.pieces).toBe(2)
  })

  test('what runs through a bore breaks where it leaves another way than what stands before it', () => {
    // Before the wall a plate is in the way: what stands between them leaves beside it, the bore backwards.
    const inBore = (x: number, y: number, z: number) =>
      between(y, 11, 12) && between(x, 11, 12) && between(z, 11, 12)
    const slabs = (x: number, y: number, z: number) =>
      (between(y, 5, 10) && block(6, 17)(x, 10, z)) || (between(y, 13, 18) && block(6, 17)(x, 15, z))
    const { grid, piece } = gridOf(
      (x, y, z) => between(y, 3, 4) || (between(y, 11, 12) && !inBore(x, y, z)),
      (x, y, z) => slabs(x, y, z) || inBore(x, y, z),
    )
    const leaving = leavingOf(grid, piece)
    expect(leaving.pieces).toBe(2)
    const words = leaving.ways.map((way) => way.words)
    expect(words).toContain('toward the back')
    expect(words.filter((one) => /front|back/.test(one))).toHaveLength(1)
    // Without what runs through the bore both would leave as they are.
    expect(
      leavingOf(
        grid,
        piece.filter((c) => Math.floor(c / SIDE) % SIDE < 11),
      ).pieces,
    ).toBe(1)
  })

  test('a pocket like a screw lets nothing out whole; the same pocket without its turn does', () => {
    const pocket = (turns: number, half: number) => (x: number, y: number, z: number) => {
      const angle = (2 * Math.PI * turns * z) / SIDE
      return (
        Math.abs(x - 11.5 - 5 * Math.cos(angle)) <= half && Math.abs(y - 11.5 - 5 * Math.sin(angle)) <= half
      )
    }
    const screw = gridOf((x, y, z) => !pocket(1.5, 2.6)(x, y, z), pocket(1.5, 1.6))
    expect(leavingOf(screw.grid, screw.piece).pieces).not.toBe(1)
    const shaft = gridOf((x, y, z) => !pocket(0, 2.6)(x, y, z), pocket(0, 1.6))
    expect(leavingOf(shaft.grid, shaft.piece)).toMatchObject({ pieces: 1 })
  })

  test('walled in all around it does not leave, in however many pieces', () => {
    const { grid, piece } = gridOf(() => true, block(6, 17))
    expect(leavingOf(grid, piece)).toEqual({ pieces: null, ways: [] })
  })
})
