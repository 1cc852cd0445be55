import { firstFrom } from '../firstFrom'
import { filamentOf } from '../bench'
import type { PlanDocument } from '../decide'
import type { PlanSummary } from '../plan'
import { massGrams } from '../units'
import type { ReadGap } from './gapFinder'
import type { ReadBack } from './gcodeReader'

/** Gaps that differ by less are the same. */
const SAME_GAP_MM = 0.005
/** Share of all undersides from which another gap is told: at rims cells see what stands beside. */
const NOTEWORTHY = 0.05

/**
 * Where a file does something else than a plan says, in sentences with places. What the plan makes of a part
 * is not known here but for gaps.
 * @param laid the gaps of the plan's own lines, where the part is known: under narrow bores and bridges that
 *   stay free they are others than the plan asks for
 */
export function differencesFrom(
  read: ReadBack,
  document: PlanDocument,
  laid: readonly ReadGap[] | null = null,
): string[] {
  const { decisions: d, printer, exceptions } = document
  const found: string[] = []
  const { boxMm } = read
  if (boxMm) {
    const [width, depth] = printer.bedMm
    if (boxMm.min[0] < -1e-6 || boxMm.min[1] < -1e-6 || boxMm.max[0] > width || boxMm.max[1] > depth)
      found.push(
        `It prints outside the bed of ${printer.name}: from ${place(boxMm.min)} to ${place(boxMm.max)} mm on ${width} × ${depth} mm.`,
      )
    if (boxMm.max[2] > printer.heightMm)
      found.push(`It is ${boxMm.max[2].toFixed(2)} mm tall; ${printer.name} reaches ${printer.heightMm} mm.`)
  }
  const first = read.firstMm
  if (first !== null && Math.abs(first - d.firstLayerHeightMm) > SAME_GAP_MM)
    found.push(`The first layer is ${first.toFixed(3)} mm high, not ${d.firstLayerHeightMm.toFixed(3)} mm.`)
  found.push(...otherGaps(read.gaps, gapsWanted(document), laid))
  const tools = new Set([d.partFilament, d.standFilament, d.interfaceFilament]).size
  if (exceptions.length === 0 && read.tools.length > tools)
    found.push(`It uses ${read.tools.length} tools; the plan has ${tools} filament${tools === 1 ? '' : 's'}.`)
  return found
}

/** Upper gaps that a plan asks for. */
const gapsWanted = ({ decisions, exceptions }: PlanDocument): number[] => [
  decisions.upperGapMm,
  ...exceptions.flatMap(({ upperGapMm }) => upperGapMm ?? []),
]

/** Gaps that a file leaves under more than a plan does; by what the plan asks for where nobody knows that. */
function otherGaps(
  gaps: readonly ReadGap[],
  wanted: readonly number[],
  laid: readonly ReadGap[] | null,
): string[] {
  const areaOf = (all: readonly ReadGap[], gap: number) =>
    all.reduce((sum, { gapMm, areaMm2 }) => sum + (Math.abs(gapMm - gap) <= SAME_GAP_MM ? areaMm2 : 0), 0)
  const all = gaps.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
  return [...new Set(gaps.map(({ gapMm }) => gapMm))].flatMap((gap) => {
    const isWanted = wanted.some((one) => Math.abs(one - gap) <= SAME_GAP_MM)
    const own = areaOf(gaps, gap)
    const planned = laid ? areaOf(laid, gap) : isWanted ? own : 0
    if (own - planned <= NOTEWORTHY * all) return []
    const { zMm } = gaps.find(({ gapMm }) => gapMm === gap)!
    const asked = isWanted
      ? `leaves it under ${planned.toFixed(0)} mm²`
      : `says ${wanted.map((one) => one.toFixed(3)).join(' or ')} mm`
    return `${own.toFixed(0)} of ${all.toFixed(0)} mm² of underside have a gap of ${gap.toFixed(3)} mm, the lowest at ${zMm.toFixed(2)} mm; the plan ${asked}.`
  })
}

/** Amounts that differ by less are the same: half a hundredth, and a drop. */
const SAME_SHARE = 0.005
const DROP_MM3 = 5
/** Ours and another printer's clock may differ by so much. */
const SAME_TIME = 0.02

