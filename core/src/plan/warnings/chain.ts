import { filamentOf } from '../../bench'
import { bookOf, followedOf, tenderFromEvidence } from '../../decide'
import { regionAreaMm2 } from '../../polygon'
import { bondSentence, releaseChain, surelyFollows, type ReleaseChain } from '../../release'
import { decide, warning, type PlanWarning, type Warned } from './warning'

const MOST_REMEDIES = 3

/**
 * Whether the interface comes along with the stands: by what was measured, else by the clings of the
 * families.
 */
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
  const seen = followedOf(document.learnt, part.id, touching.id, bulk.id)
  const said = evidence.upperGapMm
  const chance = said && said.source !== 'guess' ? tenderFromEvidence(said, d.upperGapMm) : null
  const measured = chance === null ? null : { chance, readings: said!.readings, gapMm: d.upperGapMm }
  if (surelyFollows(chain, measured, seen)) return []
  const offered = chain.remedies.toSorted((a, b) => Number(b.cures) - Number(a.cures)).slice(0, MOST_REMEDIES)
  return [
    warning('INTERFACE_MAY_STAY', `${bondSentence(chain, measured, seen)}${cureOf(chain)}`, {
      remedies: offered.map(({ sentence, change: { bulk: stands, ...decisions } }) =>
        decide(inPassing(sentence), { ...decisions, ...(stands && { standFilament: stands.id }) }),
      ),
    }),
  ]
}

/** A sentence as a part of another one. */
const inPassing = (sentence: string) =>
  `${sentence.charAt(0).toLowerCase()}${sentence.slice(1).replace(/\.$/, '')}`

function cureOf({ remedies }: ReleaseChain): string {
  const cure = remedies.find((remedy) => remedy.cures)
  return cure ? ` What would do: ${inPassing(cure.sentence)}.` : ''
}
