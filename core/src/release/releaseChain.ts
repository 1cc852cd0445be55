import { clingGuess, type Cling, type FamilyBook, type Filament } from '../bench'
import { interfaceCover, type InterfaceLines } from '../path'

/** What the three bonds of a support depend on. */
export type ChainInput = {
  readonly part: Filament
  readonly touching: Filament
  readonly bulk: Filament
  readonly upperGapMm: number
  readonly lineWidthMm: number
  /** Free width between interface lines. */
  readonly interfaceSpacingMm: number
  readonly interfaceLines: InterfaceLines
  readonly interfaceLayers: number
  /** Share of a stand that is plastic. */
  readonly standDensity: number
  readonly footingLines: number
  /** Contact with the part, and what the stands cover of the bed. */
  readonly contactMm2: number
  readonly footprintMm2: number
  readonly book?: FamilyBook
}

export type Bond = {
  readonly between: 'part and interface' | 'interface and stand' | 'stand and bed'
  readonly strength: number
  readonly cling: Cling | null
}

export type Remedy = {
  /** What to change. */
  readonly sentence: string
  readonly price: 'nothing' | 'a rougher face' | 'grams' | 'minutes' | 'another spool'
  /** Whether this alone makes the interface come along. */
  readonly cures: boolean
  readonly change: Partial<
    Pick<ChainInput, 'upperGapMm' | 'interfaceSpacingMm' | 'standDensity' | 'interfaceLayers'>
  > & { readonly bulk?: Filament }
}

export type ReleaseChain = {
  readonly bonds: readonly [Bond, Bond, Bond]
  readonly weakest: Bond['between']
  /** Whether the interface leaves with the stands. */
  readonly interfaceFollows: 'surely' | 'perhaps' | 'hardly'
  readonly bedHolds: boolean
  readonly sentence: string
  /** Cheapest first; empty when all is well. */
  readonly remedies: readonly Remedy[]
}

/** Strength of a bond per covered area against a weld, by cling: a starting guess. */
const STRENGTH: Readonly<Record<string, number>> = { 0: 0.01, 1: 0.12, 1.5: 0.22, 2: 0.38, 3: 0.7, 4: 1 }
/** A gap this wide leaves a third of the bond. */
const GAP_SCALE_MM = 0.1
/** Clearly stronger means half as strong again. */
const MARGIN = 1.5
/** First layers pressed onto a warm bed hold about as well as a strong pair. */
const BED_STRENGTH = 0.5
/** Each interface layer more carries a pull sideways to more stand lines. */
const SHEET_SHARE = 0.12

const strengthOf = (cling: Cling) => STRENGTH[String(cling)]

/**
 * Strength of the bond between part and interface per area of contact, against a weld. Source: cling strength
 * x cover x exp(-gap / scale).
 */
export function bondToPart(
  input: Pick<
    ChainInput,
    'part' | 'touching' | 'upperGapMm' | 'lineWidthMm' | 'interfaceSpacingMm' | 'interfaceLines' | 'book'
  >,
): number {
  const { part, touching, upperGapMm, book } = input
  return (
    strengthOf(clingGuess(part.family, touching.family, book).cling) *
    interfaceCover(input) *
    Math.exp(-upperGapMm / GAP_SCALE_MM)
  )
}

function bondsOf(input: ChainInput): [Bond, Bond, Bond] {
  const { part, touching, bulk, contactMm2, footprintMm2, book } = input
  const toPart = clingGuess(part.family, touching.family, book).cling
  const toBulk = touching.name === bulk.name ? 4 : clingGuess(touching.family, bulk.family, book).cling
  // Lines of a stand below meet the interface where both have plastic; a stiffer sheet spreads the pull over
  // more of them.
  const carried = Math.min(
    1,
    input.standDensity * (1 + SHEET_SHARE * Math.max(0, input.interfaceLayers - 1)) * 2,
  )
  return [
    {
      between: 'part and interface',
      cling: toPart,
      strength: bondToPart(input) * contactMm2,
    },
    {
      between: 'interface and stand',
      cling: toBulk,
      strength: strengthOf(toBulk) * contactMm2 * interfaceCover(input) * carried,
    },
    {
      between: 'stand and bed',
      cling: null,
      strength: BED_STRENGTH * footprintMm2 * Math.min(1, 0.6 + 0.1 * input.footingLines),
    },
  ]
}

const follows = ([toPart, toBulk]: readonly Bond[]): ReleaseChain['interfaceFollows'] =>
  toBulk.strength >= MARGIN * toPart.strength
    ? 'surely'
    : toBulk.strength > toPart.strength / MARGIN
      ? 'perhaps'
      : 'hardly'

/**
 * Works out which of a support's three bonds lets go first.
 *
 * Source: strength = cling strength x contact area x cover x exp(-gap / scale); the interface leaves with the
 * stand when that bond is clearly the stronger one. Strengths compare with each other only; they are no
 * forces.
 */
export function releaseChain(input: ChainInput): ReleaseChain {
  const bonds = bondsOf(input)
  const [toPart, toBulk, toBed] = bonds
  const weakest = bonds.reduce((a, b) => (b.strength < a.strength ? b : a)).between
  const interfaceFollows = follows(bonds)
  const bedHolds = toBed.strength >= Math.min(toPart.strength, toBulk.strength)
  const same = input.touching.name === input.bulk.name
  const sentence =
    interfaceFollows === 'surely'
      ? `The part lets go first, and the interface comes along with the stands.${bedHolds ? '' : ' The stands may leave the bed before that: give them a wider footing.'}`
      : interfaceFollows === 'perhaps'
        ? `Part and stands hold the interface about equally: some of it may stay behind on the part.`
        : `The interface is likely to stay behind: ${input.touching.name} holds on to the part more than ${same ? 'its open stand lines hold' : `the ${input.bulk.name} stands hold`} on to it.`
  return {
    bonds,
    weakest,
    interfaceFollows,
    bedHolds,
    sentence,
    remedies: interfaceFollows === 'surely' ? [] : remediesOf(input),
  }
}

/** Changes that help, cheapest first, each tried for itself. */
function remediesOf(input: ChainInput): Remedy[] {
  const tried = (change: Remedy['change'], price: Remedy['price'], sentence: string): Remedy => ({
    change,
    price,
    sentence,
    cures: follows(bondsOf({ ...input, ...change })) === 'surely',
  })
  const remedies: Remedy[] = []
  const gap = Math.round((input.upperGapMm + 0.05) * 100) / 100
  const spacing = Math.round((input.interfaceSpacingMm + input.lineWidthMm) * 100) / 100
  const density = Math.round(Math.min(1, input.standDensity * 1.75) * 100) / 100
  remedies.push(tried({ upperGapMm: gap }, 'nothing', `A gap of ${gap.toFixed(2)} mm, one small step more.`))
  if (input.standDensity < 1)
    remedies.push(
      tried(
        { standDensity: density },
        'grams',
        `Denser stands, ${Math.round(density * 100)} %, so that more lines carry the interface.`,
      ),
    )
  if (input.interfaceLayers < 5)
    remedies.push(
      tried({ interfaceLayers: 5 }, 'minutes', 'Five interface layers, which peel off as one sheet.'),
    )
  remedies.push(
    tried(
      { interfaceSpacingMm: spacing },
      'a rougher face',
      `Interface lines ${spacing.toFixed(2)} mm apart.`,
    ),
  )
  if (input.touching.name !== input.bulk.name)
    remedies.push(
      tried(
        { bulk: input.touching },
        'another spool',
        `Stands in ${input.touching.name} as well, so that they hold on to the interface.`,
      ),
    )
  return remedies
}
