import { angleOfShare, hangingShare } from '../units'
import { counted } from './counted'
import { chanceAt, type Belief } from './monotone'
import { evenSteps, interval, normalise, quantile, sumLogSigmoids, type Posterior } from './posterior'
import type { FanReading, Grade, Interval } from './readings'

export type FanOptions = {
  /** Worst grade that still counts as good. */
  readonly accept: Grade
  /** The cautious value is the one that the truth lies above except with this probability. */
  readonly caution: number
}

export const FAN_DEFAULTS: FanOptions = { accept: 2, caution: 0.1 }

export type FreeAngle = {
  readonly medianDeg: number
  readonly lowDeg: number
  readonly highDeg: number
  readonly cautiousDeg: number
}

export type FanFit = {
  /** At the layer height and line width of the first reading. */
  readonly freeAngle: FreeAngle
  /** Hanging share u* that half of the prints cope with. */
  readonly share: Interval & { readonly cautious: number }
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly readings: number
  readonly directions: readonly {
    readonly direction: string
    readonly freeAngle: FreeAngle
    readonly share: Interval & { readonly cautious: number }
    readonly readings: number
  }[]
  /** The direction with the smallest cautious angle; null when all readings look one way. */
  readonly worst: string | null
  /** Probability of a good print at each angle of `anglesDeg`, for the chart. */
  readonly curve: { readonly anglesDeg: Float64Array; readonly good: Float64Array }
  /** Over the hanging share, all directions together. */
  readonly belief: Belief
}

// Weak priors: u* around 0.6 of a line (an everyday 45 to 60 degrees at common settings) within a factor of
// three; the step from good
// to bad takes a few hundredths to a fifth of a line; directions differ by some tenths at most.
const LOG_SHARE = evenSteps(Math.log(0.08), Math.log(3.2), 110)
const LOG_SHARE_MIDDLE = Math.log(0.6)
const LOG_SHARE_SPREAD = 0.55
const LOG_STEP = evenSteps(Math.log(0.012), Math.log(0.3), 12)
const LOG_STEP_MIDDLE = Math.log(0.06)
const LOG_STEP_SPREAD = 0.7
const APART = Float64Array.from([0.02, 0.06, 0.12, 0.2, 0.32])
const APART_SPREAD = 0.15

/**
 * One cell of the grid over k and spread. `joint` is first the log weight of every common u*, then the weight
 * itself.
 */
type Term = {
  joint: Float64Array
  readonly k: number
  readonly kernel: Pull | null
  /** Per direction: likelihood of its own u*, and the same as seen from the common one. */
  readonly directions: { plain: Float64Array; pooled: Float64Array }[]
}

const bell = (x: number, middle: number, spread: number) => -0.5 * ((x - middle) / spread) ** 2

/**
 * Fits the free angle to the readings of overhang fans.
 *
 * P(good | u) = sigmoid((u* - u) / k) with u = h tan(angle) / w. The posterior is summed on a grid over u*
 * (common to all directions), k, and how far directions lie apart; each direction's own u* is drawn to the
 * common one by as much as the readings of all allow. Without readings the answer is the prior itself.
 * Source: logistic regression on a grid, a hierarchical mean for the sides (partial pooling); see
 * docs/method.md.
 */
