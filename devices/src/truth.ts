/** What is true of a pairing of filaments and nobody is told. */
export type Truth = {
  /** Gap from which it lets go, and up to which the face looks well, in mm. */
  readonly letsGoMm: number
  readonly looksWellMm: number
  /** Newtons on a square millimetre at no gap, and the gap over which that falls to a third. */
  readonly pullNPerMm2: number
  readonly pullFallsMm: number
  readonly freeAngleDeg: number
  readonly freeSpanMm: number
  readonly deadMm3: number
  readonly decayMm3: number
  /** What is laid beside what the estimate says. */
  readonly gramsFactor: number
}

/** 0 to 1 from a name; the same name always gives the same. Source: FNV-1a, its upper bits. */
function share(name: string): number {
  let hash = 0x811c9dc5
  for (const byte of Buffer.from(name)) hash = Math.imul(hash ^ byte, 0x01000193)
  hash ^= hash >>> 15
  hash = Math.imul(hash, 0x2c1b3c6d)
  hash ^= hash >>> 12
  return (hash >>> 0) / 2 ** 32
}

/**
 * The truth of a part's filament touched by another. Made up, and the same each time: filaments of one name,
 * or whose names end alike (their family), weld; others let go early.
 */
export function truthOf(part: string, touching: string): Truth {
  const family = (name: string) => name.trim().split(/\s+/).at(-1)!.toLowerCase()
  const alike = family(part) === family(touching)
  const between = (what: string, low: number, high: number) =>
    low + share(`${what} ${part} ${touching}`) * (high - low)
  const letsGoMm = alike ? between('lets go', 0.12, 0.18) : between('lets go', 0.01, 0.06)
  return {
    letsGoMm,
    looksWellMm: letsGoMm + between('looks', 0.1, 0.16),
    pullNPerMm2: alike ? between('pull', 0.5, 0.9) : between('pull', 0.08, 0.2),
    pullFallsMm: between('falls', 0.06, 0.12),
    freeAngleDeg: 44 + 16 * share(`angle ${part}`),
    freeSpanMm: 14 + 20 * share(`span ${part}`),
    deadMm3: between('dead', 25, 45),
    decayMm3: between('decay', 25, 50),
    gramsFactor: 0.98 + 0.06 * share(`grams ${part}`),
  }
}
