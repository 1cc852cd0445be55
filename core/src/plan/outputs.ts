import type { Mesh, MeshFacts, Placing } from '../mesh'
import type { Overhangs, ZoneLayers } from '../overhang'
import type { FreeBridge, ToolPaths } from '../path'
import type { Slices } from '../slice'
import type { Levels, Outlines, Supports } from '../stand'
import type { HoldingGroup } from './assign'

/** How a part lies. */
export type Lying = {
  readonly posed: Mesh
  readonly facts: MeshFacts
  readonly placing: Placing
  /** Bodies of the file that are stands already, as they lie. */
  readonly drawn: Mesh | null
}

/** What each stage of planning answers. */
export type Outputs = {
  part: { readonly part: Mesh; readonly openEdges: number }
  lie: Lying
  slice: Slices
  zones: readonly ZoneLayers[]
  overhang: Overhangs
  'free bridges': readonly FreeBridge[]
  'part paths': readonly ToolPaths[]
  'seamed paths': readonly ToolPaths[]
  levels: { readonly levels: Levels; readonly outlines: Outlines }
  assign: readonly HoldingGroup[]
  stand: Supports
  'support paths': readonly ToolPaths[]
}
