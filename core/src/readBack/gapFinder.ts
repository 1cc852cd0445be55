/** A gap as it is printed: how much of it, and how high up. */
export type ReadGap = { readonly gapMm: number; readonly areaMm2: number; readonly zMm: number }

const CELL_MM = 0.15
/** Steps across a line, in cells. */
const ACROSS = 0.7
const SUPPORTS = ['stand', 'interface']
/** Farther apart, a support and what is above it have nothing to do with each other. */
const FARTHEST_MM = 2.5
const SMALLEST_MM2 = 1
/** Between two supports no farther apart than this a line of the part is bridged, and does not sink. */
const BRIDGED_MM = 2
/** Nor does its end, no farther than this over the edge of one. */
const HANGS_MM = BRIDGED_MM / 2

/** Supports that end nearer to each other in height end at the same one. */
const SAME_TOP_MM = 1e-6

/** Cells are kept in squares of this many to a side, made when a support first reaches into them. */
const TILE = 64
const TILE_BITS = 6
/** No support reaches up here. */
const NOTHING = -1

/** Heights that supports reach on a square of cells. */
type Tile = { readonly tops: Float64Array; held: number }

/**
 * Finds the gaps between supports and the part above them from the lines alone: on fine cells it remembers
 * how high supports reach, as wide as their lines are, until a line of the part is laid above.
 */
export class GapFinder {
  private readonly tiles = new Map<number, Tile>()
  private readonly cells = new Map<string, { gapMm: number; zMm: number; cells: number }>()

  /** What lies under a path of the part: how far along it, and how high supports reach there. */
  private along = new Float64Array(1024)
  private tops = new Float64Array(1024)
  private under = 0
  /** Where the path has come to, where it began and its length so far, and its underside. */
  private readonly path = { x: NaN, y: NaN, beginMm: 0, mm: 0, bottomMm: NaN }

  constructor(private readonly lineWidthMm: number) {}

  lay(role: string, ax: number, ay: number, bx: number, by: number, topMm: number, thickMm: number): void {
    const isSupport = SUPPORTS.includes(role)
    if (!isSupport && role !== 'part') return
    const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay))
    if (length === 0) return
    const bottomMm = topMm - thickMm
    const { path } = this
    if (!isSupport && (ax !== path.x || ay !== path.y || bottomMm !== path.bottomMm)) this.endPath()
    const steps = Math.max(1, Math.ceil((1.5 * length) / CELL_MM))
    // Across the line in steps that skip no cell: a line of the part closes what it covers, and is counted in
    // its middle.
    const half = Math.ceil(this.lineWidthMm / 2 / (ACROSS * CELL_MM))
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length]
    const [dx, dy] = [(bx - ax) / steps / CELL_MM, (by - ay) / steps / CELL_MM]
    let [tileKey, tile] = [NaN, undefined as Tile | undefined]
    // The middle comes first: what is counted must not be closed before.
    for (let n = 0; n <= 2 * half; n++) {
      const o = n % 2 === 0 ? -n / 2 : (n + 1) / 2
      const aside = (o / half) * (this.lineWidthMm / 2)
      const sx = (ax - uy * aside) / CELL_MM + 0x8000
      const sy = (ay + ux * aside) / CELL_MM + 0x8000
      for (let step = 0; step <= steps; step++) {
        const column = Math.floor(sx + dx * step)
        const row = Math.floor(sy + dy * step)
        const key = (row >> TILE_BITS) * 0x10000 + (column >> TILE_BITS)
        if (key !== tileKey) {
          tileKey = key
          tile = this.tiles.get(key)
          if (!tile && isSupport) {
            tile = { tops: new Float64Array(TILE * TILE).fill(NOTHING), held: 0 }
            this.tiles.set(key, tile)
          }
        }
        if (!tile) continue
        const cell = ((row & (TILE - 1)) << TILE_BITS) | (column & (TILE - 1))
        const before = tile.tops[cell]
        if (isSupport) {
          if (before === NOTHING) tile.held++
          if (topMm > before) tile.tops[cell] = topMm
        } else if (before !== NOTHING && before <= bottomMm + 1e-6) {
          // The part is laid over it: the gap below ends here.
          tile.tops[cell] = NOTHING
          tile.held--
          if (o === 0) this.note(path.mm + (length * step) / steps, before)
        }
      }
      if (tile && !isSupport && tile.held === 0) {
        this.tiles.delete(tileKey)
        ;[tileKey, tile] = [NaN, undefined]
      }
    }
    if (isSupport) return
    path.x = bx
    path.y = by
    path.mm += length
    path.bottomMm = bottomMm
  }

  private note(mm: number, top: number): void {
    if (this.under === this.along.length) {
      const [along, tops] = [this.along, this.tops]
      this.along = new Float64Array(2 * along.length)
      this.tops = new Float64Array(2 * tops.length)
      this.along.set(along)
      this.tops.set(tops)
    }
    this.along[this.under] = mm
    this.tops[this.under++] = top
  }

  /** Counts what lies under the path that was noted. */
  private endPath(): void {
    for (let i = 0; i < this.under; i++) this.count(this.bridged(i), this.path.bottomMm)
    this.under = 0
    this.path.beginMm = this.path.mm
  }

  /**
   * How high what holds a path reaches: where it runs over a gap between two higher supports, those, and
   * where it ends over the edge of one, that one.
   */
  private bridged(i: number): number {
    for (let top = this.tops[i]; ;) {
      const higher = this.bridgedOver(i, top)
      // What it lies between may lie between others, higher still.
      if (higher <= top) return top
      top = higher
    }
  }

  private bridgedOver(i: number, top: number): number {
    const { along, tops, path } = this
    const [before, after] = [this.higherFrom(i, top, -1), this.higherFrom(i, top, 1)]
    if (before >= 0 && after >= 0)
      return along[after] - along[before] <= BRIDGED_MM ? Math.min(tops[before], tops[after]) : top
    if (before >= 0 && path.mm - along[before] <= HANGS_MM) return tops[before]
    if (after >= 0 && along[after] - path.beginMm <= HANGS_MM) return tops[after]
    return top
  }

  /** What holds the path higher than that, forwards or backwards from a place; -1 for nothing near. */
  private higherFrom(i: number, top: number, step: 1 | -1): number {
    const { along, tops, under } = this
    for (let j = i + step; j >= 0 && j < under && Math.abs(along[j] - along[i]) <= BRIDGED_MM; j += step)
      if (tops[j] > top + SAME_TOP_MM) return j
    return -1
  }

  private count(top: number, bottomMm: number): void {
    const gapMm = Number((bottomMm - top).toFixed(3))
    if (gapMm > FARTHEST_MM) return
    const key = `${gapMm} ${bottomMm.toFixed(3)}`
    const found = this.cells.get(key)
    if (found) found.cells++
    else this.cells.set(key, { gapMm, zMm: bottomMm, cells: 1 })
  }

  /** From the lowest underside upwards; specks are left out. */
  found(): ReadGap[] {
    this.endPath()
    return [...this.cells.values()]
      .map(({ gapMm, zMm, cells }) => ({ gapMm, zMm, areaMm2: cells * CELL_MM * this.lineWidthMm }))
      .filter(({ areaMm2 }) => areaMm2 >= SMALLEST_MM2)
      .toSorted((a, b) => a.zMm - b.zMm || a.gapMm - b.gapMm)
  }
}
