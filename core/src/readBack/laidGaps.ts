import type { Print } from '../print'
import { GapFinder, type ReadGap } from './gapFinder'

/** Gaps as a print leaves them by its lines, seen the same way as those of a file that was read. */
export function laidGaps({ sweeps, lineWidthMm }: Pick<Print, 'sweeps' | 'lineWidthMm'>): readonly ReadGap[] {
  const finder = new GapFinder(lineWidthMm)
  for (const { role, bottomMm, topMm, paths } of sweeps) {
    const { xyMm, starts, kinds } = paths
    for (let p = 0; p < kinds.length; p++)
      for (let at = 2 * starts[p]; at < 2 * starts[p + 1] - 2; at += 2)
        finder.lay(role, xyMm[at], xyMm[at + 1], xyMm[at + 2], xyMm[at + 3], topMm, topMm - bottomMm)
  }
  return finder.found()
}
