import { thicknessOf } from '../bench'
import type { Decisions, PlanDocument } from '../decide'

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
  return { ...decisions, pose, exceptions, posts, zones, bodies, thicknessMm: thicknessOf(printer) }
}
