export const FAMILIES = ['PLA', 'PETG', 'ABS', 'ASA', 'HIPS', 'PVA', 'BVOH', 'TPU', 'PA', 'PC', 'PP'] as const
export type Family = (typeof FAMILIES)[number]

/** Where a family's numbers start from; every filament may say otherwise. softensC is null where the material is soft anyway. */
export type FamilyFacts = {
  readonly densityGcm3: number
  readonly nozzleC: readonly [number, number]
  readonly bedC: readonly [number, number]
  readonly softensC: number | null
  readonly dissolvesIn: 'water' | 'limonene' | null
}

/** Starting guesses, gathered from what practitioners use; sources in docs/method.md. */
export const FAMILY_FACTS: Readonly<Record<Family, FamilyFacts>> = {
  PLA: { densityGcm3: 1.24, nozzleC: [190, 220], bedC: [50, 60], softensC: 60, dissolvesIn: null },
  PETG: { densityGcm3: 1.27, nozzleC: [230, 250], bedC: [70, 85], softensC: 80, dissolvesIn: null },
  ABS: { densityGcm3: 1.04, nozzleC: [235, 255], bedC: [95, 110], softensC: 100, dissolvesIn: null },
  ASA: { densityGcm3: 1.07, nozzleC: [240, 260], bedC: [95, 110], softensC: 100, dissolvesIn: null },
  HIPS: { densityGcm3: 1.04, nozzleC: [225, 245], bedC: [95, 110], softensC: 95, dissolvesIn: 'limonene' },
  PVA: { densityGcm3: 1.23, nozzleC: [190, 215], bedC: [45, 60], softensC: 60, dissolvesIn: 'water' },
  BVOH: { densityGcm3: 1.14, nozzleC: [195, 215], bedC: [50, 65], softensC: 60, dissolvesIn: 'water' },
  TPU: { densityGcm3: 1.21, nozzleC: [215, 235], bedC: [35, 60], softensC: null, dissolvesIn: null },
  PA: { densityGcm3: 1.14, nozzleC: [245, 270], bedC: [70, 100], softensC: 70, dissolvesIn: null },
  PC: { densityGcm3: 1.2, nozzleC: [260, 290], bedC: [100, 115], softensC: 110, dissolvesIn: null },
  PP: { densityGcm3: 0.9, nozzleC: [220, 245], bedC: [70, 95], softensC: 90, dissolvesIn: null },
}

/** How strongly two filaments bond: 0 not at all .. 4 they weld. */
export type Cling = 0 | 1 | 1.5 | 2 | 3 | 4

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

/** Cling of two families as a starting guess. Pairs nobody has spoken for get the middle, 2. */
export function clingGuess(a: Family, b: Family): { readonly cling: Cling; readonly known: boolean } {
  if (a === b) return { cling: 4, known: true }
  if (a === 'PP' || b === 'PP') return { cling: 0, known: true }
  const row = CLING.find(([p, q]) => (p === a && q === b) || (p === b && q === a))
  return row ? { cling: row[2], known: true } : { cling: 2, known: false }
}
