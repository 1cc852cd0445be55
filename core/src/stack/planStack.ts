import { layerBoundaryMm } from '../slice'
import { SAME_HEIGHT_MM } from '../tolerances'

/** How a stand's last layers are laid: thicknesses of their own, or the part's layers only. */
export type StackMode = 'own' | 'shared'

export type StackInput = {
  /** Height of the underside that the stand must stop short of. */
  readonly undersideMm: number
  readonly gapMm: number
  readonly interfaceLayers: number
  readonly layerHeightMm: number
  readonly firstLayerHeightMm: number
  /** Thinnest and thickest layer the nozzle can lay. */
  readonly thicknessMm: readonly [number, number]
  readonly mode: StackMode
}

export type Stack = {
  /** Interface layers from below upwards; empty when there is no room for even one. */
  readonly interface: readonly { readonly bottomMm: number; readonly topMm: number }[]
  /** The stand's own layers, shared with the part, end here. */
  readonly standTopMm: number
  readonly achievedGapMm: number
  /** Why the gap is not the one asked for; null when it is. */
  readonly why: string | null
}

/**
 * Plans the layers between a stand and an underside so that the gap comes out as asked.
 *
 * The stand's bulk shares the part's layers. The interface above it gets thicknesses of its own, equal to
 * each other and as near to the layer height as the gap allows: with n of them they differ from it by at most
 * h / 2n.
 * Source: (underside - gap - stand top) / n for every stand top on the part's grid; the one nearest to h
 * within the nozzle's range wins.
 */
export function planStack(input: StackInput): Stack {
  const { undersideMm, gapMm, layerHeightMm: h, firstLayerHeightMm: first } = input
  const gridAt = (layers: number) => layerBoundaryMm(layers, first, h)
  const gridBelow = (z: number) => (z < first - SAME_HEIGHT_MM ? 0 : 1 + Math.floor((z - first) / h + 1e-6))
  const wanted = Math.max(0, input.interfaceLayers)
  const none = (why: string): Stack => ({ interface: [], standTopMm: 0, achievedGapMm: undersideMm, why })

  if (input.mode === 'shared') {
    const exact = undersideMm - gapMm
    const lower = gridBelow(exact)
    const top =
      gridAt(lower + 1) - exact < exact - gridAt(lower) - SAME_HEIGHT_MM &&
      gridAt(lower + 1) <= undersideMm + SAME_HEIGHT_MM
        ? lower + 1
        : lower
    if (top <= 0) return none('There is no room for a layer between the bed and this underside.')
    const layers = Math.min(wanted, top)
    const achieved = undersideMm - gridAt(top)
    return {
      interface: Array.from({ length: layers }, (_, k) => ({
        bottomMm: gridAt(top - layers + k),
        topMm: gridAt(top - layers + k + 1),
      })),
      standTopMm: gridAt(top - layers),
      achievedGapMm: achieved,
      why:
        Math.abs(achieved - gapMm) > SAME_HEIGHT_MM
          ? `Sharing the part's ${h} mm layers, the gap can only be a multiple of ${h} mm.`
          : null,
    }
  }

  const [thinnest, thickest] = input.thicknessMm
  const top = undersideMm - gapMm
  if (wanted === 0) {
    // Without interface layers the stand's own last layer takes up the difference.
    const base = gridAt(Math.max(0, gridBelow(top)))
    if (base <= 0) return none('There is no room for a layer between the bed and this underside.')
    return {
      interface: [],
      standTopMm: base,
      achievedGapMm: undersideMm - base,
      why:
        Math.abs(top - base) > SAME_HEIGHT_MM
          ? 'Without interface layers the gap can only end on the part’s layers.'
          : null,
    }
  }
  // One layer more comes next: where a single layer cannot span what is left between two layers of the part,
  // two can.
  for (const n of [wanted, wanted + 1, ...Array.from({ length: wanted - 1 }, (_, k) => wanted - 1 - k)]) {
    let best: { base: number; thickness: number } | null = null
    const highest = gridBelow(top)
    for (let layers = highest; layers >= 0; layers--) {
      const thickness = (top - gridAt(layers)) / n
      if (thickness > thickest + SAME_HEIGHT_MM) break
      if (thickness < thinnest - SAME_HEIGHT_MM) continue
      if (!best || Math.abs(thickness - h) < Math.abs(best.thickness - h) - SAME_HEIGHT_MM)
        best = { base: gridAt(layers), thickness }
    }
    if (!best) continue
    const { base, thickness } = best
    return {
      interface: Array.from({ length: n }, (_, k) => ({
        bottomMm: base + k * thickness,
        topMm: k === n - 1 ? top : base + (k + 1) * thickness,
      })),
      standTopMm: base,
      achievedGapMm: gapMm,
      why:
        n < wanted
          ? `There is room for only ${n} of ${wanted} interface layers above the bed.`
          : n > wanted
            ? `One interface layer more than asked, so that the gap comes out.`
            : null,
    }
  }
  return none('The underside is too close to the bed for a single layer of support.')
}
