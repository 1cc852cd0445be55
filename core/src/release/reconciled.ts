import type { ReleaseChain } from './releaseChain'

/** What readings of a pairing say at a gap. */
export type MeasuredRelease = { readonly chance: number; readonly readings: number; readonly gapMm: number }

/** Readings from this share on that came off well speak before any guess about clings. */
export const SURELY_CLEAN = 0.7

/** What is measured and what is guessed of a release in one sentence: the measured first, and where they differ both are named. */
export function reconciled(chain: ReleaseChain, measured: MeasuredRelease | null): string {
  if (!measured) return chain.sentence
  const { chance, readings, gapMm } = measured
  const says = `${readings} ${readings === 1 ? 'reading says' : 'readings say'} ${Math.round(100 * chance)} % come off clean at ${gapMm.toFixed(2)} mm`
  const guess = chain.sentence.charAt(0).toLowerCase() + chain.sentence.slice(1)
  if (chance >= SURELY_CLEAN)
    return chain.interfaceFollows === 'surely'
      ? `${says}, and the clings of the families agree: ${guess}`
      : `${says}; that speaks before the guess by the clings of the families, by which the interface might stay behind.`
  return `${says}; by the clings of the families ${guess}`
}
