/**
 * Starting guesses: what a nozzle pushes with at the top of a stand, what the bed holds a first layer with,
 * and how stiff printed plastic is.
 */
export const NOZZLE_PUSHES_N = 1
export const BED_HOLDS_N_MM2 = 1
const STIFF_N_MM2 = 2000

/** Branches have so many walls at least, and nothing inside. */
export const BRANCH_WALLS = 2

/**
 * Push that bends a stand by a line's width, in N.
 * Source: a cantilever gives way by F h^3 / (3 E I).
 * @param plasticShare of the section that is plastic
 */
export const bentByN = (
  { inertiaMm4 }: { readonly inertiaMm4: number },
  heightMm: number,
  lineWidthMm: number,
  plasticShare: number,
): number => (3 * STIFF_N_MM2 * inertiaMm4 * plasticShare * lineWidthMm) / heightMm ** 3
