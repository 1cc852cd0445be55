import type { Filament } from '../bench'
import type { ToolPaths } from '../path'
import { ROLES, type Role } from './roles'

/** Lines printed in one go at one height. */
export type Sweep = {
  readonly role: Role
  /** Which of the print's filaments. */
  readonly slot: number
  readonly bottomMm: number
  readonly topMm: number
  readonly paths: ToolPaths
  /** What it belongs to, where a print holds several things: a step of a coupon, a variant. */
  readonly piece: string | null
}

/** Whatever is printed, in the order of printing: a plan, a coupon, several variants on one bed. */
export type Print = {
  readonly title: string
  readonly sweeps: readonly Sweep[]
  /** Where the zero of the paths lies on the bed, in mm. */
  readonly zeroMm: readonly [number, number]
  readonly slots: readonly Filament[]
  /** Number that the printer knows each slot by. */
  readonly tools: readonly number[]
  readonly lineWidthMm: number
  /** One speed for every line, where a test asks for it. */
  readonly speedMmS: number | null
  /** Cooling by role; the bed's layer is never cooled. */
  readonly fanPercent: Readonly<Record<Role, number>>
  /** Plastic pushed out at a swap, from slot to slot, that is not laid as lines. */
  readonly purgeMm3: readonly (readonly number[])[]
  /** Whether a layer that takes less than the printer's least time is slowed down. */
  readonly slowsDown: boolean
}

/** The same cooling for everything. */
export const evenFan = (percent: number): Record<Role, number> =>
  Object.fromEntries(ROLES.map((role) => [role, percent])) as Record<Role, number>
