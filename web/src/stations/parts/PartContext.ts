import type { Part } from '@tender/contract'
import type { Zone } from '@tender/core/overhang'
import type { HullFace } from '@tender/core/pose'
import { createContext, use } from 'react'
import type { Hit } from '../../drawings/space/PartBody'
import type { Drawing, ReliefReport } from '../../workers/partWork'
import type { NeedsOutcome } from '../../workers/useNeeds'
import type { PartDraft } from './usePartDraft'
import type { PartLimits } from './usePartLimits'

/** What the pointer is for on the part. */
export type Tool =
  | { readonly kind: 'look' }
  | { readonly kind: 'face' }
  | { readonly kind: 'measure' }
  | { readonly kind: 'brush'; readonly zoneId: string }

export type PartSetting = PartDraft & {
  readonly part: Part
  readonly limits: PartLimits
  readonly needs: NeedsOutcome
  readonly drawing: Drawing | undefined
  /** Key of the mesh in the worker, once it is there. */
  readonly meshKey: string | undefined
  readonly faces: readonly HullFace[]
  readonly tool: Tool
  readonly setTool: (tool: Tool) => void
  readonly measured: readonly Hit[]
  readonly relief: ReliefReport | null
  readonly setRelief: (relief: ReliefReport | null) => void
  readonly zones: readonly Zone[]
  /** With `goesOn`, undo takes it back together with the change before: strokes of a brush. */
  readonly setZones: (zones: readonly Zone[], goesOn?: boolean) => void
}

export const PartContext = createContext<PartSetting | null>(null)

export function usePartSetting(): PartSetting {
  const setting = use(PartContext)
  if (!setting) throw new Error('Only inside a part.')
  return setting
}
