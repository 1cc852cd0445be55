/** Shortest of a few runs: noise only ever adds. */
export async function best(work: () => unknown, repeats = 3): Promise<number> {
  let shortest = Infinity
  for (let i = 0; i < repeats; i++) {
    const start = performance.now()
    await work()
    shortest = Math.min(shortest, performance.now() - start)
  }
  return shortest
}
