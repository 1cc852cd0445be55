import { regionFromRings, type Region } from '../polygon'

/** Corners of an upright square, counter-clockwise. */
export const squareRing = (sideMm: number, x = 0, y = 0): number[] => [
  x,
  y,
  x + sideMm,
  y,
  x + sideMm,
  y + sideMm,
  x,
  y + sideMm,
]
export const square = (sideMm: number, x = 0, y = 0): Region => regionFromRings([squareRing(sideMm, x, y)])