export function fitFan(readings: readonly FanReading[], options: FanOptions = FAN_DEFAULTS): FanFit {
  const names = [...new Set(readings.map((reading) => reading.direction))]
  const size = LOG_SHARE.length
  const shares = LOG_SHARE.map(Math.exp)
  // Log likelihood of each direction's readings, for every u* and k.
  const likelihood = names.map((name) => {
    const table = new Float64Array(LOG_STEP.length * size)
    const different = counted(
      readings
        .filter(({ direction }) => direction === name)
        .map(({ angleDeg, layerHeightMm, lineWidthMm, grade }) => ({
          u: hangingShare(angleDeg, layerHeightMm, lineWidthMm),
          sign: grade <= options.accept ? 1 : -1,
        })),
      ({ u, sign }) => `${u} ${sign}`,
    )
    tellEach(table, different, shares)
    return table
  })

  const common = new Float64Array(size)
  const own = names.map(() => new Float64Array(size))
  // One direction alone says nothing on how far directions lie apart, so it is the common one.
  const apart = names.length > 1 ? APART : Float64Array.from([0])
  const terms: Term[] = []
  for (const spread of apart) {
    const kernel = spread > 0 ? PULLS.get(spread)! : null
    for (let k = 0; k < LOG_STEP.length; k++) {
      const joint = new Float64Array(size)
      const directions: Term['directions'] = []
      for (let s = 0; s < size; s++)
        joint[s] =
          bell(LOG_SHARE[s], LOG_SHARE_MIDDLE, LOG_SHARE_SPREAD) +
          bell(LOG_STEP[k], LOG_STEP_MIDDLE, LOG_STEP_SPREAD) +
          bell(spread, 0, APART_SPREAD)
      for (const table of likelihood) {
        const row = table.subarray(k * size, (k + 1) * size)
        if (!kernel) {
          for (let s = 0; s < size; s++) joint[s] += row[s]
          continue
        }
        const top = row.reduce((a, b) => Math.max(a, b), -Infinity)
        const plain = row.map((value) => Math.exp(value - top))
        const pooled = fromCommon(kernel, plain)
        for (let m = 0; m < size; m++) joint[m] += Math.log(pooled[m]) + top
        directions.push({ plain, pooled })
      }
      terms.push({ joint, directions, k, kernel })
    }
  }
  const top = terms.reduce((best, term) => term.joint.reduce((a, b) => Math.max(a, b), best), -Infinity)
  for (const term of terms) {
    const weight = (term.joint = term.joint.map((value) => Math.exp(value - top)))
    for (let s = 0; s < size; s++) common[s] += weight[s]
    const { kernel } = term
    names.forEach((_, d) => {
      if (!kernel) {
        for (let s = 0; s < size; s++) own[d][s] += weight[s]
        return
      }
      drawToCommon(own[d], kernel, weight, term.directions[d])
    })
  }

  const layerHeightMm = readings[0]?.layerHeightMm ?? 0.2
  const lineWidthMm = readings[0]?.lineWidthMm ?? 0.45
  const shareOf = (weights: Float64Array) => {
    const posterior = asPosterior(weights)
    const inLog = interval(posterior)
    return {
      median: Math.exp(inLog.median),
      low: Math.exp(inLog.low),
      high: Math.exp(inLog.high),
      cautious: Math.exp(quantile(posterior, options.caution)),
    }
  }
  const angleOf = (share: ReturnType<typeof shareOf>): FreeAngle => ({
    medianDeg: angleOfShare(share.median, layerHeightMm, lineWidthMm),
    lowDeg: angleOfShare(share.low, layerHeightMm, lineWidthMm),
    highDeg: angleOfShare(share.high, layerHeightMm, lineWidthMm),
    cautiousDeg: angleOfShare(share.cautious, layerHeightMm, lineWidthMm),
  })
  const share = shareOf(common)
  const directions = names.map((direction, d) => {
    const ownShare = shareOf(own[d])
    return {
      direction,
      share: ownShare,
      freeAngle: angleOf(ownShare),
      readings: readings.filter((reading) => reading.direction === direction).length,
    }
  })
  const worst =
    directions.length > 1
      ? directions.reduce((a, b) => (b.share.cautious < a.share.cautious ? b : a)).direction
      : null
  const belief = beliefOf(terms, shares)
  return {
    freeAngle: angleOf(share),
    share,
    layerHeightMm,
    lineWidthMm,
    readings: readings.length,
    directions,
    worst,
    curve: curveOf(belief, layerHeightMm, lineWidthMm),
    belief,
  }
}

