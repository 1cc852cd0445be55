export const FAMILIES = ['PLA', 'PETG', 'ABS', 'ASA', 'HIPS', 'PVA', 'BVOH', 'TPU', 'PA', 'PC', 'PP'] as const
export type Family = (typeof FAMILIES)[number]

/**
 * Where a family's numbers start from; every filament may say otherwise. softensC is null where the material
 * is soft anyway.
 */
export type FamilyFacts = {
  readonly densityGcm3: number
  readonly nozzleC: readonly [number, number]
  readonly bedC: readonly [number, number]
  readonly softensC: number | null
  readonly dissolvesIn: 'water' | 'limonene' | null
  /** Draws so much water from the air that a spool left open prints badly. */
  readonly drawsWater: boolean
}

/** Starting guesses, gathered from what practitioners use; sources in docs/method.md. */
export const FAMILY_FACTS: Readonly<Record<Family, FamilyFacts>> = {
  PLA: {
    densityGcm3: 1.24,
    nozzleC: [190, 220],
    bedC: [50, 60],
    softensC: 60,
    dissolvesIn: null,
    drawsWater: false,
  },
  PETG: {
    densityGcm3: 1.27,
    nozzleC: [230, 250],
    bedC: [70, 85],
    softensC: 80,
    dissolvesIn: null,
    drawsWater: false,
  },
  ABS: {
    densityGcm3: 1.04,
    nozzleC: [235, 255],
    bedC: [95, 110],
    softensC: 100,
    dissolvesIn: null,
    drawsWater: false,
  },
  ASA: {
    densityGcm3: 1.07,
    nozzleC: [240, 260],
    bedC: [95, 110],
    softensC: 100,
    dissolvesIn: null,
    drawsWater: false,
  },
  HIPS: {
    densityGcm3: 1.04,
    nozzleC: [225, 245],
    bedC: [95, 110],
    softensC: 95,
    dissolvesIn: 'limonene',
    drawsWater: false,
  },
  PVA: {
    densityGcm3: 1.23,
    nozzleC: [190, 215],
    bedC: [45, 60],
    softensC: 60,
    dissolvesIn: 'water',
    drawsWater: true,
  },
  BVOH: {
    densityGcm3: 1.14,
    nozzleC: [195, 215],
    bedC: [50, 65],
    softensC: 60,
    dissolvesIn: 'water',
    drawsWater: true,
  },
  TPU: {
    densityGcm3: 1.21,
    nozzleC: [215, 235],
    bedC: [35, 60],
    softensC: null,
    dissolvesIn: null,
    drawsWater: true,
  },
  PA: {
    densityGcm3: 1.14,
    nozzleC: [245, 270],
    bedC: [70, 100],
    softensC: 70,
    dissolvesIn: null,
    drawsWater: true,
  },
  PC: {
    densityGcm3: 1.2,
    nozzleC: [260, 290],
    bedC: [100, 115],
    softensC: 110,
    dissolvesIn: null,
    drawsWater: false,
  },
  PP: {
    densityGcm3: 0.9,
    nozzleC: [220, 245],
    bedC: [70, 95],
    softensC: 90,
    dissolvesIn: null,
    drawsWater: false,
  },
}

/** How strongly two filaments bond: 0 not at all .. 4 they weld. */
export const CLINGS = [0, 1, 1.5, 2, 3, 4] as const
export type Cling = (typeof CLINGS)[number]

const CLING: readonly (readonly [Family, Family, Cling])[] = [
  ['ABS', 'ASA', 4],
  ['ABS', 'HIPS', 2],
  ['ASA', 'HIPS', 2],
  ['PLA', 'PETG', 1],
  ['PLA', 'ABS', 1.5],
  ['PLA', 'PVA', 2],
  ['PLA', 'BVOH', 2],
  ['PETG', 'BVOH', 2],
  ['PETG', 'PVA', 1],
  ['PETG', 'ABS', 1.5],
  ['TPU', 'PLA', 2],
  ['TPU', 'PETG', 3],
  ['PA', 'PVA', 2],
]

/**
 * What a maker knows better than our starting guesses: numbers of families and clings of pairs. What it
 * leaves out is ours.
 */
export type FamilyBook = {
  readonly facts: Readonly<Partial<Record<Family, FamilyFacts>>>
  readonly cling: Readonly<Record<string, Cling>>
}

export const NO_CHANGES: FamilyBook = { facts: {}, cling: {} }

/** Name of a pair of families in a book, whichever comes first. */
export const clingKey = (a: Family, b: Family): string =>
  FAMILIES.indexOf(a) <= FAMILIES.indexOf(b) ? `${a}-${b}` : `${b}-${a}`

/** Numbers of a family: the maker's own, else ours. */
export const factsOf = (family: Family, book: FamilyBook = NO_CHANGES): FamilyFacts =>
  book.facts[family] ?? FAMILY_FACTS[family]

/**
 * Cling of two families as a starting guess: the maker's own, else ours. Pairs nobody has spoken for get the
 * middle, 2.
 */
export function clingGuess(
  a: Family,
  b: Family,
  book: FamilyBook = NO_CHANGES,
): { readonly cling: Cling; readonly known: boolean } {
  const own = book.cling[clingKey(a, b)]
  if (own !== undefined) return { cling: own, known: true }
  if (a === b) return { cling: 4, known: true }
  if (a === 'PP' || b === 'PP') return { cling: 0, known: true }
  const row = CLING.find(([p, q]) => (p === a && q === b) || (p === b && q === a))
  return row ? { cling: row[2], known: true } : { cling: 2, known: false }
}
