import { EMPTY_REGION, isEmptyRegion, regionAreaMm2, splitPieces, type Region } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import { bearingsOf } from './bearings'
import type { Contact } from './contacts'
import type { Grounded } from './grounded'
import { isTurned, lowestInterface, MOST_REPLACED, wholeBlock, type Lattice, type Span } from './lattice'
import { gapLevels, layersFor } from './levels'
import { printable } from './printable'
import { rolesOf, type RoleRules } from './roles'
import { discsAt } from './roundPasses'
import type { StandInput } from './standInput'
import { TOUCH_MM } from './straightColumns'
import type { Fill, Rest, SupportPass, SupportRole } from './supports'

export type Laid = {
  readonly passes: readonly SupportPass[]
  readonly rests: readonly Rest[]
  /** What is filled at each level. */
  readonly columns: readonly Region[]
  /** Heights at which less may end than the columns had. */
  readonly doubtfulMm: ReadonlySet<number>
}

/** Turns columns into what is printed when. */
export function layPasses(
  input: StandInput,
  tops: ReadonlyMap<number, Contact>,
  { columns: standing, starts }: Grounded,
  rounds: readonly Float64Array[],
  lattice: Lattice,
  ground: Pick<RoleRules, 'stepMm' | 'mayBeginAt'> & { freeBelow(level: number): number },
): Laid {
  const { engine, rules, levels, holding, thicknessMm } = input
  const passes: SupportPass[] = []
  const rests: Rest[] = []
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
    roundsAt: (k) => discsAt(rounds, k),
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
