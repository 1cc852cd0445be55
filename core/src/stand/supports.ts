import type { Region } from '../polygon'

/** Straight columns, or branches that lean, join and thicken towards the bed. */
export const STAND_KINDS = ['straight', 'branching'] as const
export type StandKind = (typeof STAND_KINDS)[number]

/** As slim as branches may be that hold together above, or each so thick that it stands until then. */
export const BRANCHES = ['slim', 'sturdy'] as const
export type Branches = (typeof BRANCHES)[number]

/** How the lines of a pass are laid. */
export type Fill =
  /** The stand's own pattern and density. */
  | 'stand'
  /** The stand's pattern, as dense as its top is wanted. */
  | 'dense'
  /** Line beside line: on the bed, where it holds on. */
  | 'solid'
  /** Line beside line or as far apart as interface lines are. */
  | 'interface'
  /** Round sections of branches, ring by ring. */
  | 'rounds'
  /** Rings: extra lines around a first layer. */
  | 'rings'

export type SupportRole = 'stand' | 'interface' | 'footing' | 'brim'

/** One sweep of one role at one height. It fills region from bottomMm to topMm. */
export type SupportPass = {
  readonly role: SupportRole
  readonly fill: Fill
  /** Which of the plan's holdings it serves. */
  readonly holding: number
  readonly bottomMm: number
  readonly topMm: number
  readonly region: Region
  /** For rounds: x, y, radius by turns. */
  readonly rounds?: Float64Array
  /** The part's layer whose first lines an interface line of this pass has to cross. */
  readonly facesLayer: number
  /** Its lines lie square to those: layers laid instead of levels, by an odd number fewer, lie between. */
  readonly turned?: true
}

/** Why some of an underside is not held. */
export type UnheldReason =
  /** So close to the bed that no layer fits below it. */
  | 'no room'
  /** Nearer to an upright wall than the side gap. */
  | 'beside a wall'
  /** Nothing leads down to the bed, or to the part where stands may rest on it. */
  | 'no way down'
  /** Beside the layer below it, which a support as high as the gap asks would touch. */
  | 'beside the layer below'
  /** Narrower than a line can be laid. */
  | 'too narrow'
  /** The letter says so. */
  | 'left free'

/** What happens below one layer's undersides for one holding. */
export type Held = {
  readonly layerIndex: number
  /** What of the undersides wants holding. */
  readonly wanted: Region
  /** Where support ends below it, before lines are laid. */
  readonly reached: Region
  /** Height at which the support ends. */
  readonly topMm: number
  readonly gapMm: number
  readonly achievedGapMm: number
  readonly why: string | null
  readonly unheldMm2: Readonly<Partial<Record<UnheldReason, number>>>
  /** The layers below it from below: the stand's last, then the interface. */
  readonly stack: readonly {
    readonly role: 'stand' | 'interface'
    readonly bottomMm: number
    readonly topMm: number
  }[]
  /** A stand that the maker drew, not one of ours. */
  readonly drawn: boolean
}

/** Where stands begin on the part, with the gap that is really left below them. */
export type Rest = {
  readonly levelMm: number
  readonly areaMm2: number
  readonly gapMm: number
  readonly askedMm: number
}

/** The common answer of every kind of stand. */
export type Supports = {
  /** From the bed upwards. */
  readonly passes: readonly SupportPass[]
  /** Per holding, by the layer that is held. */
  readonly held: readonly ReadonlyMap<number, Held>[]
  /** What drawn stands hold, by layer. */
  readonly drawn: ReadonlyMap<number, Held>
  readonly rests: readonly Rest[]
}
