/**
 * Names of the stages that take time, in the order of the work. Views tell them without bringing along the
 * work itself.
 */
export const STAGES = ['slice', 'overhang', 'part paths', 'stand', 'support paths', 'estimate'] as const
export type StageName = (typeof STAGES)[number]
