import { filamentOf } from '../../bench'
import { bookOf, followedOf, gapEvidenceUnder, tenderFromEvidence } from '../../decide'
import { regionAreaMm2 } from '../../polygon'
import { bondSentence, releaseChain, surelyFollows, type ReleaseChain } from '../../release'
import { holdingOf } from '../planPrint'
import { undersidesOf } from './undersides'
import { holdOtherwise, warning, type PlanWarning, type Warned } from './warning'

const MOST_REMEDIES = 3

/**
 * Whether the interface comes along with the stands, under the letter and under each exception: by what was
 * measured, else by the clings of the families.
 */
export function chainWarnings(warned: Warned): PlanWarning[] {
  const areas = new Map<number, number>()
  for (const { holding, areaMm2 } of warned.contacts) {
    // Posts are held as the letter says.
    const sentence = warned.groups[holding].kind === 'exception' ? holding : 0
    areas.set(sentence, (areas.get(sentence) ?? 0) + areaMm2)
  }
  return [...areas].sort(([a], [b]) => a - b).flatMap(([holding, mm2]) => mayStay(warned, holding, mm2))
}

/** @param holding 0 for the letter, then its exceptions in their order */
function mayStay({ document, groups, geometry }: Warned, holding: number, contactMm2: number): PlanWarning[] {
  if (contactMm2 === 0) return []
  const { decisions, filaments, exceptions } = document
  const own = holdingOf(document, groups[holding])
  const [part, touching, bulk] = [decisions.partFilament, own.interfaceFilament, own.standFilament].map(
    (id) => filamentOf(filaments, id),
  )
  if (touching.id === bulk.id) return []
  const isOwn = (pass: { readonly holding: number }) =>
    holding === 0 ? groups[pass.holding]?.kind !== 'exception' : pass.holding === holding
  const footprintMm2 = geometry.passes
    .filter((pass) => pass.bottomMm === 0 && isOwn(pass))
    .reduce((sum, pass) => sum + regionAreaMm2(pass.region), 0)
  const chain = releaseChain({
    ...decisions,
    ...own,
    part,
    touching,
    bulk,
    contactMm2,
    footprintMm2,
    book: bookOf(document),
  })
  const seen = followedOf(document.learnt, part.id, touching.id, bulk.id)
  const said = gapEvidenceUnder(document, holding)
  const chance = said && said.source !== 'guess' ? tenderFromEvidence(said, own.upperGapMm) : null
  const measured = chance === null ? null : { chance, readings: said!.readings, gapMm: own.upperGapMm }
  if (surelyFollows(chain, measured, seen)) return []
  const offered = chain.remedies.toSorted((a, b) => Number(b.cures) - Number(a.cures)).slice(0, MOST_REMEDIES)
  const sentence = holding === 0 ? null : holding - 1
  const where = sentence === null ? '' : `Under ${undersidesOf(exceptions[sentence].where, document)}: `
  return [
    warning('INTERFACE_MAY_STAY', `${where}${bondSentence(chain, measured, seen)}${cureOf(chain)}`, {
      remedies: offered.map(({ sentence: words, change: { bulk: stands, ...values } }) =>
        holdOtherwise(document, sentence, inPassing(words), {
          ...values,
          ...(stands && { standFilament: stands.id }),
        }),
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
