import type { Print } from '../print'
import { GapFinder, type ReadGap } from './gapFinder'

/** Gaps as a print leaves them by its lines, seen the same way as those of a file that was read. */
export function laidGaps({
  sweeps,
  lineWidthMm,
  zeroMm: [zeroX, zeroY],
}: Pick<Print, 'sweeps' | 'lineWidthMm' | 'zeroMm'>): readonly ReadGap[] {
  const finder = new GapFinder(lineWidthMm)
  for (const { role, bottomMm, topMm, paths } of sweeps) {
    const { xyMm, starts, kinds } = paths
    for (let p = 0; p < kinds.length; p++)
      for (let at = 2 * starts[p]; at < 2 * starts[p + 1] - 2; at += 2) {
        // Where a file has it: lines along the rims of cells would be seen otherwise elsewhere.
        const [ax, ay] = [xyMm[at] + zeroX, xyMm[at + 1] + zeroY]
        const [bx, by] = [xyMm[at + 2] + zeroX, xyMm[at + 3] + zeroY]
        finder.lay(role, ax, ay, bx, by, topMm, topMm - bottomMm)
      }
  }
  return finder.found()
}
