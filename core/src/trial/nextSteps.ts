import { gradesPerCell, type PurgeBelief } from './fitPurge'
import { chancePerCell, type Belief } from './monotone'

/**
 * One thing that a step will tell about: how weights lie over what may be true, and what a step would then
 * show.
 */
export type Question = {
  readonly weights: Float64Array
  /** For a step at x: per possible outcome, its probability in every cell. */
  readonly outcomes: (x: number) => readonly Float64Array[]
}

export const curveQuestion = (belief: Belief): Question => ({
  weights: belief.weights,
  outcomes: (x) => {
    const good = chancePerCell(belief, x)
    return [good, good.map((chance) => 1 - chance)]
  },
})

export const purgeQuestion = (belief: PurgeBelief): Question => ({
  weights: belief.weights,
  outcomes: (volume) => gradesPerCell(belief, volume),
})

export type Advice = {
  readonly x: number
  /** What the step adds to those before it, in bits. */ readonly bits: number
}

/** Weights below this share of the heaviest are left aside: they change nothing that is said. */
const NEGLIGIBLE = 1e-4

/**
 * The steps that are expected to tell most, one after the other, each knowing that those before it will be
 * printed too.
 *
 * Source: expected information of a set of steps = H(outcomes) - E[H(outcomes | truth)], chosen greedily.
 * Questions are independent of each other, so their bits add up.
 */
export function nextSteps(
  questions: readonly Question[],
  candidates: readonly number[],
  count: number,
): Advice[] {
  const open = questions.map((question) => trimmed(question))
  /** Per question: probability of each pattern of outcomes so far, per cell. */
  let patterns: Float64Array[][] = open.map(({ weights }) => [new Float64Array(weights.length).fill(1)])
  let known = 0
  let knownNoise = open.map(() => 0)
  const left = new Set(candidates)
  const advice: Advice[] = []
  while (advice.length < count && left.size > 0) {
    let best: { x: number; bits: number; patterns: Float64Array[][]; noise: number[] } | null = null
    for (const x of left) {
      const next = open.map(({ outcomes }, q) => {
        const shown = outcomes(x)
        return patterns[q].flatMap((pattern) =>
          shown.map((outcome) => pattern.map((chance, cell) => chance * outcome[cell])),
        )
      })
      const noise = open.map(({ weights, outcomes }, q) => knownNoise[q] + meanEntropy(outcomes(x), weights))
      const bits = open.reduce((sum, { weights }, q) => sum + entropyOf(next[q], weights) - noise[q], 0)
      if (!best || bits > best.bits) best = { x, bits, patterns: next, noise }
    }
    if (!best) break
    advice.push({ x: best.x, bits: Math.max(0, best.bits - known) })
    known = best.bits
    patterns = best.patterns
    knownNoise = best.noise
    left.delete(best.x)
  }
  return advice
}

/** The same question over the cells that matter. */
function trimmed({ weights, outcomes }: Question): Question {
  const top = weights.reduce((a, b) => Math.max(a, b), 0)
  const kept: number[] = []
  weights.forEach((weight, cell) => weight > NEGLIGIBLE * top && kept.push(cell))
  const total = kept.reduce((sum, cell) => sum + weights[cell], 0)
  const cells = Uint32Array.from(kept)
  const memo = new Map<number, readonly Float64Array[]>()
  return {
    weights: Float64Array.from(cells, (cell) => weights[cell] / total),
    outcomes: (x) => {
      const before = memo.get(x)
      if (before) return before
      const made = outcomes(x).map((chance) => Float64Array.from(cells, (cell) => chance[cell]))
      memo.set(x, made)
      return made
    },
  }
}

const bitsOf = (p: number) => (p > 0 ? -p * Math.log2(p) : 0)

function entropyOf(patterns: readonly Float64Array[], weights: Float64Array): number {
  let sum = 0
  for (const pattern of patterns) {
    let chance = 0
    for (let cell = 0; cell < weights.length; cell++) chance += weights[cell] * pattern[cell]
    sum += bitsOf(chance)
  }
  return sum
}

function meanEntropy(outcomes: readonly Float64Array[], weights: Float64Array): number {
  let sum = 0
  for (const outcome of outcomes)
    for (let cell = 0; cell < weights.length; cell++) sum += weights[cell] * bitsOf(outcome[cell])
  return sum
}
