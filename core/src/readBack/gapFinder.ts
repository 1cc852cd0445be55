/** A gap as it is printed: how much of it, and how high up. */
export type ReadGap = { readonly gapMm: number; readonly areaMm2: number; readonly zMm: number }

const CELL_MM = 0.15
/** Steps across a line, in cells. */
const ACROSS = 0.7
const SUPPORTS = ['stand', 'interface']
/** Farther apart, a support and what is above it have nothing to do with each other. */
const FARTHEST_MM = 2.5
const SMALLEST_MM2 = 1

/**
 * Finds the gaps between supports and the part above them from the lines alone: on fine cells it remembers how high supports reach, as
 * wide as their lines are, until a line of the part is laid above.
 */
export class GapFinder {
  private readonly tops = new Map<number, number>()
  private readonly cells = new Map<string, { gapMm: number; zMm: number; cells: number }>()

  constructor(private readonly lineWidthMm: number) {}

  lay(role: string, ax: number, ay: number, bx: number, by: number, topMm: number, thickMm: number): void {
    const isSupport = SUPPORTS.includes(role)
    if (!isSupport && role !== 'part') return
    const length = Math.hypot(bx - ax, by - ay)
    if (length === 0) return
    const steps = Math.max(1, Math.ceil((1.5 * length) / CELL_MM))
    // Across the line in steps that skip no cell: a line of the part closes what it covers, and is counted in its middle.
    const half = Math.ceil(this.lineWidthMm / 2 / (ACROSS * CELL_MM))
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length]
    // The middle comes first: what is counted must not be closed before.
    for (let n = 0; n <= 2 * half; n++) {
      const o = n % 2 === 0 ? -n / 2 : (n + 1) / 2
      const aside = (o / half) * (this.lineWidthMm / 2)
      const [sx, sy] = [ax - uy * aside, ay + ux * aside]
      let last = NaN
      for (let step = 0; step <= steps; step++) {
        const column = Math.floor((sx + (ux * length * step) / steps) / CELL_MM)
        const row = Math.floor((sy + (uy * length * step) / steps) / CELL_MM)
        const cell = (row + 0x8000) * 0x10000 + column + 0x8000
        if (cell === last) continue
        last = cell
        if (isSupport) this.tops.set(cell, Math.max(topMm, this.tops.get(cell) ?? 0))
        else this.cover(cell, topMm - thickMm, o === 0)
      }
    }
  }

  /** The part is laid over a cell: below it a gap ends. */
  private cover(cell: number, bottomMm: number, isCounted: boolean): void {
    const top = this.tops.get(cell)
    if (top === undefined || top > bottomMm + 1e-6) return
    this.tops.delete(cell)
    if (!isCounted) return
    const gapMm = Number((bottomMm - top).toFixed(3))
    if (gapMm > FARTHEST_MM) return
    const key = `${gapMm} ${bottomMm.toFixed(3)}`
    const found = this.cells.get(key)
    if (found) found.cells++
    else this.cells.set(key, { gapMm, zMm: bottomMm, cells: 1 })
  }

  /** From the lowest underside upwards; specks are left out. */
  found(): ReadGap[] {
    return [...this.cells.values()]
      .map(({ gapMm, zMm, cells }) => ({ gapMm, zMm, areaMm2: cells * CELL_MM * this.lineWidthMm }))
      .filter(({ areaMm2 }) => areaMm2 >= SMALLEST_MM2)
      .toSorted((a, b) => a.zMm - b.zMm || a.gapMm - b.gapMm)
  }
}