/** Log likelihood of some readings for every u* and k: k by k. */
function tellEach(
  table: Float64Array,
  different: readonly { readonly u: number; readonly sign: number; readonly times: number }[],
  shares: Float64Array,
): void {
  const size = shares.length
  const times = Float64Array.from(different, (one) => one.times)
  const distances = new Float64Array(different.length)
  for (let k = 0; k < LOG_STEP.length; k++) {
    const step = Math.exp(LOG_STEP[k])
    for (let s = 0; s < size; s++) {
      for (let i = 0; i < different.length; i++)
        distances[i] = (different[i].sign * (shares[s] - different[i].u)) / step
      table[k * size + s] = sumLogSigmoids(distances, times)
    }
  }
}

/**
 * weights[m * size + s]: weight of a direction's u*[s] when the common one is u*[m]; each row sums to 1, and
 * nothing lies farther off than reach.
 */
type Pull = { readonly weights: Float64Array; readonly reach: number }

function pullKernel(spread: number): Pull {
  const size = LOG_SHARE.length
  const weights = new Float64Array(size * size)
  // Six spreads away a bell is below 1e-8.
  const reach = Math.max(1, Math.ceil((6 * spread) / (LOG_SHARE[1] - LOG_SHARE[0])))
  for (let m = 0; m < size; m++) {
    let sum = 0
    for (let s = Math.max(0, m - reach); s < Math.min(size, m + reach + 1); s++)
      sum += weights[m * size + s] = Math.exp(bell(LOG_SHARE[s], LOG_SHARE[m], spread))
    for (let s = 0; s < size; s++) weights[m * size + s] /= sum
  }
  return { weights, reach }
}

/** Likelihood of a direction's own u*, summed over where that may lie around each common one. */
function fromCommon({ weights, reach }: Pull, plain: Float64Array): Float64Array {
  const size = plain.length
  const pooled = new Float64Array(size)
  for (let m = 0; m < size; m++) {
    let sum = 0
    const end = Math.min(size, m + reach + 1)
    for (let s = Math.max(0, m - reach); s < end; s++) sum += weights[m * size + s] * plain[s]
    pooled[m] = sum
  }
  return pooled
}

/** Common values that weigh less than this next to the likeliest one are passed over. */
const IMPOSSIBLE = 1e-30

/** Adds what common values, by their weight, leave of a direction's own. */
function drawToCommon(
  own: Float64Array,
  { weights, reach }: Pull,
  weight: Float64Array,
  { plain, pooled }: Term['directions'][number],
): void {
  const size = own.length
  for (let m = 0; m < size; m++) {
    if (!(weight[m] > IMPOSSIBLE)) continue
    const scale = weight[m] / pooled[m]
    const end = Math.min(size, m + reach + 1)
    for (let s = Math.max(0, m - reach); s < end; s++) own[s] += scale * weights[m * size + s] * plain[s]
  }
}

const PULLS: ReadonlyMap<number, Pull> = new Map([...APART].map((spread) => [spread, pullKernel(spread)]))

const asPosterior = (weights: Float64Array): Posterior => ({
  values: LOG_SHARE,
  weights: normalise(weights.map((w) => Math.log(Math.max(w, 1e-300)))),
})

/** Terms of one k belong together, however far apart they take the directions to lie. */
function beliefOf(terms: readonly Term[], shares: Float64Array): Belief {
  const weights = new Float64Array(LOG_STEP.length * shares.length)
  for (const { joint, k } of terms)
    for (let s = 0; s < shares.length; s++) weights[k * shares.length + s] += joint[s]
  const total = weights.reduce((a, b) => a + b, 0)
  return {
    thresholds: shares,
    steps: LOG_STEP.map(Math.exp),
    weights: weights.map((weight) => weight / total),
    sign: -1,
  }
}

/** Expected share of good prints over the angle. */
function curveOf(belief: Belief, h: number, w: number) {
  const anglesDeg = evenSteps(20, 85, 66)
  return { anglesDeg, good: anglesDeg.map((angle) => chanceAt(belief, hangingShare(angle, h, w))) }
}
