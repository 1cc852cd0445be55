import { isEmptyRegion, splitPieces, type Region, type RememberingEngine } from '../polygon'
import { heightKey, SAME_HEIGHT_MM } from '../tolerances'
import { beyond } from './beyond'
import { disc, discsOf } from './branching/section'
import { printable } from './printable'
import type { SupportPass } from './supports'

export type SettleRules = {
  readonly lineWidthMm: number
  /** How far a layer may step out beyond the one below it, for each millimetre of its own height. */
  readonly leanPerMm: number
  levelOf(pass: SupportPass): number
  /** Where a level may begin on the part instead, or on what waits there for a line. */
  mayBeginAt(level: number): readonly Region[]
}

/**
 * Cuts passes down to what the ones right below them carry, as they are really laid: levels that are laid
 * together, or end in layers of their own, have in common less than each of them.
 * @returns them from the bed upwards
 * @param doubtfulMm heights at which less ends than the columns had: only what begins there is looked at, and
 * what begins on what is cut
 */
export function settled(
  passes: readonly SupportPass[],
  doubtfulMm: Iterable<number>,
  rules: SettleRules,
  engine: RememberingEngine,
): SupportPass[] {
  const doubtful = new Set([...doubtfulMm].map(heightKey))
  const byTop = new Map<number, SupportPass[]>()
  const out: SupportPass[] = []
  for (const pass of [...passes].sort((a, b) => a.bottomMm - b.bottomMm)) {
    const key = heightKey(pass.bottomMm)
    const laid = doubtful.has(key) ? onWhatIsBelow(pass, byTop.get(key) ?? []) : [pass]
    const topKey = heightKey(pass.topMm)
    if (laid[0] !== pass) doubtful.add(topKey)
    out.push(...laid)
    const ending = byTop.get(topKey)
    if (ending) ending.push(...laid)
    else byTop.set(topKey, [...laid])
  }
  return out.sort((a, b) => a.topMm - b.topMm)

  function onWhatIsBelow(pass: SupportPass, below: readonly SupportPass[]): SupportPass[] {
    const { region, bottomMm, topMm } = pass
    if (bottomMm < SAME_HEIGHT_MM || below.some((one) => one.region === region)) return [pass]
    const stepMm = (topMm - bottomMm) * rules.leanPerMm
    const regions = below.map((one) => one.region)
    const mayBegin = () => rules.mayBeginAt(rules.levelOf(pass))
    const over = beyond(region, regions, stepMm, mayBegin, engine)
    if (!over) return [pass]
    if (!pass.rounds) return laidOf(pass, engine.minus(region, over))
    // Round sections that are whole stay round.
    const whole: number[] = []
    const cut: Region[] = []
    for (let i = 0; i < pass.rounds.length; i += 3) {
      const [x, y, radius] = pass.rounds.subarray(i, i + 3)
      const lost = beyond(disc(x, y, radius), regions, stepMm, mayBegin, engine)
      if (lost) cut.push(engine.minus(disc(x, y, radius), lost))
      else whole.push(x, y, radius)
    }
    const rounds = Float64Array.from(whole)
    const left = whole.length === 0 ? [] : [{ ...pass, rounds, region: discsOf(rounds) }]
    const { rounds: _, ...plain } = pass
    return [...left, ...laidOf({ ...plain, fill: 'stand' }, engine.joined(cut.flatMap(splitPieces)))]
  }

  function laidOf(pass: SupportPass, region: Region): SupportPass[] {
    const { kept } = printable(region, rules.lineWidthMm, engine)
    return isEmptyRegion(kept) ? [] : [{ ...pass, region: kept }]
  }
}
