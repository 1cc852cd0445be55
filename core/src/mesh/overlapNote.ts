import type { MeshFacts } from './meshFacts'

/** Overlap below this share of the whole is rounding of the slices. */
const WORTH_TELLING = 0.01

/**
 * What closed shells that lie in one another lose when they are sliced, where everything counts once; null when that is nothing.
 * @param slicedMm3 volume of the slices, at the size that the facts are of
 */
export function overlapNote({ watertight, shells, volumeMm3 }: Pick<MeshFacts, 'watertight' | 'shells' | 'volumeMm3'>, slicedMm3: number): string | null {
  const overlapMm3 = volumeMm3 - slicedMm3
  if (!watertight || shells < 2 || overlapMm3 < WORTH_TELLING * volumeMm3) return null
  return `Its shells lie in one another by ${Number((overlapMm3 / 1000).toPrecision(3))} cm³; sliced, that counts once.`
}
