import type { PlanDocument } from '@tender/core/decide'
import type { SolidEngine } from '@tender/core/mesh'
import { plainPrint, type PlanResult } from '@tender/core/plan'
import type { PolygonEngine } from '@tender/core/polygon'
import type { ToolPaths } from '@tender/core/path'
import {
  bedPrint,
  toolsFor,
  type BedOptions,
  type BedPlace,
  type Loaded,
  type Print,
  type Sweep,
} from '@tender/core/print'
import { bedAs3mf } from '@tender/core/solid'
import { gcodeFile, printFacts, type PrintFacts } from './gcodeFile'

export type BedForm = 'gcode' | '3mf'

/** Variants of a part, how they go on one bed, and which file is wanted of it; null only looks. */
export type BedAsked = {
  /** What the mesh is known by. */
  readonly key: string
  readonly documents: readonly PlanDocument[]
  readonly options: BedOptions
  readonly form: BedForm | null
  /** What is loaded on the printer. */
  readonly loaded: Loaded
}

/** Lines that lie on the bed, in the plan's own coordinates. */
export type BedLines = Pick<Sweep, 'role'> & Pick<ToolPaths, 'xyMm' | 'starts'>

export type LaidBed = {
  readonly places: readonly (BedPlace & { readonly lines: readonly BedLines[] })[]
  readonly facts: PrintFacts
  readonly file: Blob | Uint8Array | null
}

type Variant = { readonly document: PlanDocument; readonly result: PlanResult }

/** The variants that were laid last: moving one by hand does not plan them all again. */
let last: { readonly of: string; readonly variants: readonly Variant[] } | null = null

/**
 * Lays variants on one bed.
 * @param plan works one of them out
 * @throws TenderError as bedPrint and bedAs3mf do
 */
export async function layBed(
  { key, documents, options, form, loaded }: BedAsked,
  plan: (document: PlanDocument, onShare: (share: number) => Promise<void>) => Promise<PlanResult>,
  engines: () => Promise<{ readonly polygons: PolygonEngine; readonly solids: SolidEngine }>,
  onShare: (share: number) => Promise<void>,
): Promise<LaidBed> {
  const of = JSON.stringify([key, documents])
  if (last?.of !== of) {
    last = null
    const variants: Variant[] = []
    for (const document of documents)
      variants.push({
        document,
        result: await plan(document, (share) =>
          onShare((0.7 * (variants.length + share)) / documents.length),
        ),
      })
    last = { of, variants }
  }
  const { variants } = last
  const [{ document }] = variants
  const prints = variants.map(({ document, result: { groups, geometry } }) =>
    plainPrint(document, groups, geometry),
  )
  const laid = bedPrint(
    variants.map(({ document: { name } }, n) => ({ name, print: prints[n] })),
    document.printer,
    options,
  )
  const later = (share: number) => onShare(0.7 + 0.3 * share)
  const print = { ...laid.print, tools: toolsFor(laid.print.slots, loaded) }
  const places = laid.places.map((place, n) => ({ ...place, lines: linesOnBed(prints[n]) }))
  if (form === 'gcode') {
    const { file, ...facts } = await gcodeFile(print, document.printer, later)
    return { places, facts, file }
  }
  const file =
    form === null
      ? null
      : await bedAs3mf(variants, laid, await engines(), (done, total) => later(done / total))
  return { places, facts: printFacts(print, document.printer), file }
}

const linesOnBed = ({ sweeps }: Print): BedLines[] =>
  sweeps.flatMap(({ role, bottomMm, paths: { xyMm, starts } }) =>
    bottomMm === 0 ? [{ role, xyMm: xyMm.slice(), starts: starts.slice() }] : [],
  )
