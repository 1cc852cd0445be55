/** Things, told by the numbers they were added with, that come to belong together. */
export function groups() {
  const parents: number[] = []
  const rootOf = (n: number): number => {
    while (parents[n] !== n) n = parents[n] = parents[parents[n]]
    return n
  }
  return {
    /** One more, alone; its number. */
    add: (): number => parents.push(parents.length) - 1,
    /** The one that stands for all that belong to the same group. */
    rootOf,
    areOne: (a: number, b: number): boolean => rootOf(a) === rootOf(b),
    unite(a: number, b: number): void {
      parents[rootOf(a)] = rootOf(b)
    },
  }
}
