/**
 * Equal rows told once, with how often they occur: a table of a hundred thousand readings holds a few hundred
 * different ones.
 */
export function counted<T>(
  rows: readonly T[],
  keyOf: (row: T) => string,
): (T & { readonly times: number })[] {
  const found = new Map<string, T & { times: number }>()
  for (const row of rows) {
    const key = keyOf(row)
    const known = found.get(key)
    if (known) known.times++
    else found.set(key, { ...row, times: 1 })
  }
  return [...found.values()]
}
