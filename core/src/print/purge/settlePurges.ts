import { PATH_KINDS, PathWriter, type ToolPaths } from '../../path'
import { SAME_HEIGHT_MM } from '../../tolerances'
import { levelOf, type Print, type Purged, type PurgePlan, type Sweep } from '../print'
import { freePlace, isClear } from './placeTower'
import { TOWER_RINGS, towerHeight, towerRings, towerSide, type Tower, type TowerHeight } from './tower'

/** A swap with what follows it at its height in its filament: sweeps `at` to `end`. */
type Swap = {
  readonly at: number
  readonly end: number
  readonly from: number
  readonly to: number
  readonly zMm: number
  readonly wantedMm3: number
  readonly laidAnywayMm3: number
  readonly restMm3: number
}

/**
 * Settles where a print pushes out what its swaps have to purge: first into stands and fill that are laid
 * there anyway, then into a tower or through the printer's own block. Sweeps keep their order, but for stands
 * and fill that go before what must be clean.
 *
 * A tower has heights of its own, those of the part: what is purged between two of them is laid at the upper
 * one. Up to the last swap each of its heights is laid, in what is loaded then.
 * @param bedMm size of the bed, for the tower's place
 */
export function settlePurges(print: Print, bedMm: readonly [number, number]): Print {
  const { purging } = print
  if (!purging) return print
  const { sweeps, swaps } = cleanLast(print, purging)
  const settled = (tower: Tower | null): readonly Purged[] =>
    swaps.map(({ zMm, from, to, wantedMm3, laidAnywayMm3, restMm3 }) => ({
      zMm,
      from,
      to,
      wantedMm3,
      laidAnywayMm3: Math.min(wantedMm3, laidAnywayMm3),
      towerMm3: tower ? restMm3 : 0,
      chuteMm3: tower ? 0 : restMm3,
    }))
  const { tower, trouble } =
    purging.where === 'tower' ? towerFor(print, purging, sweeps, swaps, bedMm) : { tower: null }
  return {
    ...print,
    sweeps: tower ? withTower(print, purging, sweeps, swaps, tower) : withChute(sweeps, swaps),
    purged: settled(tower),
    tower,
    ...(trouble && { towerTrouble: trouble }),
  }
}

/** Sweeps with what may carry leftovers first after each swap, and how much of the purge that takes. */
function cleanLast(print: Print, { into }: PurgePlan): { sweeps: Sweep[]; swaps: Swap[] } {
  const sweeps: Sweep[] = []
  const swaps: Swap[] = []
  for (let i = 0; i < print.sweeps.length;) {
    const { slot } = print.sweeps[i]
    const zMm = levelOf(print.sweeps[i])
    let end = i + 1
    while (
      end < print.sweeps.length &&
      print.sweeps[end].slot === slot &&
      Math.abs(levelOf(print.sweeps[end]) - zMm) < SAME_HEIGHT_MM
    )
      end++
    const own = print.sweeps.slice(i, end)
    const from = sweeps.at(-1)?.slot ?? slot
    i = end
    if (from === slot) {
      sweeps.push(...own)
      continue
    }
    const wantedMm3 = print.purgeMm3[from]?.[slot] ?? 0
    const { first, then } = wantedMm3 > 0 ? dividedBy(own, into) : { first: [], then: own }
    const laidAnywayMm3 = first.reduce((sum, sweep) => sum + plasticOf(sweep, print.lineWidthMm), 0)
    const at = sweeps.length
    sweeps.push(...first, ...then)
    const restMm3 = Math.max(0, wantedMm3 - laidAnywayMm3)
    swaps.push({ at, end: sweeps.length, from, to: slot, zMm, wantedMm3, laidAnywayMm3, restMm3 })
  }
  return { sweeps, swaps }
}

/**
 * What of some sweeps may carry leftovers, and the rest. On the bed nothing but the tower may: it has to
 * hold.
 */
function dividedBy(own: readonly Sweep[], into: PurgePlan['into']) {
  const first: Sweep[] = []
  const then: Sweep[] = []
  for (const sweep of own) {
    if (into === 'nothing' || sweep.bottomMm === 0) then.push(sweep)
    else if (sweep.role === 'stand') first.push(sweep)
    else if (into === 'fill' && sweep.role === 'part') {
      const { fill, rest } = fillOf(sweep.paths)
      if (fill.kinds.length > 0) first.push({ ...sweep, paths: fill })
      if (rest.kinds.length > 0) then.push({ ...sweep, paths: rest })
    } else then.push(sweep)
  }
  return { first, then }
}

const FILL = PATH_KINDS.indexOf('fill')
/** Paths keep their parts, so that what is known of them stays known. */
const divided = new WeakMap<ToolPaths, { fill: ToolPaths; rest: ToolPaths }>()

function fillOf(paths: ToolPaths): { fill: ToolPaths; rest: ToolPaths } {
  let known = divided.get(paths)
  if (!known)
    divided.set(
      paths,
      (known = {
        fill: only(paths, (kind) => kind === FILL),
        rest: only(paths, (kind) => kind !== FILL),
      }),
    )
  return known
}

