import {
  EMPTY_REGION,
  isEmptyRegion,
  joinPieces,
  regionAreaMm2,
  splitPieces,
  type Region,
  type RememberingEngine,
} from '../polygon'
import type { Checkpoint } from '../slice'
import type { StackMode } from '../stack'
import { SAME_HEIGHT_MM } from '../tolerances'
import { radians } from '../units'
import { bearingsOf } from './bearings'
import { discsOf } from './branching/section'
import { contactsOf, type Contact } from './contacts'
import type { Grounded } from './grounded'
import { beginningsOn } from './landing'
import {
  isTurned,
  latticeOf,
  lowestInterface,
  MOST_REPLACED,
  wholeBlock,
  type Lattice,
  type Span,
} from './lattice'
import { gapLevels, layersFor, type Levels } from './levels'
import type { Outlines } from './outlines'
import { printable } from './printable'
import { rolesOf, type RoleRules } from './roles'
import { settled } from './settled'
import { standingBelow } from './standing'
import { TOUCH_MM } from './straightColumns'
import type { Fill, Held, Rest, StandKind, SupportPass, SupportRole, UnheldReason } from './supports'

/** How one holding is held. */
export type HoldingRules = {
  readonly standKind: StandKind
  readonly placement: 'bed' | 'anywhere'
  readonly upperGapMm: number
  readonly lowerGapMm: number
  readonly sideGapMm: number
  readonly marginMm: number
  readonly interfaceLayers: number
  readonly lowerInterfaceLayers: number
  readonly stackMode: StackMode
  readonly denseTopMm: number
}

export type StandInput = {
  readonly levels: Levels
  readonly outlines: Outlines
  readonly engine: RememberingEngine
  /** Number of the holding among those of the plan. */
  readonly holding: number
  /** Per layer: what of its underside this holding holds. */
  readonly wanted: readonly Region[]
  /** Layers whose undersides go on over several layers. */
  readonly sloped: ReadonlySet<number>
  /** What ends below each layer, instead of its contact with a margin. */
  readonly tops: ReadonlyMap<number, Region> | null
  readonly rules: HoldingRules
  readonly lineWidthMm: number
  /** Thinnest and thickest layer that the nozzle can lay. */
  readonly thicknessMm: readonly [number, number]
  /** How far a layer of the part may step out; for full layers. */
  readonly stepLimitMm: number
  /** How far a stand may lean out by itself, from vertical. */
  readonly leanDeg: number
  /** Lines of a stand lie no farther from each other. */
  readonly linesApartMm: number
  /** What other supports fill at a level. */
  taken(level: number): readonly Region[]
  readonly checkpoint?: Checkpoint
}

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
    ground.onPart ? beginningsOn(outlines, level - ground.freeBelow(level) - 1, ground) : []
  const levelOf = ({ facesLayer }: SupportPass) => facesLayer - 1 - gap.free
  const laid = layPasses(input, tops, standing, rounds, lattice, { ...ground, mayBeginAt })
  const passes = [...laid.passes, ...roundPasses(input, rounds, lattice)]
  return {
    passes: settled(passes, laid.doubtfulMm, { ...ground, levelOf, mayBeginAt }, engine),
    rests: laid.rests,
    held: heldBy(contacts, laid.columns, input, lattice, gap.achievedMm),
    columns: laid.columns.map((region, k) => {
      const discs = discsOf(rounds[k] ?? NO_ROUNDS)
      return isEmptyRegion(discs) ? region : joinPieces([region, discs])
    }),
  }
}

const NO_ROUNDS = new Float64Array(0)

