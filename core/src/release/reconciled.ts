import type { ReleaseChain } from './releaseChain'

/** How often an interface was seen to come along with its stand, and to stay. */
export type SeenFollowing = { readonly came: number; readonly stayed: number }

/** What the guess is worth: so many contacts taken off, as Beta counts. */
const GUESSED: Readonly<Record<ReleaseChain['interfaceFollows'], readonly [number, number]>> = {
  surely: [3.6, 0.4],
  perhaps: [1, 1],
  hardly: [0.4, 1.6],
}

/**
 * Chance that the interface comes along with its stand: the guess, and what was seen since. Source:
 * Beta-binomial mean.
 */
export function followChance(
  guess: ReleaseChain['interfaceFollows'],
  { came, stayed }: SeenFollowing = { came: 0, stayed: 0 },
): number {
  const [yes, no] = GUESSED[guess]
  return (yes + came) / (yes + no + came + stayed)
}

/** What readings of a pairing say at a gap. */
export type MeasuredRelease = { readonly chance: number; readonly readings: number; readonly gapMm: number }

/** Readings from this share on that came off well speak before any guess about clings. */
export const SURELY_CLEAN = 0.7

/**
 * What is measured and what is guessed of a release in one sentence: the measured first, and where they
 * differ both are named.
 */
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

/** The same, and what was seen of contacts that were taken off. */
export function bondSentence(
  chain: ReleaseChain,
  measured: MeasuredRelease | null,
  seen: SeenFollowing | undefined,
): string {
  const read = reconciled(chain, measured)
  if (!seen) return read
  const full = /\.$/.test(read) ? read : `${read}.`
  return `${full} Of ${seen.came + seen.stayed} contacts taken off, the interface came along at ${seen.came}.`
}

/**
 * Whether the interface may be counted on to come along: by contacts taken off, what readings say of the
 * pairing, else the clings.
 */
export function surelyFollows(
  chain: ReleaseChain,
  measured: MeasuredRelease | null,
  seen: SeenFollowing | undefined,
): boolean {
  // A ladder that came off clean is worth as much beforehand as a sure guess.
  const believed = measured !== null && measured.chance >= SURELY_CLEAN ? 'surely' : chain.interfaceFollows
  return seen ? followChance(believed, seen) >= SURELY_CLEAN : believed === 'surely'
}
