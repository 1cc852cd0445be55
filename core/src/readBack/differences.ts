import { filamentOf } from '../bench'
import type { PlanDocument } from '../decide'
import { massGrams } from '../units'
import type { ReadBack } from './gcodeReader'

/** Gaps that differ by less are the same. */
const SAME_GAP_MM = 0.005
/** Share of all undersides from which another gap is told: at rims cells see what stands beside. */
const NOTEWORTHY = 0.05

/** Where a file does something else than a plan says, in sentences with places. What the plan says of a part is not known here. */
export function differencesFrom(read: ReadBack, document: PlanDocument): string[] {
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
  const first = read.heightsMm[0]
  if (first !== undefined && Math.abs(first - d.firstLayerHeightMm) > SAME_GAP_MM)
    found.push(`The first layer is ${first.toFixed(3)} mm high, not ${d.firstLayerHeightMm.toFixed(3)} mm.`)
  const wanted = [d.upperGapMm, ...exceptions.flatMap(({ upperGapMm }) => upperGapMm ?? [])]
  const other = read.gaps.filter(({ gapMm }) => !wanted.some((gap) => Math.abs(gap - gapMm) <= SAME_GAP_MM))
  const byGap = new Map<number, { areaMm2: number; zMm: number }>()
  for (const { gapMm, areaMm2, zMm } of other) {
    const known = byGap.get(gapMm)
    byGap.set(gapMm, { areaMm2: areaMm2 + (known?.areaMm2 ?? 0), zMm: known?.zMm ?? zMm })
  }
  const all = read.gaps.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
  for (const [gapMm, { areaMm2, zMm }] of byGap)
    if (areaMm2 > NOTEWORTHY * all)
      found.push(
        `${areaMm2.toFixed(0)} of ${all.toFixed(0)} mm² of underside have a gap of ${gapMm.toFixed(3)} mm, the lowest at ${zMm.toFixed(2)} mm; the plan says ${wanted.map((gap) => gap.toFixed(3)).join(' or ')} mm.`,
      )
  const tools = new Set([d.partFilament, d.standFilament, d.interfaceFilament]).size
  if (exceptions.length === 0 && read.tools.length > tools)
    found.push(`It uses ${read.tools.length} tools; the plan has ${tools} filament${tools === 1 ? '' : 's'}.`)
  return found
}

/** Grams of a tool's filament by the plan's order of filaments; null when nobody knows which one it is. */
export function gramsOf(read: ReadBack, document: PlanDocument): (number | null)[] {
  const { partFilament, standFilament, interfaceFilament } = document.decisions
  const ids = [...new Set([partFilament, standFilament, interfaceFilament])]
  return read.tools.map(({ mm3 }, i) =>
    read.tools.length === 1 || i < ids.length
      ? massGrams(mm3, filamentOf(document.filaments, ids[Math.min(i, ids.length - 1)]).densityGcm3)
      : null,
  )
}

const place = ([x, y]: readonly [number, number, number]) => `${x.toFixed(1)}, ${y.toFixed(1)}`
