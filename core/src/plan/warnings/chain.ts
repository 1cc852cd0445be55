import { filamentOf } from '../../bench'
import { bookOf } from '../../decide'
import { regionAreaMm2 } from '../../polygon'
import {
  followChance,
  reconciled,
  releaseChain,
  seenSentence,
  SURELY_CLEAN,
  type ReleaseChain,
} from '../../release'
import { warning, type PlanWarning, type Warned } from './warning'

/** Whether the interface comes along with the stands: by what was measured, else by the clings of the families. */
export function chainWarnings({ document, contacts, geometry }: Warned): PlanWarning[] {
  const { decisions: d, filaments, evidence } = document
  const contactMm2 = contacts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
  if (contactMm2 === 0) return []
  const [part, touching, bulk] = [d.partFilament, d.interfaceFilament, d.standFilament].map((id) =>
    filamentOf(filaments, id),
  )
  if (touching.id === bulk.id) return []
  const footprintMm2 = geometry.passes
    .filter((pass) => pass.bottomMm === 0)
    .reduce((sum, pass) => sum + regionAreaMm2(pass.region), 0)
  const chain = releaseChain({ ...d, part, touching, bulk, contactMm2, footprintMm2, book: bookOf(document) })
  const seen = document.learnt?.followed.find(
    (row) => row.part === part.id && row.touching === touching.id && row.bulk === bulk.id,
  )
  if (seen) {
    if (followChance(chain.interfaceFollows, seen) >= SURELY_CLEAN) return []
    return [warning('INTERFACE_MAY_STAY', `${seenSentence(chain, seen)}${cureOf(chain)}`)]
  }
  if (chain.interfaceFollows === 'surely') return []
  const measured = evidence.upperGapMm
  const chance = measured && measured.source !== 'guess' ? chanceAt(measured.tender, d.upperGapMm) : null
  if (chance !== null && chance >= SURELY_CLEAN) return []
  return [
    warning(
      'INTERFACE_MAY_STAY',
      `${reconciled(chain, chance === null ? null : { chance, readings: measured!.readings, gapMm: d.upperGapMm })}${cureOf(chain)}`,
    ),
  ]
}

function cureOf({ remedies }: ReleaseChain): string {
  const cure = remedies.find((remedy) => remedy.cures)
  return cure ? ` What would do: ${cure.sentence.charAt(0).toLowerCase()}${cure.sentence.slice(1)}` : ''
}

function chanceAt(
  tender: { readonly gapsMm: readonly number[]; readonly chance: readonly number[] } | undefined,
  gap: number,
): number | null {
  if (!tender || tender.gapsMm.length === 0) return null
  const after = tender.gapsMm.findIndex((one) => one >= gap)
  if (after < 0) return tender.chance.at(-1)!
  if (after === 0) return tender.chance[0]
  const [a, b] = [tender.gapsMm[after - 1], tender.gapsMm[after]]
  const t = (gap - a) / (b - a)
  return tender.chance[after - 1] * (1 - t) + tender.chance[after] * t
}
