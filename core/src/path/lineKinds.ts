/** How a stand's lines are laid: each by itself, tied at their ends, or crossing from layer to layer. */
export const STAND_LINES = ['separate', 'joined', 'crosswise'] as const
export type StandLines = (typeof STAND_LINES)[number]
/** Interface lines in one direction a layer, or in two. */
export const INTERFACE_LINES = ['straight', 'crossed'] as const
export type InterfaceLines = (typeof INTERFACE_LINES)[number]
