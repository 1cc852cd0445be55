/**
 * What an underside is like, which decides what suits it: one level face; a slope of one steepness; a rounded
 * one, level at its lowest and steeper further up; or a tip, an island not much wider than the nozzle's
 * lines.
 */
export const PATCH_KINDS = ['flat', 'sloped', 'rounded', 'tip'] as const
export type PatchKind = (typeof PATCH_KINDS)[number]
