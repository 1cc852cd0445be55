import type { Cling } from '../bench'
import type { Checkpoint } from '../slice'
import { angleOfShare, hangingShare } from '../units'
import type { CouponKind } from './coupon'
import { samePrint, trialsOf, type KnownTrial } from './knownTrial'
import { curveQuestion, nextSteps, purgeQuestion, type Question } from './nextSteps'
import { fanFitOf, gapFitOf, perTrials, purgeFitOf, spanFitOf } from './rememberedFits'

/** A coupon worth printing: like a trial there is, with these steps. */
export type NextPrint = {
  readonly like: KnownTrial
  readonly kind: Exclude<CouponKind, 'offset'>
  /** Angles, spans, gaps or volumes, from small to large. */
  readonly values: readonly number[]
  /** What they are expected to tell, in bits. */
  readonly bits: number
}

const even = (from: number, to: number, step: number) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => Number((from + i * step).toFixed(4)))
const ANGLES = even(20, 80, 2.5)
const SPANS = [4, 6, 8, 10, 12, 15, 18, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 100]
const GAPS = even(0, 0.6, 0.02)
const VOLUMES = even(20, 500, 20)

/**
 * What to print next: for each coupon that has been printed, the few steps that are expected to tell most,
 * the most telling coupon first. Prints of one coupon under the same circumstances count as one. Combs are
 * left out: one good print of them settles it.
 * @param clingOf how much a pairing is guessed to cling, null when nobody can guess
 * @param checkpoint called before each coupon
 */
export async function adviseNext(
  trials: readonly KnownTrial[],
  count: number,
  clingOf: (trial: KnownTrial) => Cling | null,
  checkpoint?: Checkpoint,
): Promise<NextPrint[]> {
  const groups: KnownTrial[][] = []
  for (const trial of trials) {
    const home = groups.find(([first]) => samePrint(first, trial))
    if (home) home.push(trial)
    else groups.push([trial])
  }
  const all: NextPrint[] = []
  for (const [done, group] of groups.entries()) {
    await checkpoint?.(done, groups.length)
    all.push(...adviceOn(group, count, clingOf(group[0])))
  }
  return all.sort((a, b) => b.bits - a.bits)
}

/** While one coupon is read the others stay as they are. */
const adviceOn: (group: readonly KnownTrial[], count: number, cling: Cling | null) => readonly NextPrint[] =
  perTrials('advice', adviceOf)

function adviceOf(group: readonly KnownTrial[], count: number, cling: Cling | null): readonly NextPrint[] {
  const [like] = group
  const { layerHeightMm, lineWidthMm } = like.conditions
  const made = (
    kind: NextPrint['kind'],
    questions: readonly Question[],
    candidates: readonly number[],
    back: (x: number) => number,
  ): NextPrint[] => {
    const steps = nextSteps(questions, candidates, count)
    return [
      {
        like,
        kind,
        values: steps.map(({ x }) => Number(back(x).toFixed(2))).sort((a, b) => a - b),
        bits: steps.reduce((sum, { bits }) => sum + bits, 0),
      },
    ]
  }
  switch (like.kind) {
    case 'fan':
      return made(
        'fan',
        [curveQuestion(fanFitOf(trialsOf(group, 'fan')).belief)],
        ANGLES.map((angle) => hangingShare(angle, layerHeightMm, lineWidthMm)),
        (share) => angleOfShare(share, layerHeightMm, lineWidthMm),
      )
    case 'span':
      return made(
        'span',
        [curveQuestion(spanFitOf(trialsOf(group, 'span')).belief)],
        SPANS.map(Math.log),
        Math.exp,
      )
    case 'gap': {
      const { release, finish } = gapFitOf(trialsOf(group, 'gap'), cling).beliefs
      return made('gap', [curveQuestion(release), curveQuestion(finish)], GAPS, (gap) => gap)
    }
    case 'purge':
      return made(
        'purge',
        purgeFitOf(trialsOf(group, 'purge'), like.conditions.partFilament.id).swaps.map(({ belief }) =>
          purgeQuestion(belief),
        ),
        VOLUMES,
        (volume) => volume,
      )
    case 'offset':
      return []
  }
}
