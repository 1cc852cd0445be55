import { layersFor, type GapLevels, type Levels } from './levels'

/** No more levels than these are replaced by other layers. */
export const MOST_REPLACED = 4

export type Span = { readonly bottomMm: number; readonly topMm: number }

/**
 * At which heights the levels of a support lie. Below `shiftedFrom` they share the part's layers. From there
 * upwards every level lies the rest of the gap lower, so that all tops of a slope end exactly at the gap and
 * neighbouring steps share their heights; right below it a few levels are laid as other layers that make up
 * the difference.
 */
export type Lattice = {
  readonly shiftedFrom: number
  /**
   * Whether a support whose highest level this is can end at the gap: right above the bed there may be no
   * layer that does.
   */
  canEnd(topLevel: number): boolean
  /** Levels right below shiftedFrom that are laid together, from the lowest of them. */
  readonly mergedFrom: number
  spanOf(level: number): Span
  /** Layers that are laid instead of levels mergedFrom .. shiftedFrom - 1, from below. */
  readonly merged: readonly Span[]
  /**
   * Layers instead of the last levels up to a top that ends by itself below shiftedFrom; null where none fit
   * above the bed, and right below shiftedFrom, where `merged` ends at the gap.
   */
  endAt(topLevel: number): { readonly fromLevel: number; readonly spans: readonly Span[] } | null
}

/**
 * @param lowestSloped lowest level that a sloped underside's interface begins at; Infinity when nothing
 * slopes
 * Source: layers of equal thickness, (levels * height - rest) / count, for the fewest levels that allow one
 * within the nozzle's range.
 */
export function latticeOf(
  levels: Levels,
  gap: GapLevels,
  thicknessMm: readonly [number, number],
  lowestSloped: number,
): Lattice {
  const { zOf } = levels
  const rest = gap.restMm
  /**
   * Layers that end the rest below the top of level `last`, instead of it and as few as possible before it.
   */
  const instead = (last: number): { fromLevel: number; spans: Span[] } | null => {
    const topMm = zOf(last + 1) - rest
    for (let fromLevel = last; fromLevel >= 0 && last - fromLevel < MOST_REPLACED; fromLevel--) {
      const bottomMm = zOf(fromLevel)
      const count = topMm > bottomMm ? layersFor(topMm - bottomMm, thicknessMm) : 0
      if (count > 0) return { fromLevel, spans: divided(bottomMm, topMm, count) }
    }
    return null
  }
  const plain = (level: number): Span => ({ bottomMm: zOf(level), topMm: zOf(level + 1) })
  if (rest === 0)
    return {
      shiftedFrom: Infinity,
      canEnd: (level) => level >= 0,
      mergedFrom: Infinity,
      merged: [],
      spanOf: plain,
      endAt: () => null,
    }
  if (lowestSloped === Infinity) {
    return {
      shiftedFrom: Infinity,
      canEnd: (level) => level >= 0 && instead(level) !== null,
      mergedFrom: Infinity,
      merged: [],
      spanOf: plain,
      endAt: instead,
    }
  }
  let shiftedFrom = Math.max(1, lowestSloped)
  let bridge = instead(shiftedFrom - 1)
  while (bridge === null && shiftedFrom < levels.count) bridge = instead(shiftedFrom++)
  if (bridge === null) bridge = { fromLevel: 0, spans: [] }
  return {
    shiftedFrom,
    canEnd: (level) => level >= shiftedFrom - 1 || (level >= 0 && instead(level) !== null),
    mergedFrom: bridge.fromLevel,
    merged: bridge.spans,
    spanOf: (level) =>
      level >= shiftedFrom ? { bottomMm: zOf(level) - rest, topMm: zOf(level + 1) - rest } : plain(level),
    endAt: (topLevel) => (topLevel < shiftedFrom - 1 ? instead(topLevel) : null),
  }
}

function divided(bottomMm: number, topMm: number, count: number): Span[] {
  const at = (k: number) => (k === count ? topMm : bottomMm + ((topMm - bottomMm) * k) / count)
  return Array.from({ length: count }, (_, k) => ({ bottomMm: at(k), topMm: at(k + 1) }))
}

/**
 * The lowest level of interface below a top: so many layers, and with them all that is laid together with
 * the lowest of them. Layers instead of levels have one purpose, though they be more than were asked for.
 */
export function lowestInterface(topLevel: number, layers: number, lattice: Lattice): number {
  if (layers === 0) return topLevel + 1
  const end = lattice.endAt(topLevel)
  const spared = end ? topLevel - end.fromLevel + 1 - end.spans.length : 0
  const lowest = topLevel - layers - spared + 1
  return wholeBlock(end ? Math.min(lowest, end.fromLevel) : lowest, lattice)
}

/** A level, or the lowest of those that are laid together with it. */
export const wholeBlock = (level: number, { mergedFrom, shiftedFrom }: Lattice): number =>
  level > mergedFrom && level < shiftedFrom ? mergedFrom : level

/**
 * Whether the layers between a level and a top above it are fewer than levels by an odd number: lines that
 * turn from layer to layer are then turned once too often, or too little, when they go by levels.
 */
export function isTurned(level: number, topLevel: number, lattice: Lattice): boolean {
  const { shiftedFrom, mergedFrom, merged } = lattice
  const isOdd = (count: number) => count % 2 !== 0
  if (topLevel >= shiftedFrom - 1)
    return level < mergedFrom && isOdd(shiftedFrom - mergedFrom - merged.length)
  const end = lattice.endAt(topLevel)
  return end !== null && level < end.fromLevel && isOdd(topLevel - end.fromLevel + 1 - end.spans.length)
}
