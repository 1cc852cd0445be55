import { filamentOf } from '../bench'
import { bookOf, type PlanDocument } from '../decide'
import { EMPTY_REGION, ringCount, ringOf, type PolygonEngine, type Region } from '../polygon'
import { releaseChain, weakArms, weakNecks } from '../release'
import type { Layer } from '../slice'
import type { Printed, PrintedContact } from '../takeOff'
import { holdingOf } from './planPrint'
import type { Contact, PlanResult } from './planResult'
import { planRelease, touchingOf } from './release'

/** Contacts that a maker reads one by one; of more the largest are taken. */
const MOST_CONTACTS = 60
/** Outlines are for looking at: corners that stick out less are left out. */
const OUTLINE_MM = 0.15
/** Height from layer to layer when the part is seen from above. */
const SILHOUETTE_STEP_MM = 2

/**
 * What is kept of a plan when it is printed: its contacts to be read, its grams and minutes to be compared.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function printedOf(document: PlanDocument, result: PlanResult, engine: PolygonEngine): Printed {
  const { geometry, groups, summary } = result
  const outlineOf = (region: Region): number[][] => ringsOf(engine.thin(region, OUTLINE_MM))
  const held = summary.contacts
    .filter(({ areaMm2, achievedGapMm }) => areaMm2 > 0 && achievedGapMm !== null)
    .toSorted((a, b) => b.areaMm2 - a.areaMm2)
  const read = held
    .slice(0, MOST_CONTACTS)
    .toSorted((a, b) => a.zMm - b.zMm || a.atMm[0] - b.atMm[0] || a.atMm[1] - b.atMm[1])
  const part = filamentOf(document.filaments, document.decisions.partFilament)
  const book = bookOf(document)

  const touching = touchingOf(document, groups, read)
  const thin = [weakNecks(geometry.layers, touching), weakArms(geometry.layers, touching, engine)]

  const contactOf = (contact: Contact, n: number): PrintedContact => {
    const group = groups[contact.holding]
    const holding = holdingOf(document, group)
    const [touches, bulk] = [holding.interfaceFilament, holding.standFilament].map((id) =>
      filamentOf(document.filaments, id),
    )
    const steps = [...(group.patches.get(contact.patch)?.values() ?? [])]
    const { lineWidthMm, footingLines } = document.decisions
    return {
      key: `c${n + 1}`,
      atMm: [round(contact.atMm[0]), round(contact.atMm[1]), round(contact.zMm)],
      // Posts hold whatever they stand under, by the letter.
      holding: group.kind === 'exception' ? contact.holding : 0,
      kind: contact.kind,
      access: contact.access,
      areaMm2: round(contact.areaMm2),
      gapMm: contact.gapMm,
      achievedGapMm: Number(contact.achievedGapMm!.toFixed(4)),
      interfaceSpacingMm: holding.interfaceSpacingMm,
      interfaceLayers: holding.interfaceLayers,
      touching: touches.id,
      bulk: bulk.id,
      guessed: releaseChain({
        ...holding,
        part,
        touching: touches,
        bulk,
        lineWidthMm,
        footingLines,
        upperGapMm: contact.achievedGapMm!,
        contactMm2: contact.areaMm2,
        footprintMm2: contact.areaMm2,
        book,
      }).interfaceFollows,
      neckMm:
        thin
          .flatMap((places) => places.get(touching[n]) ?? [])
          .toSorted((a, b) => a.areaMm2 - b.areaMm2)
          .at(0)?.widthMm ?? null,
      outline: outlineOf(engine.union(...steps)),
    }
  }
  const release = planRelease(document, result)
  return {
    contacts: read.map(contactOf),
    moreContacts: held.length - read.length,
    silhouette: outlineOf(silhouetteOf(geometry.layers, engine)),
    grams: summary.estimate.filaments.map(({ id, g, partG }) => ({
      filament: id,
      partG: round(partG),
      wasteG: round(g - partG),
    })),
    minutes: round(release.stands.reduce((sum, { minutes }) => sum + minutes, 0)),
    timeS: Math.round(summary.timeS),
    heightMm: round(summary.heightMm),
  }
}

/** The part seen from above. */
function silhouetteOf(layers: readonly Layer[], { union }: PolygonEngine): Region {
  let seen = EMPTY_REGION
  let nextMm = 0
  layers.forEach(({ region, topMm }, i) => {
    if (topMm < nextMm && i < layers.length - 1) return
    nextMm = topMm + SILHOUETTE_STEP_MM
    seen = union(seen, region)
  })
  return seen
}

const round = (value: number) => Number(value.toFixed(2))

const ringsOf = (region: Region): number[][] =>
  Array.from({ length: ringCount(region) }, (_, r) =>
    Array.from(ringOf(region, r), (value) => Number(value.toFixed(1))),
  )
