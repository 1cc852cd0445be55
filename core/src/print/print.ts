import type { Filament } from '../bench'
import type { ToolPaths } from '../path'
import type { Tower } from './purge/tower'
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
  /**
   * Height in whose course it is laid, where that is not its own top: a tower is laid in heights of its own.
   */
  readonly levelMm?: number
  /**
   * What the printer's swap block pushes out before it, where that is not what its print says of the swap.
   */
  readonly chuteMm3?: number
}

/** What is purged at one swap, and where it goes. */
export type Purged = {
  readonly zMm: number
  readonly from: number
  readonly to: number
  readonly wantedMm3: number
  /** In stands and fill that are printed anyway. */
  readonly laidAnywayMm3: number
  readonly towerMm3: number
  /** Pushed out by the printer's own block. */
  readonly chuteMm3: number
}

/** Where a print may push out what it purges. */
export type PurgePlan = {
  readonly where: 'printer' | 'tower'
  /** What is laid anyway and may carry leftovers: nothing, stands, or stands and the fill inside of walls. */
  readonly into: 'nothing' | 'stands' | 'fill'
  /** Middle of the tower, in the coordinates of the paths; null where there is room. */
  readonly towerAtMm: readonly [number, number] | null
  readonly firstHeightMm: number
  readonly heightMm: number
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
  /** Nothing that begins lower is cooled; without it the bed's layer alone is not. */
  readonly fanFromMm?: number
  /** How lines over nothing are laid; without it like any other. */
  readonly bridging?: { readonly mmS: number; readonly fanPercent: number }
  /** Plastic to push out at a swap, from slot to slot, before the next line may be clean. */
  readonly purgeMm3: readonly (readonly number[])[]
  /** Where it may be pushed out; without one the printer's swap block does it. */
  readonly purging?: PurgePlan
  /** What became of it, once that is settled. */
  readonly purged?: readonly Purged[]
  readonly tower?: Tower | null
  /** Why a tower is not where it was asked for. */
  readonly towerTrouble?: 'no room' | 'in the way'
  /** Whether a layer that takes less than the printer's least time is slowed down. */
  readonly slowsDown: boolean
  /** Whether each piece is printed to its end before the next one is begun. */
  readonly oneByOne?: boolean
}

/** The same cooling for everything. */
export const evenFan = (percent: number): Record<Role, number> =>
  Object.fromEntries(ROLES.map((role) => [role, percent])) as Record<Role, number>

/** Height in whose course a sweep is laid, in mm. */
export const levelOf = ({ levelMm, topMm }: Sweep): number => levelMm ?? topMm

/** What the printer's swap block pushes out before sweep `i`, coming from a slot, in mm3. */
export const chuteBefore = ({ sweeps, purgeMm3 }: Print, i: number, from: number): number =>
  sweeps[i].chuteMm3 ?? purgeMm3[from]?.[sweeps[i].slot] ?? 0
