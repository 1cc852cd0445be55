import type { Manifold } from 'manifold-3d'
import type { SolidEngine } from '../mesh'

/** The first filament of a trial makes the part, the second what touches it (or what is swapped to). */
export type Slot = 0 | 1

/** How the inside of a piece is laid. */
export type Lay =
  /** Like a part: walls, skins, fill. */
  | { readonly kind: 'part'; readonly walls: number; readonly fillDensity: number }
  /** Straight lines of one direction. */
  | {
      readonly kind: 'lines'
      readonly angleDeg: number
      readonly density: number
      readonly solidFirst: boolean
    }
  /** Whole lines along y, end to end without a trim: what they hold is exactly the solid's volume. */
  | { readonly kind: 'ribbon' }

/** Something that is printed in one go at each of its layers. */
export type Piece = {
  /** Key of the step it belongs to; null for marks and what holds things together. */
  readonly step: string | null
  readonly body: 'part' | 'stand' | 'interface' | 'second'
  readonly slot: Slot
  readonly solid: Manifold
  /** Heights between its layers, from its bottom to its top. */
  readonly boundariesMm: readonly number[]
  /**
   * Order of printing: all of a phase comes before the next; within one, by height. Per layer when it is a
   * function.
   */
  readonly phase: number | ((layer: number) => number)
  readonly lay: Lay
}

/** What a coupon is made for: layers and lines as the trial will record them. */
export type CouponSize = {
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly nozzleMm: number
  readonly tileAreaMm2: number | null
}

/** Even layers from a height up, n of them. */
export const evenLayers = (fromMm: number, layers: number, thicknessMm: number): number[] =>
  Array.from({ length: layers + 1 }, (_, k) => fromMm + k * thicknessMm)

export const box = (
  engine: SolidEngine,
  at: readonly [number, number, number],
  size: readonly [number, number, number],
): Manifold => engine.Manifold.cube([size[0], size[1], size[2]]).translate([at[0], at[1], at[2]])

/** Joins solids and frees them. */
export function joined(engine: SolidEngine, solids: readonly Manifold[]): Manifold {
  const sum = engine.Manifold.union([...solids])
  for (const solid of solids) solid.delete()
  return sum
}

/** Layers above a mark's ground. */
export const MARK_LAYERS = 2

/** A mark as a piece: a raised stroke two lines wide. */
export function markPiece(
  solid: Manifold,
  slot: Slot,
  zMm: number,
  size: CouponSize,
  phase: Piece['phase'],
): Piece {
  return {
    step: null,
    body: slot === 0 ? 'part' : 'second',
    slot,
    solid,
    boundariesMm: evenLayers(zMm, MARK_LAYERS, size.layerHeightMm),
    phase,
    lay: { kind: 'part', walls: 1, fillDensity: 0 },
  }
}
