import { thicknessOf } from '../bench'
import { leanBelow, type Decisions, type PlanDocument } from '../decide'

/** Everything of a document that a stage may read, side by side. */
export type Reading = Decisions &
  Pick<PlanDocument, 'pose' | 'exceptions' | 'posts' | 'zones' | 'bodies'> & {
    /** Thinnest and thickest layer of the printer's nozzle. */
    readonly thicknessMm: readonly [number, number]
  }

export function readingOf({
  decisions,
  pose,
  exceptions,
  posts,
  zones,
  bodies,
  printer,
}: PlanDocument): Reading {
  const { partFilament, standFilament, freeAngleDeg } = decisions
  // Stands of the part's own filament cannot do what the part cannot.
  const leanDeg =
    standFilament === partFilament ? Math.min(decisions.leanDeg, leanBelow(freeAngleDeg)) : decisions.leanDeg
  return { ...decisions, leanDeg, pose, exceptions, posts, zones, bodies, thicknessMm: thicknessOf(printer) }
}
