import { isPartBetween, type Place } from './between'
import type { Extent } from './extent'
import { NO_WALLS, rowsOf, type Row } from './rows'
import { freeRow, runList, type RunList } from './runs'
import type { Filled } from './standCells'

/** Where the middle of a ball may be beside a part: runs along x, in rows beside and above each other. */
export type FreeRuns = {
  readonly widthMm: number
  /** Rows are this far from each other, to the back and upwards. */
  readonly rowMm: number
  readonly count: number
  /** Whether the ball gets there from outside. */
  isOutside(run: number): boolean
  /** Ends of a run; what has none leads outside. */
  endsMm(run: number): readonly [number, number]
  /** The place in a run whose x is nearest to one. */
  placeIn(run: number, x: number): Place
  /** Runs of the rows around one that the ball gets to from there. */
  beside(run: number, visit: (run: number) => void): void
  /** Runs in which the ball touches one of some places, x, y, z by turns. */
  touching(places: Float64Array): number[]
  /** What is left of them where some places are shut. */
  plugged(plugs: readonly Plug[]): FreeRuns
}

/** What is counted as shut: the middle of the ball does not get in there. */
export type Plug = { readonly atMm: Place; readonly radiusMm: number }

const FINEST_MM = 0.3
const MOST_ROWS = 1.2e5
/** So many rows lie in the width of a ball, if they are not too many in all. */
const ROWS_IN_WIDTH = 5

/**
 * Where a ball gets to past a part.
 * Source: its middle may be wherever no row around is nearer to a wall than the ball allows; rows are cut at
 * walls exactly. It gets from run to run where those of neighbouring rows overlap.
 */
export function freeRuns(
  layers: readonly Filled[],
  { fromMm: [, minY], toMm: [, maxY, topMm] }: Extent,
  widthMm: number,
): FreeRuns {
  const radiusMm = widthMm / 2
  const rowMm = Math.max(FINEST_MM, widthMm / ROWS_IN_WIDTH, Math.sqrt(((maxY - minY) * topMm) / MOST_ROWS))
  /** Rows and slices around the part: there the ball is free. */
  const rim = Math.ceil(radiusMm / rowMm) + 1
  const slices = Math.ceil(topMm / rowMm)
  const { seen, between } = rowsOf(layers, rowMm, slices)
  const front = Math.floor(minY / rowMm) - rim
  const [deep, tall] = [Math.ceil(maxY / rowMm) + rim - front, slices + 2 * rim]
  const around = rowsAround(radiusMm, rowMm)
  const runs = runList(deep * tall)
  const isBetween = (a: Place, b: Place) => isPartBetween(layers, a, b)
  const row = freeRow()
  let before: readonly Row[] = []
  for (let k = 0; k < tall; k++) {
    const near = Array.from({ length: 2 * rim + 1 }, (_, n) => seen[k - 2 * rim + n + 1] ?? NO_WALLS)
    const isAlike = k > 0 && near.every((slice, n) => slice === before[n])
    before = near
    for (let j = 0; j < deep; j++) {
      if (isAlike) {
        runs.copyRow(runs.all(), (k - 1) * deep + j)
        continue
      }
      row.fill([-Infinity, Infinity])
      for (let n = 0; n < around.asideMm.length && row.ends.length > 0; n++) {
        const { first, starts: crossed, at } = near[rim + around.up[n]]
        const line = j + front + around.back[n] - first
        if (line < 0 || line + 1 >= crossed.length) continue
        const asideMm = around.asideMm[n]
        for (let s = crossed[line]; s + 1 < crossed[line + 1]; s += 2)
          row.block(at[s] - asideMm, at[s + 1] + asideMm)
      }
      runs.putRow(row.ends)
    }
  }
  return joinedRuns(runs, { widthMm, rowMm, rim, front, deep, tall, between, isBetween })
}

/** Where rows lie. */
type Lattice = {
  readonly widthMm: number
  readonly rowMm: number
  /** Slices below the bed, and the number of the first row of each. */
  readonly rim: number
  readonly front: number
  readonly deep: number
  readonly tall: number
  /** What lies between one slice and the next, from the one below the bed. */
  readonly between: readonly Row[]
  /** Whether any of the part lies between two places. */
  isBetween(a: Place, b: Place): boolean
}

