import type { ReleaseChain } from './releaseChain'

/** How often an interface was seen to come along with its stand, and to stay. */
export type SeenFollowing = { readonly came: number; readonly stayed: number }

/** What the guess is worth: so many contacts taken off, as Beta counts. */
const GUESSED: Readonly<Record<ReleaseChain['interfaceFollows'], readonly [number, number]>> = {
  surely: [3.6, 0.4],
  perhaps: [1, 1],
  hardly: [0.4, 1.6],
}

/** Chance that the interface comes along with its stand: the guess, and what was seen since. Source: Beta-binomial mean. */
export function followChance(
  guess: ReleaseChain['interfaceFollows'],
  { came, stayed }: SeenFollowing = { came: 0, stayed: 0 },
): number {
  const [yes, no] = GUESSED[guess]
  return (yes + came) / (yes + no + came + stayed)
}

/** What was seen of an interface, and what the guess was, in one sentence. */
export function seenSentence(chain: ReleaseChain, { came, stayed }: SeenFollowing): string {
  const says = `Of ${came + stayed} contacts taken off, the interface came along at ${came}`
  const clean = followChance(chain.interfaceFollows, { came, stayed }) >= SURELY_CLEAN
  return clean === (chain.interfaceFollows === 'surely')
    ? `${says}, as the clings of the families have it.`
    : `${says}; that speaks before the guess by the clings of the families: ${chain.sentence.charAt(0).toLowerCase()}${chain.sentence.slice(1)}`
}

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
