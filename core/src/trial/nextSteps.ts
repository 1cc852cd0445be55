import { gradesPerCell, type PurgeBelief } from './fitPurge'
import { chancePerCell, type Belief } from './monotone'

/**
 * One thing that a step will tell about: how weights lie over what may be true, and what a step would then
 * show.
 */
export type Question = {
  readonly weights: Float64Array
  /** For a step at x: per possible outcome, its probability in each of some cells. */
  readonly outcomes: (x: number, cells: Uint32Array) => readonly Float64Array[]
}

export const curveQuestion = (belief: Belief): Question => ({
  weights: belief.weights,
  outcomes: (x, cells) => {
    const good = chancePerCell(belief, x, cells)
    return [good, good.map((chance) => 1 - chance)]
  },
})

export const purgeQuestion = (belief: PurgeBelief): Question => ({
  weights: belief.weights,
  outcomes: (volume, cells) => gradesPerCell(belief, volume, cells),
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
  /** Per question: how likely each pattern of outcomes so far is together with each cell. */
  let patterns: Float64Array[][] = open.map(({ weights }) => [weights])
  let known = 0
  let knownNoise = 0
  const left = new Set(candidates)
  const advice: Advice[] = []
  while (advice.length < count && left.size > 0) {
    let best: { x: number; bits: number; noise: number } | null = null
    for (const x of left) {
      let noise = knownNoise
      let entropy = 0
      open.forEach(({ outcomes, noiseOf }, q) => {
        noise += noiseOf(x)
        for (const pattern of patterns[q])
          for (const outcome of outcomes(x)) entropy += bitsOf(sumOfProducts(pattern, outcome))
      })
      if (!best || entropy - noise > best.bits) best = { x, bits: entropy - noise, noise }
    }
    if (!best) break
    const { x, bits, noise } = best
    advice.push({ x, bits: Math.max(0, bits - known) })
    known = bits
    knownNoise = noise
    left.delete(x)
    patterns = open.map(({ outcomes }, q) =>
      patterns[q].flatMap((pattern) => outcomes(x).map((outcome) => productsOf(pattern, outcome))),
    )
  }
  return advice
}

type Trimmed = {
  readonly weights: Float64Array
  readonly outcomes: (x: number) => readonly Float64Array[]
  /** What a step at x would show is uncertain by so many bits even for whoever knows the truth. */
  readonly noiseOf: (x: number) => number
}

/** The same question over the cells that matter. */
function trimmed({ weights, outcomes }: Question): Trimmed {
  const top = weights.reduce((a, b) => Math.max(a, b), 0)
  const kept: number[] = []
  weights.forEach((weight, cell) => weight > NEGLIGIBLE * top && kept.push(cell))
  const total = kept.reduce((sum, cell) => sum + weights[cell], 0)
  const cells = Uint32Array.from(kept)
  const own = Float64Array.from(cells, (cell) => weights[cell] / total)
  const shown = remembered((x) => outcomes(x, cells))
  return { weights: own, outcomes: shown, noiseOf: remembered((x) => meanEntropy(shown(x), own)) }
}

function remembered<T>(make: (x: number) => T): (x: number) => T {
  const made = new Map<number, T>()
  return (x) => {
    if (!made.has(x)) made.set(x, make(x))
    return made.get(x)!
  }
}

const bitsOf = (p: number) => (p > 0 ? -p * Math.log2(p) : 0)

function sumOfProducts(one: Float64Array, other: Float64Array): number {
  let sum = 0
  for (let i = 0; i < one.length; i++) sum += one[i] * other[i]
  return sum
}

function productsOf(one: Float64Array, other: Float64Array): Float64Array {
  const products = new Float64Array(one.length)
  for (let i = 0; i < products.length; i++) products[i] = one[i] * other[i]
  return products
}

function meanEntropy(outcomes: readonly Float64Array[], weights: Float64Array): number {
  let sum = 0
  for (const outcome of outcomes)
    for (let cell = 0; cell < weights.length; cell++) sum += weights[cell] * bitsOf(outcome[cell])
  return sum
}
