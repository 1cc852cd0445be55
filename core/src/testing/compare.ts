import { regionAreaMm2, type PolygonEngine, type Region } from '../polygon'

/** Fails on NaN as well as on distance. */
export function closeTo(actual: number, expected: number, within: number): void {
  if (!(Math.abs(actual - expected) <= within)) throw new Error(`${actual} is not within ${within} of ${expected}`)
}

/** Two regions may differ by slivers of this area at most. */
export function expectRegionsClose(engine: PolygonEngine, a: Region, b: Region, withinMm2: number): void {
  closeTo(regionAreaMm2(engine.minus(a, b)) + regionAreaMm2(engine.minus(b, a)), 0, withinMm2)
}
