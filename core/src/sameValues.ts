/** Whether two lists hold the very same values: what was worked out from the one goes for the other. */
export const sameValues = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((value, i) => Object.is(value, b[i]))
