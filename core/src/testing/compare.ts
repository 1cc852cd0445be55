/** Fails on NaN as well as on distance. */
export function closeTo(actual: number, expected: number, within: number): void {
  if (!(Math.abs(actual - expected) <= within))
    throw new Error(`${actual} is not within ${within} of ${expected}`)
}
