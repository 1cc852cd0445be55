/**
 * Value at x of the line through points at ascending xs; beyond its ends it stays level. There is at least
 * one point.
 */
export function lineAt(xs: readonly number[], ys: readonly number[], x: number): number {
  const after = xs.findIndex((one) => one >= x)
  if (after < 0) return ys.at(-1)!
  if (after === 0) return ys[0]
  const share = (x - xs[after - 1]) / (xs[after] - xs[after - 1])
  return ys[after - 1] * (1 - share) + ys[after] * share
}
