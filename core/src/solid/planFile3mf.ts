import { filamentOf } from '../bench'
import type { PlanDocument } from '../decide'
import { TenderError } from '../errors'
import { write3mf, type Body3mf } from '../mesh'
import { filamentOfPass, supportHeightsText, type PlanResult } from '../plan'
import { regionFromRings } from '../polygon'
import type { BedPrint } from '../print'
import type { Checkpoint } from '../slice'
import { planBodies, solidOfPasses, type BodyColours, type BodyEngines } from './bodies'

type Planned = {
  readonly document: PlanDocument
  readonly result: Pick<PlanResult, 'geometry' | 'groups' | 'summary'>
}

function coloursOf({ document, result }: Planned): BodyColours {
  const { filaments, decisions } = document
  const filament = filamentOfPass(document, result.groups)
  return {
    part: filamentOf(filaments, decisions.partFilament).colour,
    stand: filamentOf(filaments, decisions.standFilament).colour,
    interface: filamentOf(filaments, decisions.interfaceFilament).colour,
    of: (pass) => filamentOf(filaments, filament(pass)),
  }
}

/**
 * Bodies of a plan that the format can hold: closed solids alone; of an open part its supports still go out.
 */
async function closedBodies(planned: Planned, engines: BodyEngines, checkpoint?: Checkpoint) {
  const { geometry, summary } = planned.result
  const bodies = await planBodies(geometry, engines, coloursOf(planned), checkpoint)
  return summary.part.watertight ? bodies : bodies.filter(({ name }) => name !== 'Part')
}

/**
 * Part, stand and interface of a plan as bodies of one 3MF file.
 * @returns without bytes where nothing is left of an open part
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 * @throws SOLID_NOT_CLOSED when a body cannot be made closed
 */
export async function planAs3mf(
  planned: Planned,
  engines: BodyEngines,
  checkpoint?: Checkpoint,
): Promise<{ readonly file: Uint8Array | null; readonly withoutPart: boolean }> {
  const { document, result } = planned
  const bodies = await closedBodies(planned, engines, checkpoint)
  return {
    file: bodies.length > 0 ? write3mf(document.name, bodies, supportHeightsText(result.summary)) : null,
    withoutPart: !result.summary.part.watertight,
  }
}

/**
 * Variants on one bed as bodies of one 3MF file, each where it stands, with its tag; the heights of each
 * one's support layers as text.
 * @param variants in the order of their dots
 * @throws TenderError SOLID_NOT_CLOSED when a part is open
 */
export async function bedAs3mf(
  variants: readonly Planned[],
  { places, tags }: Pick<BedPrint, 'places' | 'tags'>,
  engines: BodyEngines,
  checkpoint?: Checkpoint,
): Promise<Uint8Array> {
  const bodies: Body3mf[] = []
  for (const [n, variant] of variants.entries()) {
    const { name, atMm, fromMm } = places[n]
    if (!variant.result.summary.part.watertight)
      throw new TenderError(
        'SOLID_NOT_CLOSED',
        `The part of ${name} is open, and a 3MF file may only hold closed solids.`,
      )
    const own = await closedBodies(variant, engines, (done, total) =>
      checkpoint?.(n * total + done, variants.length * total),
    )
    for (const body of own)
      bodies.push({
        ...body,
        name: `${name}: ${body.name}`,
        mesh: shifted(body.mesh, [atMm[0] + fromMm[0], atMm[1] + fromMm[1]]),
      })
    const tag = await solidOfPasses(
      tags[n].map(({ minX, minY, maxX, maxY, bottomMm, topMm }) => ({
        bottomMm,
        topMm,
        region: regionFromRings([[minX, minY, maxX, minY, maxX, maxY, minX, maxY]]),
      })),
      engines.polygons,
      engines.solids,
      () => undefined,
    )
    if (tag) bodies.push({ name: `${name}: Tag`, colour: coloursOf(variant).part, mesh: tag })
  }
  return write3mf(
    places.map(({ name }) => name).join(', '),
    bodies,
    variants.map(({ result }, n) => `${places[n].name}\n${supportHeightsText(result.summary)}`).join('\n\n'),
  )
}

function shifted(mesh: Body3mf['mesh'], [dx, dy]: readonly [number, number]): Body3mf['mesh'] {
  const positionsMm = mesh.positionsMm.slice()
  for (let v = 0; v < positionsMm.length; v += 3) {
    positionsMm[v] += dx
    positionsMm[v + 1] += dy
  }
  return { ...mesh, positionsMm }
}
