/** Makes something the first time it is asked for; what failed is tried anew the next time. */
export function once<T>(make: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | null = null
  return () =>
    (made ??= make().catch((error: unknown) => {
      made = null
      throw error
    }))
}
