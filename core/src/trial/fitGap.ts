import type { Cling } from '../bench'
import { counted } from './counted'
import { thresholdOf, type Belief } from './monotone'
import { evenSteps, interval, normalise, sigmoid, sumLogSigmoids } from './posterior'
import { betweenPrints, LOG_SCATTER_PRIOR, SCATTERS_MM, spreadOut } from './printScatter'
import type { GapReading, Grade, Interval } from './readings'

/** What is believed before any reading, mm. */
export type GapPrior = {
  readonly release: { readonly middle: number; readonly spread: number }
  readonly finish: { readonly middle: number; readonly spread: number }
}

/** When nothing is known of the pairing. */
export const WEAK_GAP_PRIOR: GapPrior = {
  release: { middle: 0.13, spread: 0.15 },
  finish: { middle: 0.32, spread: 0.16 },
}

/**
 * Where a pairing that nobody has tested starts: the weaker the cling, the smaller the gap it needs; with
 * none they may touch.
 */
export function gapPriorOf(cling: Cling): GapPrior {
  return { release: { middle: -0.1 + 0.07 * cling, spread: 0.09 }, finish: { middle: 0.28, spread: 0.1 } }
}

export type GapOptions = {
  /** Worst release grade and worst finish grade that still count as good. */
  readonly acceptRelease: Grade
  readonly acceptFinish: Grade
  /** Width of the lines of readings that do not say their own. */
  readonly lineWidthMm: number
  readonly prior: GapPrior
  /** Interface spacing that the answer is for; by default the one with most readings. */
  readonly spacingMm: number | null
}

export const GAP_DEFAULTS: GapOptions = {
  acceptRelease: 2,
  acceptFinish: 3,
  lineWidthMm: 0.45,
  prior: WEAK_GAP_PRIOR,
  spacingMm: null,
}

export type GapFit = {
  readonly suggestedGapMm: number
  /** Gaps whose P(tender) is at least 80 % of the best. */
  readonly windowMm: readonly [number, number]
  /** P(tender) at the suggested gap. */
  readonly pTender: number
  readonly releaseThresholdMm: Interval
  readonly finishThresholdMm: Interval
  /** Interface spacing that the answer holds for. */
  readonly spacingMm: number
  readonly readings: number
  readonly curve: {
    readonly gapsMm: Float64Array
    readonly releases: Float64Array
    readonly finishes: Float64Array
    readonly tender: Float64Array
  }
  readonly beliefs: { readonly release: Belief; readonly finish: Belief }
}

/** Gaps and thresholds lie on one lattice. */
const LATTICE_MM = 0.005
const LEAST_THRESHOLD_MM = -0.4
/**
 * How far gaps are looked at, however small those that were printed; and thresholds beyond the largest gap.
 */
const USUAL_GAPS_MM = 0.8
const BEYOND_MM = 0.3
const LOG_STEP = evenSteps(Math.log(0.006), Math.log(0.15), 12)
const STEPS = LOG_STEP.map(Math.exp)
const LOG_STEP_MIDDLE = Math.log(0.03)
const LOG_STEP_SPREAD = 0.6
/**
 * Thresholds are believed as Student's t has it: near the middle like a bell, but what readings show far out
 * is believed.
 */
const FREEDOM = 5
const TAIL = (FREEDOM + 1) / 2
/**
 * How much a fully open interface lowers a threshold, mm; only summed over when readings differ in spacing.
 */
const OPENNESS_EFFECTS = evenSteps(0, 0.3, 7)

type Curve = { readonly belief: Belief; /** At each gap. */ readonly chance: Float64Array }

/**
 * Fits the release window to the tiles of gap ladders.
 *
 * P(releases | g) = sigmoid((g - r) / sr), P(good finish | g) = sigmoid((f - g) / sf), P(tender) = the
 * product. Each curve's posterior is summed on a grid over threshold and step, and over how much open
 * interface lines shift it when the readings differ in spacing. Readings that say which print they come from
 * share what they know through that print's own threshold, which scatters around the pairing's; how far is
 * summed over as well. The curves are then those of a print to come. The suggested gap is the peak of
 * P(tender); the window is where it reaches 80 % of that.
 * Source: two logistic curves on a grid; Student's t with 5 degrees of freedom as prior; see docs/method.md.
 */
