import { LineWords } from './lineWords'

const E = 'E'.charCodeAt(0)

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

/**
 * How far the filament of a nozzle is drawn back once a block is through, in mm; null where the block pushes
 * and draws none, and whatever its commands stand for is not known.
 * @param relative whether extrusion is relative as the block begins, @param e else where it stands
 */
export function drawnBackAfter(
  lines: readonly string[],
  { relative, e, backMm }: { readonly relative: boolean; readonly e: number; readonly backMm: number },
): number | null {
  const words = new LineWords()
  let [isRelative, at, back] = [relative, e, backMm]
  let moves = false
  for (const line of lines) {
    words.read(line, (line + ';').indexOf(';'))
    const { command } = words
    if (command === 'M83' || command === 'G91') isRelative = true
    if (command === 'M82' || command === 'G90') isRelative = false
    const given = words.has(E) ? words.of(E) : NaN
    if (!Number.isFinite(given)) continue
    if (command === 'G92') at = given
    if (command !== 'G0' && command !== 'G1') continue
    back = Math.max(0, back - (isRelative ? given : given - at))
    if (!isRelative) at = given
    moves = true
  }
  return moves ? back : null
}
