/** Whoever may answer late is not waited for any longer. */
export const PATIENCE_MS = 600

/** What comes in time; null for what is late or fails. */
export async function inTime<T>(asked: Promise<T>): Promise<T | null> {
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS))
  return Promise.race([asked, late]).catch(() => null)
}