export function fitGap(readings: readonly GapReading[], options: Partial<GapOptions> = {}): GapFit {
  const use = { ...GAP_DEFAULTS, ...options }
  const spacingMm = use.spacingMm ?? mostCommon(readings.map((reading) => reading.spacingMm)) ?? 0
  const openness = (of: Pick<GapReading, 'spacingMm' | 'lineWidthMm'>) =>
    of.spacingMm / ((of.lineWidthMm ?? use.lineWidthMm) + of.spacingMm)
  const usual = readings.find((reading) => reading.spacingMm === spacingMm)
  const reference = openness(usual ?? { spacingMm })
  const mixed = readings.some((reading) => openness(reading) !== reference)
  const rows = readings.map((reading) => ({
    gapMm: reading.gapMm,
    open: openness(reading) - reference,
    print: reading.print ?? '',
    releases: reading.release === null ? null : reading.release <= use.acceptRelease,
    finishes: reading.finish === null ? null : reading.finish <= use.acceptFinish,
  }))
  const judged = (of: 'releases' | 'finishes') =>
    counted(
      rows.flatMap(({ gapMm, open, print, [of]: good }) =>
        good === null ? [] : [{ gapMm, open, print, good }],
      ),
      ({ gapMm, open, print, good }) => `${gapMm} ${open} ${good} ${print}`,
    )
  const mostMm = readings.reduce((most, { gapMm }) => Math.max(most, gapMm + BEYOND_MM), USUAL_GAPS_MM)
  const gapsMm = latticeOf(0, mostMm)
  const thresholds = latticeOf(LEAST_THRESHOLD_MM, mostMm + BEYOND_MM)
  const effects = mixed ? OPENNESS_EFFECTS : Float64Array.from([0])
  const release = fitThreshold(judged('releases'), use.prior.release, 1, effects, gapsMm, thresholds)
  const finish = fitThreshold(judged('finishes'), use.prior.finish, -1, effects, gapsMm, thresholds)

  const [releases, finishes] = [release.chance, finish.chance]
  const tender = releases.map((chance, i) => chance * finishes[i])
  const peak = tender.reduce((best, value, i) => (value > tender[best] ? i : best), 0)
  let low = peak
  let high = peak
  while (low > 0 && tender[low - 1] >= 0.8 * tender[peak]) low--
  while (high < tender.length - 1 && tender[high + 1] >= 0.8 * tender[peak]) high++
  return {
    suggestedGapMm: round(gapsMm[peak]),
    windowMm: [round(gapsMm[low]), round(gapsMm[high])],
    pTender: tender[peak],
    releaseThresholdMm: interval(thresholdOf(release.belief)),
    finishThresholdMm: interval(thresholdOf(finish.belief)),
    spacingMm,
    readings: readings.length,
    curve: { gapsMm, releases, finishes, tender },
    beliefs: { release: release.belief, finish: finish.belief },
  }
}

/** P(tender) at a gap, read from the fitted curve. */
export function tenderAt(fit: GapFit, gapMm: number): number {
  const { gapsMm, tender } = fit.curve
  const at = Math.min(gapsMm.length - 1.000001, Math.max(0, gapMm / (gapsMm[1] - gapsMm[0])))
  const i = Math.floor(at)
  return tender[i] + (tender[i + 1] - tender[i]) * (at - i)
}

type Row = {
  readonly gapMm: number
  readonly open: number
  readonly print: string
  readonly good: boolean
  readonly times: number
}

/** Grid posterior of one monotone curve; sign 1 when larger gaps are better, -1 when smaller ones are. */
function fitThreshold(
  rows: readonly Row[],
  prior: { middle: number; spread: number },
  sign: 1 | -1,
  effects: Float64Array,
  gapsMm: Float64Array,
  thresholds: Float64Array,
): Curve {
  const size = thresholds.length
  const prints = new Map<string, Row[]>()
  for (const row of rows) {
    const own = prints.get(row.print)
    if (own) own.push(row)
    else prints.set(row.print, [row])
  }
  // Prints that went alike tell alike: of many thousand there are few kinds.
  const kinds = counted(
    [...prints.values()].map((own) => ({ own })),
    ({ own }) =>
      own
        .map(({ gapMm, open, good, times }) => `${gapMm} ${open} ${good} ${times}`)
        .sort()
        .join(),
  )
  const apart = rows.some(({ print }) => print !== '')
  const scatters = apart ? SCATTERS_MM : [0]
  const log = new Float64Array(effects.length * scatters.length * LOG_STEP.length * size)
  const thresholdPrior = thresholds.map(
    (mm) => -TAIL * Math.log1p(((mm - prior.middle) / prior.spread) ** 2 / FREEDOM),
  )
  /** Of a grid over step and threshold; there is one for each effect and scatter. */
  const cells = LOG_STEP.length * size
  const gridOf = (e: number, s: number) => (e * scatters.length + s) * cells
  for (let k = 0; k < LOG_STEP.length; k++) {
    const told = kinds.map(({ own }) =>
      toldAt(own, sign, STEPS[k], effects, thresholds, apart ? scatters : null),
    )
    const stepPrior = -0.5 * ((LOG_STEP[k] - LOG_STEP_MIDDLE) / LOG_STEP_SPREAD) ** 2
    for (let e = 0; e < effects.length; e++)
      for (let s = 0; s < scatters.length; s++) {
        const from = gridOf(e, s) + k * size
        const shared = stepPrior + (apart ? LOG_SCATTER_PRIOR[s] : 0)
        for (let t = 0; t < size; t++) log[from + t] = shared + thresholdPrior[t]
        for (let n = 0; n < kinds.length; n++) add(log, from, told[n][e][s], kinds[n].times)
      }
  }
  const weights = normalise(log)
  // Effects do not matter at the reference spacing, so they are summed out before the curve is drawn; and a
  // print to come scatters.
  const summed = new Float64Array(cells)
  const toCome = apart ? new Float64Array(cells) : summed
  for (let s = 0; s < scatters.length; s++) {
    const grid = new Float64Array(cells)
    for (let e = 0; e < effects.length; e++)
      add(grid, 0, weights.subarray(gridOf(e, s), gridOf(e, s) + cells))
    add(summed, 0, grid)
    if (!apart) continue
    for (let from = 0; from < cells; from += size)
      add(toCome, from, spreadOut(grid.subarray(from, from + size), scatters[s], LATTICE_MM))
  }
  return {
    belief: { thresholds, steps: STEPS, weights: summed, sign },
    chance: chanceOverGaps(toCome, sign, gapsMm, thresholds),
  }
}

