import { filamentOf } from '../../bench'
import { bookOf, followedOf, gapEvidenceUnder, tenderFromEvidence } from '../../decide'
import { regionAreaMm2 } from '../../polygon'
import { bondSentence, releaseChain, surelyFollows, type ReleaseChain } from '../../release'
import { holdOtherwise } from '../remedies'
import { after, sentencesOf, type Sentence } from './sentences'
import { warning, type PlanWarning, type Warned } from './warning'

const MOST_REMEDIES = 3

/**
 * Whether the interface comes along with the stands, under the letter and under each exception: by what was
 * measured, else by the clings of the families.
 */
export const chainWarnings = (warned: Warned): PlanWarning[] =>
  sentencesOf(warned).flatMap((sentence) => mayStay(warned, sentence))

function mayStay(
  { document, groups, geometry }: Warned,
  { index, holding, contacts, under }: Sentence,
): PlanWarning[] {
  const { decisions, filaments } = document
  const [part, touching, bulk] = [
    decisions.partFilament,
    holding.interfaceFilament,
    holding.standFilament,
  ].map((id) => filamentOf(filaments, id))
  if (touching.id === bulk.id) return []
  const isOwn = (pass: { readonly holding: number }) =>
    index === null ? groups[pass.holding]?.kind !== 'exception' : pass.holding === index + 1
  const footprintMm2 = geometry.passes
    .filter((pass) => pass.bottomMm === 0 && isOwn(pass))
    .reduce((sum, pass) => sum + regionAreaMm2(pass.region), 0)
  const chain = releaseChain({
    ...decisions,
    ...holding,
    part,
    touching,
    bulk,
    contactMm2: contacts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0),
    footprintMm2,
    book: bookOf(document),
  })
  const seen = followedOf(document.learnt, part.id, touching.id, bulk.id)
  const said = gapEvidenceUnder(document, index === null ? 0 : index + 1)
  const chance = said && said.source !== 'guess' ? tenderFromEvidence(said, holding.upperGapMm) : null
  const measured = chance === null ? null : { chance, readings: said!.readings, gapMm: holding.upperGapMm }
  if (surelyFollows(chain, measured, seen)) return []
  const offered = chain.remedies.toSorted((a, b) => Number(b.cures) - Number(a.cures)).slice(0, MOST_REMEDIES)
  return [
    warning('INTERFACE_MAY_STAY', after(under, bondSentence(chain, measured, seen) + cureOf(chain)), {
      remedies: offered.map(({ sentence, change: { bulk: stands, ...values } }) =>
        holdOtherwise(document, index, inPassing(sentence), {
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
