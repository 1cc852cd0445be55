/**
 * What a block of a printer's own G-code can ask for, in braces: temperatures, numbers of nozzles, the bed,
 * and at a swap what to purge in mm3 and in mm of filament.
 */
export const BLOCK_WORDS = [
  'bed',
  'nozzle',
  'tool',
  'other',
  'otherNozzle',
  'width',
  'depth',
  'height',
  'purge',
  'purgeLength',
] as const
export type BlockFacts = Readonly<Record<(typeof BLOCK_WORDS)[number], number>>

/**
 * Fills the braces of a block and splits it into lines. Words it does not know stay as they are, so that
 * nothing is silently lost.
 */
export function fillBlock(block: string, facts: BlockFacts): string[] {
  return block
    .replace(/\{(\w+)\}/g, (whole, word: string) =>
      word in facts ? String(facts[word as keyof BlockFacts]) : whole,
    )
    .split(/\r?\n/)
    .map((line) => line.trimEnd())
    .filter((line) => line !== '')
}

/** Words in braces that no block knows. */
export function unknownWords(block: string): string[] {
  return [...block.matchAll(/\{(\w+)\}/g)]
    .map(([, word]) => word)
    .filter((word) => !BLOCK_WORDS.includes(word as never))
}
