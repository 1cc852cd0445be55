import type { Region, RememberingEngine } from '../polygon'
import type { Checkpoint } from '../slice'
import type { StackMode } from '../stack'
import type { Levels } from './levels'
import type { Outlines } from './outlines'
import type { Branches, StandKind } from './supports'

/** How one holding is held, as far as its stands and interface go. */
export type HoldingRules = {
  readonly standKind: StandKind
  readonly branches: Branches
  readonly placement: 'bed' | 'anywhere'
  readonly upperGapMm: number
  readonly lowerGapMm: number
  readonly sideGapMm: number
  readonly marginMm: number
  readonly interfaceLayers: number
  /** Interface layers where a stand rests on the part. */
  readonly lowerInterfaceLayers: number
  readonly stackMode: StackMode
  /** Height below an interface in which the stand is denser. */
  readonly denseTopMm: number
}

export type StandInput = {
  readonly levels: Levels
  readonly outlines: Outlines
  readonly engine: RememberingEngine
  /** Number of the holding among those of the plan. */
  readonly holding: number
  /** Per layer: what of its underside this holding holds. */
  readonly wanted: readonly Region[]
  /** Layers whose undersides go on over several layers. */
  readonly sloped: ReadonlySet<number>
  /** What ends below each layer, instead of its contact with a margin. */
  readonly tops: ReadonlyMap<number, Region> | null
  readonly rules: HoldingRules
  readonly lineWidthMm: number
  /** Thinnest and thickest layer that the nozzle can lay. */
  readonly thicknessMm: readonly [number, number]
  /** How far a layer of the part may step out; for full layers. */
  readonly stepLimitMm: number
  /** How far a stand may lean out by itself, from vertical. */
  readonly leanDeg: number
  /** Lines of a stand lie no farther from each other. */
  readonly linesApartMm: number
  /** What other supports fill at a level. */
  taken(level: number): readonly Region[]
  readonly checkpoint?: Checkpoint
}