function only({ xyMm, starts, kinds, flow }: ToolPaths, wanted: (kind: number) => boolean): ToolPaths {
  const writer = new PathWriter()
  kinds.forEach((kind, p) => {
    if (wanted(kind)) writer.add(PATH_KINDS[kind], xyMm, starts[p], starts[p + 1] - starts[p], false, flow[p])
  })
  return writer.finish()
}

/** Length of paths, each as often as it is wide. */
const lengths = new WeakMap<ToolPaths, number>()

function plasticOf({ paths, bottomMm, topMm }: Sweep, lineWidthMm: number): number {
  let laid = lengths.get(paths)
  if (laid === undefined) {
    laid = 0
    const { xyMm, starts, kinds, flow } = paths
    for (let p = 0; p < kinds.length; p++)
      for (let i = starts[p]; i < starts[p + 1] - 1; i++)
        laid += flow[p] * Math.hypot(xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1])
    lengths.set(paths, laid)
  }
  return laid * lineWidthMm * (topMm - bottomMm)
}

function withChute(sweeps: readonly Sweep[], swaps: readonly Swap[]): Sweep[] {
  const laid = [...sweeps]
  for (const { at, restMm3 } of swaps) laid[at] = { ...laid[at], chuteMm3: restMm3 }
  return laid
}

/** Which of the tower's heights a level is laid in. */
const heightAt = ({ firstHeightMm, heightMm }: PurgePlan, zMm: number) =>
  Math.max(0, Math.ceil((zMm - firstHeightMm - SAME_HEIGHT_MM) / heightMm))

const topOf = ({ firstHeightMm, heightMm }: PurgePlan, k: number) => firstHeightMm + k * heightMm
const thicknessOf = ({ firstHeightMm, heightMm }: PurgePlan, k: number) =>
  k === 0 ? firstHeightMm : heightMm

/**
 * The tower that a print needs, and where it stands; none when nothing is purged, or when there is no room.
 */
function towerFor(
  { lineWidthMm }: Print,
  purging: PurgePlan,
  sweeps: readonly Sweep[],
  swaps: readonly Swap[],
  bedMm: readonly [number, number],
): { tower: Tower | null; trouble?: 'no room' | 'in the way' } {
  const longest = new Map<number, number>()
  for (const { zMm, restMm3 } of swaps) {
    if (restMm3 <= 0) continue
    const k = heightAt(purging, zMm)
    longest.set(k, (longest.get(k) ?? 0) + restMm3 / (lineWidthMm * thicknessOf(purging, k)))
  }
  if (longest.size === 0) return { tower: null }
  const topMm = topOf(purging, Math.max(...longest.keys()))
  const sideMm = towerSide(Math.max(...longest.values()), topMm, lineWidthMm)
  const wholeMm = sideMm + 2 * TOWER_RINGS * lineWidthMm
  const asked = purging.towerAtMm
  if (asked && isClear(sweeps, asked, wholeMm)) return { tower: { atMm: asked, sideMm, topMm } }
  const atMm = freePlace(sweeps, wholeMm, bedMm)
  if (!atMm) return { tower: null, trouble: 'no room' }
  return { tower: { atMm, sideMm, topMm }, ...(asked && { trouble: 'in the way' }) }
}

/** Sweeps with those of a tower between them. */
function withTower(
  { lineWidthMm }: Print,
  purging: PurgePlan,
  sweeps: readonly Sweep[],
  swaps: readonly Swap[],
  { atMm, sideMm, topMm }: Tower,
): Sweep[] {
  const laid: Sweep[] = []
  const last = heightAt(purging, topMm)
  let k = 0
  let height = heightNumber(0)

  function heightNumber(n: number): TowerHeight {
    return towerHeight(atMm, sideMm, lineWidthMm, n % 2 === 1)
  }
  const lay = (paths: ToolPaths, slot: number, levelMm: number, chuteMm3?: number) => {
    if (paths.kinds.length > 0)
      laid.push({
        role: 'tower',
        slot,
        bottomMm: k === 0 ? 0 : topOf(purging, k - 1),
        topMm: topOf(purging, k),
        paths,
        piece: null,
        levelMm,
        ...(chuteMm3 !== undefined && { chuteMm3 }),
      })
  }
  /** Completes heights below one, in what is loaded. */
  const upTo = (next: number, slot: number, levelMm: number) => {
    for (; k < next && k <= last; k++, height = heightNumber(k)) {
      if (k === 0) lay(towerRings(atMm, sideMm, lineWidthMm), slot, levelMm)
      lay(height.finish(k === 0), slot, levelMm)
    }
  }

  let s = 0
  sweeps.forEach((sweep, i) => {
    const level = levelOf(sweep)
    const before = sweeps[i - 1]
    // A height of the tower is complete before anything is laid above it.
    if (before && k <= last && heightAt(purging, level) > k)
      upTo(heightAt(purging, level), before.slot, levelOf(before))
    const swap = swaps[s]
    if (swap?.at !== i) return void laid.push(sweep)
    s++
    // Whatever comes first after the swap: the printer itself pushes out nothing.
    lay(height.take(swap.restMm3 / (lineWidthMm * thicknessOf(purging, k))), swap.to, level, 0)
    laid.push({ ...sweep, chuteMm3: 0 })
  })
  const end = sweeps.at(-1)
  if (end) upTo(last + 1, end.slot, levelOf(end))
  return laid
}
