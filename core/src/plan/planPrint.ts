import { filamentOf } from '../bench'
import { holdingUnder, type Holding, type PlanDocument } from '../decide'
import { boundsOf, isEmptyRegion } from '../polygon'
import { byHeight, evenFan, orderSweeps, type Print, type Role, type Sweep } from '../print'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { HoldingGroup } from './assign'
import type { PlanGeometry } from './planResult'

/** What is laid first where several are laid at one height in one filament: walls of the part before what leans on them. */
const FIRST: readonly Role[] = ['brim', 'part', 'footing', 'stand', 'interface']

/** The decisions that rule each of a plan's groups. */
export const holdingOf = ({ decisions, exceptions }: PlanDocument, { kind, index }: HoldingGroup): Holding =>
  kind === 'exception' ? holdingUnder(decisions, exceptions[index - 1]) : decisions

/** A plan as it is printed: sweep after sweep, heights from the bed upwards, filaments in the order of fewest swaps. */
export function planPrint(
  document: PlanDocument,
  groups: readonly HoldingGroup[],
  {
    layers,
    passes,
    partPaths,
    supportPaths,
  }: Pick<PlanGeometry, 'layers' | 'passes' | 'partPaths' | 'supportPaths'>,
): Print {
  const { decisions, filaments, printer, name } = document
  const holdings = groups.map((group) => holdingOf(document, group))
  const used: string[] = []
  const slotOf = (id: string) => {
    const at = used.indexOf(id)
    return at < 0 ? used.push(id) - 1 : at
  }
  const sweeps: Sweep[] = []
  const add = (role: Role, filament: string, bottomMm: number, topMm: number, paths: Sweep['paths']) => {
    if (paths.kinds.length > 0)
      sweeps.push({ role, slot: slotOf(filament), bottomMm, topMm, paths, piece: null })
  }
  layers.forEach(({ region, bottomMm, topMm }, i) => {
    if (!isEmptyRegion(region)) add('part', decisions.partFilament, bottomMm, topMm, partPaths[i])
  })
  passes.forEach(({ role, holding, bottomMm, topMm }, i) => {
    const own = holdings[holding] ?? decisions
    const filament =
      role === 'interface'
        ? own.interfaceFilament
        : role === 'brim'
          ? decisions.partFilament
          : own.standFilament
    add(role, filament, bottomMm, topMm, supportPaths[i])
  })
  const heights = byHeight(sweeps, SAME_HEIGHT_MM).map((group) =>
    group.toSorted((a, b) => FIRST.indexOf(a.role) - FIRST.indexOf(b.role)),
  )
  const slots = used.map((id) => filamentOf(filaments, id))
  return {
    title: name,
    sweeps: orderSweeps(heights),
    zeroMm: middleOf(sweeps, printer.bedMm),
    slots,
    tools: slots.map((_, s) => s),
    lineWidthMm: decisions.lineWidthMm,
    speedMmS: null,
    fanPercent: evenFan(decisions.fanPercent),
    purgeMm3: slots.map((_, from) => slots.map((__, to) => (from === to ? 0 : decisions.purgeMm3))),
    slowsDown: true,
  }
}

/** Where paths must lie so that all of them together stand in the middle of the bed. */
function middleOf(sweeps: readonly Sweep[], bedMm: readonly [number, number]): [number, number] {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const { paths } of sweeps) {
    if (paths.kinds.length === 0) continue
    const box = boundsOf(paths.xyMm)
    minX = Math.min(minX, box.minX)
    minY = Math.min(minY, box.minY)
    maxX = Math.max(maxX, box.maxX)
    maxY = Math.max(maxY, box.maxY)
  }
  return maxX < minX ? [0, 0] : [(bedMm[0] - minX - maxX) / 2, (bedMm[1] - minY - maxY) / 2]
}
