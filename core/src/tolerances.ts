/**
 * Points closer than this are one: below what a printer can place, far above Float64 noise at 300 mm (6e-14).
 */
export const SAME_POINT_MM = 1e-4

/**
 * Steps of the polygon engine's integer grid per millimetre: 0.1 micrometre. Finer buys nothing, and 300 mm
 * still fits in 32 bits.
 */
export const GRID_PER_MM = 1e4

/**
 * Outlines may stray this far when near-straight runs of points are thinned. Half a degree of lean is 0.0013
 * mm on a 0.1 mm layer, and two outlines and an arc must stay below it together.
 */
export const OUTLINE_TOLERANCE_MM = 0.0003

/**
 * What outlines, arcs and slack are scaled by on layers thinner than 0.1 mm, where half a degree is less than
 * a micrometre.
 */
export const fineness = (layerHeightMm: number): number => Math.min(1, layerHeightMm / 0.1)

/** Toolpaths may stray this far from the outline: a fortieth of a line, invisible in plastic. */
export const PATH_TOLERANCE_MM = 0.01

/** Largest gap between a round corner and the polygon drawn for it when an overhang limit is grown. */
export const ARC_TOLERANCE_MM = 0.0003

/** An overhang must pass its limit by this much: covers thinned outlines and drawn arcs on both layers. */
export const OVERHANG_SLACK_MM = 1e-3

/** Heights closer than this are one: thinner than any layer can be told apart. */
export const SAME_HEIGHT_MM = 1e-5

/** The same number for heights that are one: what ends and what begins there find each other. */
export const heightKey = (mm: number): number => Math.round(mm / (10 * SAME_HEIGHT_MM))

/** A patch smaller than this cannot be printed as a dot of its own. */
export const SMALLEST_PATCH_MM2 = 0.01

/** A shell whose box is nowhere longer than this is dust: half a line of the finest usual nozzle. */
export const TOO_SMALL_TO_PRINT_MM = 0.15
