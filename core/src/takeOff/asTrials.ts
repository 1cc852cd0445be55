import { takeOffEvidenceId, type GapReading, type KnownTrialOf } from '../trial'
import type { TakeOff } from './record'

/**
 * What the contacts of prints say of their pairings: gap readings at the gap that was really left, each under
 * the name of its print. One for every filament that touched.
 */
export function trialsOfTakeOffs(takeOffs: readonly TakeOff[]): KnownTrialOf<'gap'>[] {
  return takeOffs.flatMap((takeOff) => {
    if (takeOff.leftOut.includes('gap')) return []
    const byKey = new Map(takeOff.contacts.map((reading) => [reading.contact, reading]))
    const byTouching = new Map<string, GapReading[]>()
    for (const contact of takeOff.printed.contacts) {
      const reading = byKey.get(contact.key)
      if (!reading || reading.leftOut || (reading.release === null && reading.finish === null)) continue
      const list = byTouching.get(contact.touching) ?? []
      byTouching.set(contact.touching, list)
      list.push({
        gapMm: Math.max(0, contact.achievedGapMm),
        spacingMm: contact.interfaceSpacingMm,
        release: reading.release,
        finish: reading.finish,
        forceN: null,
        areaMm2: contact.areaMm2,
        print: takeOff.id,
      })
    }
    return [...byTouching].map(([touching, readings], n) => {
      const filament = takeOff.filaments.find(({ id }) => id === touching)
      return {
        id: takeOffEvidenceId(takeOff.id, n),
        name: takeOff.name,
        printedOn: takeOff.printedOn,
        conditions: {
          ...takeOff.conditions,
          supportFilament: { id: touching, name: filament?.name ?? touching },
          supportLot: filament?.lot ?? '',
        },
        kind: 'gap' as const,
        readings,
      }
    })
  })
}