/** Branches that stand alone, level by level. */
function roundPasses(
  { holding, rules, levels }: StandInput,
  rounds: readonly Float64Array[],
  lattice: Lattice,
): SupportPass[] {
  const { free } = gapLevels(rules.upperGapMm, levels.heightMm, rules.stackMode)
  const passes: SupportPass[] = []
  rounds.forEach((round, k) => {
    if (round.length === 0) return
    const merged = k >= lattice.mergedFrom && k < lattice.shiftedFrom
    // Levels that are laid together are alike: the last of them stands for all.
    if (merged && k !== lattice.shiftedFrom - 1) return
    for (const span of merged ? lattice.merged : [lattice.spanOf(k)])
      passes.push({
        role: 'stand',
        fill: 'rounds',
        holding,
        ...span,
        region: discsOf(round),
        rounds: round,
        facesLayer: k + 1 + free,
      })
  })
  return passes
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

/** Turns columns into what is printed when. */
function layPasses(
  input: StandInput,
  tops: ReadonlyMap<number, Contact>,
  { columns: standing, starts }: Grounded,
  rounds: readonly Float64Array[],
  lattice: Lattice,
  ground: Pick<RoleRules, 'stepMm' | 'mayBeginAt'> & { freeBelow(level: number): number },
): Pick<StandOutput, 'passes' | 'rests' | 'columns'> & { readonly doubtfulMm: ReadonlySet<number> } {
  const { engine, rules, levels, holding, thicknessMm } = input
  const passes: SupportPass[] = []
  const rests: Rest[] = []
  /** Heights at which less may end than the columns had. */
  const doubtfulMm = new Set<number>()
  const freeLevels = (levelsUp: number) =>
    levelsUp + 1 + gapLevels(rules.upperGapMm, levels.heightMm, rules.stackMode).free
  const endings = endingsOf(input, tops, standing, lattice)
  // One dense level carries the ends of interface lines between the lines of a stand.
  const denseLevels = Math.max(
    rules.interfaceLayers > 0 ? 1 : 0,
    Math.ceil(rules.denseTopMm / levels.heightMm - 1e-6),
  )
  const lowestOf = (topLevel: number) => {
    const lowest = lowestInterface(topLevel, rules.interfaceLayers, lattice)
    return { interface: lowest, dense: wholeBlock(lowest - denseLevels, lattice) }
  }
  const mostLevels = rules.interfaceLayers + denseLevels + 2 * MOST_REPLACED
  const { columns, ...carried } = rolesOf(standing, tops, starts, engine, {
    lineWidthMm: input.lineWidthMm,
    lowestOf,
    mostLevels,
    lowerLayers: rules.lowerInterfaceLayers,
    linesApartMm: input.linesApartMm,
    bearings: bearingsOf(standing, rounds, input.linesApartMm, input.lineWidthMm),
    stepMm: ground.stepMm,
    roundsAt: (k) => discsOf(rounds[k] ?? NO_ROUNDS),
    mayBeginAt: ground.mayBeginAt,
  })
  const lay = (
    role: SupportRole,
    fill: Fill,
    level: number,
    { bottomMm, topMm }: Span,
    region: Region,
    turned = false,
  ) => {
    const { kept } = printable(region, input.lineWidthMm, engine)
    if (kept !== region) doubtfulMm.add(topMm)
    if (isEmptyRegion(kept)) return
    const onBed = role === 'stand' && bottomMm < SAME_HEIGHT_MM
    passes.push({
      role,
      fill: onBed ? 'solid' : fill,
      holding,
      bottomMm,
      topMm,
      region: kept,
      facesLayer: freeLevels(level),
      ...(turned && { turned }),
    })
  }
  /** Layers laid instead of levels: each lies square to the next, the last as its level would. */
  const layInstead = (
    role: SupportRole,
    fill: Fill,
    topLevel: number,
    spans: readonly Span[],
    region: Region,
  ) => spans.forEach((span, n) => lay(role, fill, topLevel, span, region, (spans.length - 1 - n) % 2 === 1))
  /** What ends inside these levels, in layers of its own. */
  const endingWithin = (level: number): Region[] =>
    [...endings].flatMap(([topLevel, { fromLevel, region }]) =>
      level >= fromLevel && level <= topLevel ? [region] : [],
    )

  const roles = [
    { role: 'interface', fill: 'interface', regions: carried.touching },
    { role: 'stand', fill: 'dense', regions: carried.dense },
    { role: 'stand', fill: 'stand', regions: carried.stand },
  ] as const
  for (const { role, fill, regions } of roles) {
    for (let k = 0; k < columns.length; k++) {
      if (isEmptyRegion(regions[k]) || (k >= lattice.mergedFrom && k < lattice.shiftedFrom)) continue
      const ended = endingWithin(k)
      const own = ended.length > 0 ? engine.minusAll([regions[k]], ended) : regions[k]
      const span = lattice.spanOf(k)
      const start = starts.get(k)
      for (const [region, turned] of fill === 'stand' ? [[own, false] as const] : byTurn(k, own))
        if (!start) lay(role, fill, k, span, region, turned)
        else layStart(role, fill, k, span, region, start, turned)
    }
    // Levels between shared and shifted ones are laid as other layers, where all of them are filled.
    const joined = Array.from(
      { length: lattice.shiftedFrom - lattice.mergedFrom || 0 },
      (_, i) => lattice.mergedFrom + i,
    )
    if (joined.length > 0) {
      // They are one layer, or a few: what it is for, the highest of them says.
      const last = joined.at(-1)!
      const together = joined.slice(0, -1).reduce((all, k) => common(all, columns[k]), regions[last])
      const ended = joined.flatMap(endingWithin)
      const own = ended.length > 0 ? engine.minusAll([together], ended) : together
      layInstead(role, fill, last, lattice.merged, own)
    }
  }
  for (const [topLevel, { spans, region }] of endings) {
    if (rules.interfaceLayers > 0) layInstead('interface', 'interface', topLevel, spans, region)
    else layInstead('stand', denseLevels > 0 ? 'dense' : 'stand', topLevel, spans, region)
  }
  for (const level of carried.incomplete) doubtfulMm.add(lattice.spanOf(level).topMm)
  for (const { bottomMm, topMm } of lattice.merged) doubtfulMm.add(bottomMm).add(topMm)
  for (const { spans } of endings.values()) doubtfulMm.add(spans[0].bottomMm)
  return { passes, rests, columns, doubtfulMm }

  /** What of a level lies as it would, and what turned: each piece like most of what it carries. */
  function byTurn(level: number, region: Region): (readonly [Region, boolean])[] {
    const [straight, turned]: Region[][] = [[], []]
    for (let j = level; j < level + mostLevels; j++) {
      const top = tops.get(j)?.top
      if (!top || isEmptyRegion(top) || level < lowestOf(j).dense) continue
      ;(isTurned(level, j, lattice) ? turned : straight).push(top)
    }
    if (turned.length === 0 || straight.length === 0) return [[region, turned.length > 0]]
    const [asLevels, other]: Region[][] = [[], []]
    for (const piece of splitPieces(region)) {
      const [a, b] = [straight, turned].map((all) => regionAreaMm2(engine.commonAll([piece], all)))
      ;(b > a ? other : asLevels).push(piece)
    }
    return [
      [engine.joined(asLevels), false],
      [engine.joined(other), true],
    ]
  }

  function common(a: Region, b: Region): Region {
    return a === b ? a : engine.common(a, b)
  }

  /** The part beside what reaches below a level, down to a height: lower layers than those beside it. */
  function besideBelow(level: number, { bottomMm }: Span, downToMm: number): Region[] {
    const found: Region[] = []
    for (let k = level; k >= 0 && levels.zOf(k + 1) > downToMm + SAME_HEIGHT_MM; k--)
      if (levels.zOf(k) < bottomMm - SAME_HEIGHT_MM) found.push(input.outlines.grown(k, TOUCH_MM))
    return found
  }

  /** A level of which some begins on the part: there its lowest layer reaches down to the lower gap. */
  function layStart(
    role: SupportRole,
    fill: Fill,
    level: number,
    span: Span,
    region: Region,
    start: Region,
    turned: boolean,
  ): void {
    const onPartMm = levels.zOf(level - ground.freeBelow(level))
    const wishedMm = onPartMm + rules.lowerGapMm
    const spanMm = span.topMm - wishedMm
    const count = span.bottomMm - wishedMm < SAME_HEIGHT_MM ? 0 : layersFor(spanMm, thicknessMm)
    const resting = engine.common(region, start)
    const areaMm2 = regionAreaMm2(resting)
    const begins = count > 0 ? engine.minusAll([resting], besideBelow(level, span, wishedMm)) : resting
    const isWide = !isEmptyRegion(engine.grow(begins, -input.lineWidthMm, 'miter'))
    const deepens = count > 0 && isWide
    if (areaMm2 > 0.01)
      rests.push({
        levelMm: span.bottomMm,
        areaMm2,
        gapMm: deepens ? rules.lowerGapMm : span.bottomMm - onPartMm,
        askedMm: rules.lowerGapMm,
      })
    if (!deepens) return lay(role, fill, level, span, region, turned)
    lay(role, fill, level, span, engine.minusAll([region], [begins]), turned)
    for (let n = 0; n < count; n++)
      lay(
        role,
        fill,
        level,
        {
          bottomMm: wishedMm + (spanMm * n) / count,
          topMm: n === count - 1 ? span.topMm : wishedMm + (spanMm * (n + 1)) / count,
        },
        begins,
        turned,
      )
  }
}

type Ending = { readonly fromLevel: number; readonly spans: readonly Span[]; readonly region: Region }

/**
 * Tops that end between two levels of the part, in layers of their own, with what of the columns ends there.
 */
function endingsOf(
  { engine }: StandInput,
  tops: ReadonlyMap<number, Contact>,
  columns: readonly Region[],
  lattice: Lattice,
): ReadonlyMap<number, Ending> {
  const found = new Map<number, Ending>()
  for (const [topLevel, { top }] of tops) {
    const end = lattice.endAt(topLevel)
    if (!end) continue
    let region = engine.commonAll([top], [columns[topLevel]])
    const above = columns[topLevel + 1] ?? EMPTY_REGION
    if (!isEmptyRegion(above)) region = engine.minus(region, above)
    for (let k = topLevel - 1; k >= end.fromLevel; k--)
      if (columns[k] !== columns[topLevel]) region = engine.common(region, columns[k])
    if (!isEmptyRegion(region)) found.set(topLevel, { ...end, region })
  }
  return found
}

/** What of each contact is reached, and why not the rest. */
function heldBy(
  contacts: readonly Contact[],
  columns: readonly Region[],
  { engine, levels, rules, outlines, lineWidthMm }: StandInput,
  lattice: Lattice,
  achievedMm: number,
): Map<number, Held> {
  const held = new Map<number, Held>()
  for (const { layerIndex, topLevel, wanted, contact, top } of contacts) {
    const fits = lattice.canEnd(topLevel)
    const reached = fits ? engine.common(contact, columns[topLevel]) : EMPTY_REGION
    const [wantedMm2, contactMm2, reachedMm2] = [wanted, contact, reached].map(regionAreaMm2)
    const underMm = levels.zOf(layerIndex)
    const unheld: Partial<Record<UnheldReason, number>> = {}
    if (!fits) unheld['no room'] = wantedMm2
    else {
      if (wantedMm2 - contactMm2 > 1e-3) unheld['beside a wall'] = wantedMm2 - contactMm2
      const missed = contactMm2 - reachedMm2
      // With a gap thinner than a layer the layer below stands right beside the support.
      const beside =
        missed > 1e-3 && achievedMm < levels.heightMm - SAME_HEIGHT_MM
          ? regionAreaMm2(
              engine.common(engine.minus(contact, reached), outlines.grown(layerIndex - 1, TOUCH_MM + 1e-3)),
            )
          : 0
      if (beside > 1e-3) unheld['beside the layer below'] = Math.min(beside, missed)
      const isNarrow = isEmptyRegion(reached) && isEmptyRegion(printable(top, lineWidthMm, engine).kept)
      if (missed - beside > 1e-3) unheld[isNarrow ? 'too narrow' : 'no way down'] = missed - beside
    }
    const deviates = Math.abs(achievedMm - rules.upperGapMm) > SAME_HEIGHT_MM
    held.set(layerIndex, {
      layerIndex,
      wanted,
      reached,
      topMm: underMm - achievedMm,
      gapMm: rules.upperGapMm,
      achievedGapMm: achievedMm,
      why: deviates
        ? `Sharing the part's ${levels.heightMm} mm layers, the gap can only be a multiple of ${levels.heightMm} mm.`
        : null,
      unheldMm2: unheld,
      stack: fits ? stackBelow(topLevel, rules.interfaceLayers, lattice) : [],
      drawn: false,
    })
  }
  return held
}

/** Stand layers that are told of a stack. */
const STAND_LAYERS_TOLD = 3

/** The layers right below a top, from below: its interface, and some of the stand. */
function stackBelow(topLevel: number, interfaceLayers: number, lattice: Lattice): Held['stack'] {
  const lowest = lowestInterface(topLevel, interfaceLayers, lattice)
  const end = lattice.endAt(topLevel)
  const stack: Held['stack'][number][] = []
  const goesOn = () => stack.filter(({ role }) => role === 'stand').length < STAND_LAYERS_TOLD
  const lay = (spans: readonly Span[], level: number) => {
    const role = level >= lowest ? ('interface' as const) : ('stand' as const)
    for (const span of spans.toReversed()) if (goesOn()) stack.push({ role, ...span })
  }
  let level = topLevel
  if (end) {
    lay(end.spans, topLevel)
    level = end.fromLevel - 1
  }
  for (; level >= 0 && goesOn(); level--) {
    if (level === lattice.shiftedFrom - 1) {
      lay(lattice.merged, level)
      level = lattice.mergedFrom
    } else lay([lattice.spanOf(level)], level)
  }
  return stack.reverse()
}