/**
 * Where a file lays something else than a plan of a part does, in sentences: plastic by what it is for,
 * swaps, time, heights at which supports end.
 */
export function differencesFromPlanned(
  read: ReadBack,
  planned: Pick<PlanSummary, 'estimate' | 'swaps' | 'timeS' | 'heightMm' | 'supportHeightsMm'>,
): string[] {
  const found: string[] = []
  const cm3 = (mm3: number) => `${(mm3 / 1000).toFixed(2)} cm³`
  const isOther = (a: number, b: number) => Math.abs(a - b) > Math.max(DROP_MM3, SAME_SHARE * Math.max(a, b))
  // What a swap block pushes out is its own.
  const laid = Object.entries(planned.estimate.roles).filter(([role]) => role !== 'purge')
  if (read.rolesMm3) {
    for (const [role, { mm3 }] of laid) {
      const own = read.rolesMm3[role] ?? 0
      if (isOther(own, mm3)) found.push(`It lays ${cm3(own)} of ${role}; the plan ${cm3(mm3)}.`)
    }
  } else {
    const own = read.tools.reduce((sum, { mm3 }) => sum + mm3, 0)
    const all = laid.reduce((sum, [, { mm3 }]) => sum + mm3, 0)
    if (isOther(own, all)) found.push(`It lays ${cm3(own)} in all; the plan ${cm3(all)}.`)
  }
  if (read.swaps !== planned.swaps)
    found.push(`It swaps filaments ${read.swaps} times; the plan ${planned.swaps} times.`)
  if (Math.abs(read.timeS - planned.timeS) > SAME_TIME * planned.timeS + 2 * planned.swaps)
    found.push(
      `It takes about ${Math.round(read.timeS / 60)} min; the plan ${Math.round(planned.timeS / 60)} min.`,
    )
  const top = read.heightsMm.at(-1) ?? 0
  // The last layer of a tip may be too narrow for a line.
  const lastMm = top - (read.heightsMm.at(-2) ?? 0)
  const lowerMm = planned.heightMm - top
  if (lowerMm < -SAME_GAP_MM || lowerMm > lastMm + SAME_GAP_MM)
    found.push(`It ends at ${top.toFixed(2)} mm; the plan at ${planned.heightMm.toFixed(2)} mm.`)
  const heights = Float64Array.from(read.heightsMm)
  const missing = Array.from(planned.supportHeightsMm).filter((z) => !hasNear(heights, z))
  if (missing.length > 0)
    found.push(
      `Of ${planned.supportHeightsMm.length} heights at which the plan’s supports end, ${missing.length} are not in it, the lowest at ${missing[0].toFixed(3)} mm: gaps come out otherwise there.`,
    )
  return found
}

/** Whether one of some heights, from below, is as good as another. */
function hasNear(heights: Float64Array, z: number): boolean {
  const nearest = firstFrom(heights, z - SAME_GAP_MM)
  return nearest < heights.length && heights[nearest] <= z + SAME_GAP_MM
}

/**
 * Grams of each tool's filament: the one that the file names for it, else by the plan's order of filaments;
 * null when nobody knows which one it is.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function gramsOf(read: ReadBack, document: PlanDocument): (number | null)[] {
  const { decisions, exceptions, filaments } = document
  const { partFilament, standFilament, interfaceFilament } = decisions
  const others = exceptions.flatMap((one) => [one.standFilament, one.interfaceFilament])
  const ids = new Set(
    [partFilament, standFilament, interfaceFilament, ...others].filter((id) => id !== undefined),
  )
  const inOrder = [...ids].map((id) => filamentOf(filaments, id))
  return read.tools.map(({ mm3, name }, i) => {
    const named = filaments.filter((one) => one.name === name)
    const own = named.length === 1 ? named[0] : read.tools.length === 1 ? inOrder[0] : inOrder[i]
    return own ? massGrams(mm3, own.densityGcm3) : null
  })
}

const place = ([x, y]: readonly [number, number, number]) => `${x.toFixed(1)}, ${y.toFixed(1)}`