function add(to: Float64Array, from: number, values: Float64Array, times = 1): void {
  for (let i = 0; i < values.length; i++) to[from + i] += times * values[i]
}

/**
 * What a print tells of the common threshold, by the effect of open lines and by how far prints scatter;
 * without scatters its own threshold is the common one.
 */
function toldAt(
  own: readonly Row[],
  sign: 1 | -1,
  step: number,
  effects: Float64Array,
  thresholds: Float64Array,
  scatters: readonly number[] | null,
): readonly (readonly Float64Array[])[] {
  const told = (effect: number) => {
    const seen = likelihoodOf(own, sign, effect, step, thresholds)
    return scatters ? betweenPrints(seen, scatters, LATTICE_MM) : [seen]
  }
  if (own.some(({ open }) => open !== 0)) return Array.from(effects, told)
  // At the reference spacing effects change nothing.
  return new Array<readonly Float64Array[]>(effects.length).fill(told(0))
}

/** Log likelihood of one print's readings over its own threshold. */
function likelihoodOf(
  rows: readonly Row[],
  sign: 1 | -1,
  effect: number,
  step: number,
  thresholds: Float64Array,
): Float64Array {
  const log = new Float64Array(thresholds.length)
  const times = Float64Array.from(rows, (row) => row.times)
  const distances = new Float64Array(rows.length)
  for (let t = 0; t < thresholds.length; t++) {
    for (let i = 0; i < rows.length; i++) {
      const { gapMm, open, good } = rows[i]
      const distance = (sign * (gapMm - (thresholds[t] - effect * open))) / step
      distances[i] = good ? distance : -distance
    }
    log[t] = sumLogSigmoids(distances, times)
  }
  return log
}

/**
 * Chance of a good result at each gap, summed over the posterior. Gaps and thresholds lie on one lattice, so
 * each distance occurs many times.
 */
function chanceOverGaps(
  weights: Float64Array,
  sign: 1 | -1,
  gapsMm: Float64Array,
  thresholds: Float64Array,
): Float64Array {
  const size = thresholds.length
  const origin = Math.round(-thresholds[0] / LATTICE_MM)
  const chance = new Float64Array(gapsMm.length)
  const curve = new Float64Array(gapsMm.length + size)
  for (let k = 0; k < LOG_STEP.length; k++) {
    const step = Math.exp(LOG_STEP[k])
    for (let lag = 0; lag < curve.length; lag++)
      curve[lag] = sigmoid((sign * (lag - size + 1 + origin) * LATTICE_MM) / step)
    for (let t = 0; t < size; t++) {
      const weight = weights[k * size + t]
      if (weight < 1e-12) continue
      for (let i = 0; i < chance.length; i++) chance[i] += weight * curve[i - t + size - 1]
    }
  }
  return chance
}

/** Multiples of the lattice between two of them. */
function latticeOf(fromMm: number, toMm: number): Float64Array {
  const count = Math.ceil((toMm - fromMm) / LATTICE_MM - 1e-9) + 1
  return evenSteps(fromMm, fromMm + (count - 1) * LATTICE_MM, count)
}

function mostCommon(values: readonly number[]): number | null {
  const counts = new Map<number, number>()
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1)
  let best: number | null = null
  for (const [value, count] of counts) if (best === null || count > counts.get(best)!) best = value
  return best
}

const round = (value: number) => Math.round(value * 1000) / 1000
