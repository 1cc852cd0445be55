import { filamentOf } from '../bench'
import { holdingUnder, type Holding, type PlanDocument } from '../decide'
import { isEmptyRegion } from '../polygon'
import {
  byHeight,
  evenFan,
  inTheMiddle,
  orderSweeps,
  settlePurges,
  type Print,
  type Role,
  type Sweep,
} from '../print'
import type { SupportPass } from '../stand'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { HoldingGroup } from './assign'
import type { PlanGeometry } from './planResult'

/**
 * What is laid first where several are laid at one height in one filament: walls of the part before what
 * leans on them.
 */
const FIRST: readonly Role[] = ['brim', 'part', 'footing', 'stand', 'interface']

/** The decisions that rule each of a plan's groups. */
export const holdingOf = ({ decisions, exceptions }: PlanDocument, { kind, index }: HoldingGroup): Holding =>
  kind === 'exception' ? holdingUnder(decisions, exceptions[index - 1]) : decisions

/**
 * What each of a plan's passes is printed in.
 * @returns the identity of a filament
 */
export function filamentOfPass(
  document: PlanDocument,
  groups: readonly HoldingGroup[],
): (pass: Pick<SupportPass, 'role' | 'holding'>) => string {
  const { decisions } = document
  const holdings = groups.map((group) => holdingOf(document, group))
  return ({ role, holding }) => {
    const own = holdings[holding] ?? decisions
    if (role === 'brim') return decisions.partFilament
    return role === 'interface' ? own.interfaceFilament : own.standFilament
  }
}

/**
 * A plan as it is printed, with what its swaps purge settled, in the middle of the bed.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function planPrint(
  document: PlanDocument,
  groups: readonly HoldingGroup[],
  geometry: Parameters<typeof plainPrint>[2],
): Print {
  const { bedMm } = document.printer
  const print = settlePurges(plainPrint(document, groups, geometry), bedMm)
  return { ...print, zeroMm: inTheMiddle(print.sweeps, bedMm) }
}

/**
 * What a plan lays, by itself: sweep after sweep, heights from the bed upwards, filaments in the order of
 * fewest swaps. Where its purges go is settled once it is known what else is on the bed.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function plainPrint(
  document: PlanDocument,
  groups: readonly HoldingGroup[],
  {
    layers,
    passes,
    partPaths,
    supportPaths,
  }: Pick<PlanGeometry, 'layers' | 'passes' | 'partPaths' | 'supportPaths'>,
): Print {
  const { decisions, filaments, name } = document
  const filamentOfOne = filamentOfPass(document, groups)
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
  passes.forEach((pass, i) => add(pass.role, filamentOfOne(pass), pass.bottomMm, pass.topMm, supportPaths[i]))
  const heights = byHeight(sweeps, SAME_HEIGHT_MM).map((group) =>
    group.toSorted((a, b) => FIRST.indexOf(a.role) - FIRST.indexOf(b.role)),
  )
  const slots = used.map((id) => filamentOf(filaments, id))
  return {
    title: name,
    sweeps: orderSweeps(heights),
    zeroMm: [0, 0],
    slots,
    tools: slots.map((_, s) => s),
    lineWidthMm: decisions.lineWidthMm,
    speedMmS: null,
    fanPercent: {
      ...evenFan(decisions.fanPercent),
      stand: decisions.supportFanPercent,
      interface: decisions.supportFanPercent,
    },
    fanFromMm: decisions.firstLayerHeightMm + (decisions.fanOffLayers - 1) * decisions.layerHeightMm,
    bridging: { mmS: decisions.bridgeMmS, fanPercent: decisions.bridgeFanPercent },
    // What becomes part must be clean; what is thrown away need not be.
    purgeMm3: slots.map((_, from) =>
      slots.map(({ id }, to) =>
        from === to ? 0 : id === decisions.partFilament ? decisions.purgeMm3 : decisions.purgeAwayMm3,
      ),
    ),
    purging: {
      where: decisions.purgeWhere,
      // A single wall would show what lies behind it.
      into: decisions.purgeInto === 'fill' && decisions.walls < 2 ? 'stands' : decisions.purgeInto,
      towerAtMm: decisions.towerAtMm,
      firstHeightMm: decisions.firstLayerHeightMm,
      heightMm: decisions.layerHeightMm,
    },
    slowsDown: true,
  }
}
