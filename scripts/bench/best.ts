/** Processor time that some work takes, in ms: what compiles and tidies memory beside it counts as well. */
export async function processorMs(work: () => Promise<unknown>): Promise<number> {
  const from = process.cpuUsage()
  await work()
  const { user, system } = process.cpuUsage(from)
  return (user + system) / 1000
}

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