/** How a ball gets from run to run. */
function joinedRuns(runs: RunList, lattice: Lattice): FreeRuns {
  const { widthMm, rowMm, rim, front, deep, tall, between } = lattice
  const all = runs.all()
  const { starts, count, from, to } = all
  const radiusMm = widthMm / 2
  const rowOf = new Int32Array(count)
  for (let r = 0; r < deep * tall; r++) rowOf.fill(r, starts[r], starts[r + 1])
  const outside = new Uint8Array(count)
  fromOutside()
  return {
    widthMm,
    rowMm,
    count,
    isOutside: (run) => outside[run] === 1,
    endsMm: (run) => [from[run], to[run]],
    placeIn,
    beside,
    touching,
    plugged,
  }

  function placeIn(run: number, x: number): Place {
    const [j, k] = [rowOf[run] % deep, Math.floor(rowOf[run] / deep)]
    return [Math.min(to[run], Math.max(from[run], x)), middleY(j), middleZ(k)]
  }

  function middleY(j: number): number {
    return (j + front + 0.5) * rowMm
  }

  function middleZ(k: number): number {
    return (k - rim + 0.5) * rowMm
  }

  function fromOutside(): void {
    const queue = new Int32Array(count)
    let size = 0
    const visit = (run: number) => {
      if (outside[run]) return
      outside[run] = 1
      queue[size++] = run
    }
    for (let run = 0; run < count; run++) if (from[run] === -Infinity || to[run] === Infinity) visit(run)
    for (let q = 0; q < size; q++) beside(queue[q], visit)
  }

  function beside(run: number, visit: (run: number) => void): void {
    const row = rowOf[run]
    const j = row % deep
    for (let up = -deep; up <= deep; up += deep)
      for (let back = j > 0 ? -1 : 0; back <= (j + 1 < deep ? 1 : 0); back++) {
        const other = row + up + back
        if (other === row || other < 0 || other >= deep * tall) continue
        for (let n = starts[other]; n < starts[other + 1]; n++) {
          if (from[n] >= to[run] || to[n] <= from[run]) continue
          if (up === 0 || isOpen(row, other, Math.max(from[n], from[run]), Math.min(to[n], to[run]))) visit(n)
        }
      }
  }

  /** Whether one gets from a row to one above or below it somewhere in a stretch, past a plate between. */
  function isOpen(row: number, other: number, lowMm: number, highMm: number): boolean {
    const rows = between[Math.floor(Math.min(row, other) / deep) - rim + 1]
    return !rows || !covers(rows, (row % deep) + front) || !covers(rows, (other % deep) + front)

    function covers({ first, starts: begins, at }: Row, line: number): boolean {
      const n = line - first
      if (n < 0 || n + 1 >= begins.length) return false
      for (let s = begins[n]; s + 1 < begins[n + 1]; s += 2)
        if (at[s] <= lowMm && at[s + 1] >= highMm) return true
      return false
    }
  }

  function touching(places: Float64Array): number[] {
    const found = new Set<number>()
    const reach = Math.ceil(radiusMm / rowMm)
    for (let p = 0; p < places.length; p += 3) {
      const j = Math.floor(places[p + 1] / rowMm) - front
      const k = Math.floor(places[p + 2] / rowMm) + rim
      const around = runAt(j, k, places[p])
      if (around >= 0) {
        // The ball gets there itself: where else one would touch it is not asked.
        found.add(around)
        continue
      }
      for (let up = Math.max(0, k - reach); up <= Math.min(tall - 1, k + reach); up++)
        for (let back = Math.max(0, j - reach); back <= Math.min(deep - 1, j + reach); back++) {
          const [y, z] = [middleY(back) - places[p + 1], middleZ(up) - places[p + 2]]
          const square = radiusMm * radiusMm - y * y - z * z
          if (square < 0) continue
          const x = Math.sqrt(square)
          const r = up * deep + back
          for (let run = starts[r]; run < starts[r + 1]; run++)
            if (from[run] <= places[p] + x && to[run] >= places[p] - x && sees(p, run)) found.add(run)
        }
    }
    return [...found]

    /** Past a thin wall between rows the ball does not touch it. */
    function sees(p: number, run: number): boolean {
      const [x, y, z] = places.subarray(p, p + 3)
      return found.has(run) || !lattice.isBetween([x, y, z], placeIn(run, x))
    }
  }

  /** The run that a place lies in; -1 for none. */
  function runAt(j: number, k: number, x: number): number {
    if (j < 0 || k < 0 || j >= deep || k >= tall) return -1
    const r = k * deep + j
    for (let run = starts[r]; run < starts[r + 1]; run++) if (from[run] <= x && to[run] >= x) return run
    return -1
  }

  function plugged(plugs: readonly Plug[]): FreeRuns {
    const left = runList(deep * tall)
    const row = freeRow()
    for (let r = 0; r < deep * tall; r++) {
      const [y, z] = [middleY(r % deep), middleZ(Math.floor(r / deep))]
      const near = plugs.filter(({ atMm, radiusMm: plugMm }) => Math.hypot(y - atMm[1], z - atMm[2]) < plugMm)
      if (near.length === 0) {
        left.copyRow(all, r)
        continue
      }
      const ends: number[] = []
      for (let run = starts[r]; run < starts[r + 1]; run++) ends.push(from[run], to[run])
      row.fill(ends)
      for (const { atMm, radiusMm: plugMm } of near) {
        const asideMm = Math.sqrt(plugMm ** 2 - (y - atMm[1]) ** 2 - (z - atMm[2]) ** 2)
        row.block(atMm[0] - asideMm, atMm[0] + asideMm)
      }
      left.putRow(row.ends)
    }
    return joinedRuns(left, lattice)
  }
}

/** Rows that a ball around one reaches, the nearest first, and how far along x it reaches there. */
function rowsAround(radiusMm: number, rowMm: number) {
  const reach = Math.ceil(radiusMm / rowMm)
  const found: { back: number; up: number; asideMm: number }[] = []
  for (let up = -reach; up <= reach; up++)
    for (let back = -reach; back <= reach; back++) {
      const farMm = Math.hypot(up, back) * rowMm
      if (farMm < radiusMm) found.push({ back, up, asideMm: Math.sqrt(radiusMm ** 2 - farMm ** 2) })
    }
  found.sort((a, b) => b.asideMm - a.asideMm)
  return {
    back: Int32Array.from(found, ({ back }) => back),
    up: Int32Array.from(found, ({ up }) => up),
    asideMm: Float64Array.from(found, ({ asideMm }) => asideMm),
  }
}
