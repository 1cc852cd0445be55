/**
 * Index of the first of ascending numbers that is not below a limit.
 * @param from where to begin to look, and `to` where to end: what is given when there is none
 */
export function firstFrom(
  rising: Float64Array | Int32Array,
  limit: number,
  from = 0,
  to = rising.length,
): number {
  while (from < to) {
    const middle = (from + to) >> 1
    if (rising[middle] < limit) from = middle + 1
    else to = middle
  }
  return from
}
