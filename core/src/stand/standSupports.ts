import { isEmptyRegion, joinPieces, type Region } from '../polygon'
import { radians } from '../units'
import { contactsOf, type Contact } from './contacts'
import { heldBy } from './heldBy'
import { beginningsOn } from './landing'
import { latticeOf, lowestInterface, type Lattice } from './lattice'
import { layPasses } from './layPasses'
import { gapLevels, type Levels } from './levels'
import { discsAt, roundPasses } from './roundPasses'
import { settled } from './settled'
import { standingBelow } from './standing'
import type { StandInput } from './standInput'
import type { Held, Rest, SupportPass } from './supports'

export type StandOutput = {
  readonly passes: readonly SupportPass[]
  readonly held: ReadonlyMap<number, Held>
  readonly rests: readonly Rest[]
  /** What is filled at each level, for other holdings to keep away from. */
  readonly columns: readonly Region[]
}

/** A slope needs so many levels at most to recede by the side gap; flatter than that it hardly is one. */
const MOST_RECEDING = 40
/** Layers thinner than this do not limit how far a slope recedes: what is held of them is flat. */
const LEAST_STEP_MM = 0.02

/** Stands with their interface, for one holding. */
export async function standSupports(input: StandInput): Promise<StandOutput> {
  const { levels, outlines, engine, rules, wanted, checkpoint } = input
  const gap = gapLevels(rules.upperGapMm, levels.heightMm, rules.stackMode)
  const recedes =
    rules.sideGapMm > 0
      ? Math.min(MOST_RECEDING, Math.ceil(rules.sideGapMm / Math.max(LEAST_STEP_MM, input.stepLimitMm)))
      : 0
  const contacts = contactsOf(wanted, outlines, levels, engine, {
    ...rules,
    lineWidthMm: input.lineWidthMm,
    freeLevels: gap.free,
    recedes,
    tops: input.tops,
  })
  const lattice = latticeOf(levels, gap, input.thicknessMm, lowestSloped(contacts, input))
  const reachable = contacts.filter(({ topLevel }) => lattice.canEnd(topLevel))
  const tops = new Map(reachable.map((contact) => [contact.topLevel, contact]))
  const leanPerMm = Math.tan(radians(input.leanDeg))
  const ground = {
    lineWidthMm: input.lineWidthMm,
    heightMm: levels.heightMm,
    stepMm: levels.heightMm * leanPerMm,
    leanPerMm,
    onPart: rules.placement === 'anywhere',
    freeBelow: (level: number) => freeBelowAt(level, rules.lowerGapMm, levels, lattice, gap.restMm),
  }
  const { rounds, ...standing } = await standingBelow(
    tops,
    outlines,
    engine,
    {
      ...ground,
      standKind: rules.standKind,
      standAlone: rules.branches === 'sturdy',
      sideGapMm: rules.sideGapMm,
      freeLevels: gap.free,
      shiftedFrom: lattice.shiftedFrom,
      recedes,
      crownLevels: (topLevel) =>
        topLevel + 1 - lowestInterface(topLevel, Math.max(1, rules.interfaceLayers), lattice),
      // The lowest of the layers that stand for merged levels may be thinner than a level: a branch that
      // stepped out there would lean too far.
      isStill: (level) => level >= lattice.mergedFrom - 1 && level <= lattice.shiftedFrom,
    },
    input.taken,
    checkpoint,
  )
  const mayBeginAt = (level: number): Region[] =>
    ground.onPart
      ? beginningsOn(level, level - ground.freeBelow(level) - 1, outlines, standing.waiting, ground, engine)
      : []
  const levelOf = ({ facesLayer }: SupportPass) => facesLayer - 1 - gap.free
  const laid = layPasses(input, tops, standing, rounds, lattice, { ...ground, mayBeginAt })
  const passes = [...laid.passes, ...roundPasses(input, rounds, lattice)]
  return {
    passes: settled(passes, laid.doubtfulMm, { ...ground, levelOf, mayBeginAt }, engine),
    rests: laid.rests,
    held: heldBy(contacts, laid.columns, input, lattice, gap.achievedMm),
    columns: laid.columns.map((region, k) => {
      const discs = discsAt(rounds, k)
      return isEmptyRegion(discs) ? region : joinPieces([region, discs])
    }),
  }
}

/** The lowest level at which the interface below a slope begins. */
function lowestSloped(contacts: readonly Contact[], { sloped, rules }: StandInput): number {
  const layers = Math.max(1, rules.interfaceLayers)
  return contacts.reduce(
    (low, { layerIndex, topLevel, top }) =>
      sloped.has(layerIndex) && topLevel >= 0 && !isEmptyRegion(top)
        ? Math.min(low, topLevel - layers + 1)
        : low,
    Infinity,
  )
}

/** Whole levels of the part that must lie below the bottom of a level, so that the lower gap is left. */
const freeBelowAt = (
  level: number,
  lowerGapMm: number,
  { heightMm }: Levels,
  { shiftedFrom }: Lattice,
  restMm: number,
): number => Math.ceil((lowerGapMm + (level >= shiftedFrom ? restMm : 0)) / heightMm - 1e-6)
