import { thicknessOf } from '../bench'
import { leanBelow, type Decisions, type PlanDocument } from '../decide'

/** Everything of a document that a stage may read, side by side. */
export type Reading = Decisions &
  Pick<PlanDocument, 'pose' | 'exceptions' | 'posts' | 'zones' | 'bodies'> & {
    /** Thinnest and thickest layer of the printer's nozzle. */
    readonly thicknessMm: readonly [number, number]
    /** Lines of stands lie no farther from each other than this; coarse, so that stands seldom hang on it. */
    readonly linesApartMm: number
  }

/** What lines lie apart by is told in this and its doubles. */
const FINEST_MM = 5

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
  return {
    ...decisions,
    leanDeg,
    pose,
    exceptions,
    posts,
    zones,
    bodies,
    thicknessMm: thicknessOf(printer),
    linesApartMm: linesApart(decisions, exceptions),
  }
}

function linesApart(
  { standDensity, lineWidthMm, supportSpanMm }: Decisions,
  exceptions: PlanDocument['exceptions'],
): number {
  const sparsest = Math.min(standDensity, ...exceptions.map((one) => one.standDensity ?? 1))
  const doubled = Math.ceil(Math.log2(lineWidthMm / sparsest / FINEST_MM))
  return Math.min(supportSpanMm, FINEST_MM * 2 ** Math.max(0, doubled))
}
