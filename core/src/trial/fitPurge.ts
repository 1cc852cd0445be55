import { counted } from './counted'
import { evenSteps, interval, logSigmoid, normalise, quantile, sigmoid, type Posterior } from './posterior'
import { SWAPS, type Grade, type Interval, type PurgeReading, type Swap } from './readings'

/**
 * What follows the swap decides how much of the old filament may still come along. Shares of the old one in
 * what is laid.
 */
export const PURGE_PURPOSES = {
  /** A light colour in plain sight. */
  light: 0.01,
  /** A part that has to be strong, next to a pair that clings weakly. */
  strength: 0.05,
  /** A stand that is thrown away. */
  throwAway: 0.3,
} as const
export type PurgePurpose = keyof typeof PURGE_PURPOSES

/** Share of the old filament up to which a strip is graded 1, 2, 3, 4. */
const CUTS = [0.01, 0.03, 0.1, 0.3].map(Math.log)

export type PurgeNeed = Interval & { /** Enough nine times in ten. */ readonly cautious: number }

export type SwapFit = {
  readonly swap: Swap
  readonly readings: number
  /** Volume to send through the nozzle before what comes is good enough, mm3. */
  readonly volumeMm3: Readonly<Record<PurgePurpose, PurgeNeed>>
  readonly belief: PurgeBelief
}
export type PurgeFit = { readonly swaps: readonly SwapFit[]; readonly readings: number }

/** Cells of (dead volume, decay volume, noise) with their weights, which sum to 1. */
export type PurgeBelief = {
  readonly deadMm3: Float64Array
  readonly decayMm3: Float64Array
  readonly noise: Float64Array
  readonly weights: Float64Array
}

// Weak priors: some 35 mm3 dead, then a decay over some 40 mm3, each within a factor of four; graders waver
// by a third of a step.
const LOG_DEAD = {
  middle: Math.log(35),
  spread: 0.6,
  values: evenSteps(Math.log(35) - 2, Math.log(35) + 3, 36),
}
const LOG_DECAY = {
  middle: Math.log(40),
  spread: 0.65,
  values: evenSteps(Math.log(40) - 2.2, Math.log(40) + 3, 73),
}
const LOG_NOISE = {
  middle: Math.log(0.35),
  spread: 0.5,
  values: evenSteps(Math.log(0.35) - 1.25, Math.log(0.35) + 1.25, 5),
}

const CELLS = makeCells()

function makeCells() {
  const size = LOG_DEAD.values.length * LOG_DECAY.values.length * LOG_NOISE.values.length
  const [deadMm3, decayMm3, noise, log] = [
    new Float64Array(size),
    new Float64Array(size),
    new Float64Array(size),
    new Float64Array(size),
  ]
  const bell = (x: number, { middle, spread }: { middle: number; spread: number }) =>
    -0.5 * ((x - middle) / spread) ** 2
  let cell = 0
  for (const dead of LOG_DEAD.values)
    for (const decay of LOG_DECAY.values)
      for (const noisy of LOG_NOISE.values) {
        deadMm3[cell] = Math.exp(dead)
        decayMm3[cell] = Math.exp(decay)
        noise[cell] = Math.exp(noisy)
        log[cell++] = bell(dead, LOG_DEAD) + bell(decay, LOG_DECAY) + bell(noisy, LOG_NOISE)
      }
  return { deadMm3, decayMm3, noise, log }
}

/**
 * log of the share of the old filament after a volume. Source: r(V) = exp(-(V - Vd) / Vm), and all of it up
 * to Vd.
 */
const logShare = (volumeMm3: number, deadMm3: number, decayMm3: number) =>
  Math.min(0, -(volumeMm3 - deadMm3) / decayMm3)

/** P(grade) at a log share. Cumulative: P(grade <= j) = sigmoid((cut j - log share) / noise). */
export function gradeChance(grade: Grade, share: number, noise: number): number {
  return upToGrade(grade - 1, share, noise) - upToGrade(grade - 2, share, noise)
}

const upToGrade = (j: number, share: number, noise: number) =>
  j >= CUTS.length ? 1 : j < 0 ? 0 : sigmoid((CUTS[j] - share) / noise)

/**
 * Fits how much must go through the nozzle after a swap, each way for itself, from the strips of purge
 * ladders. All five grades count: a tinted strip says more than "not clean". Without readings the answer is
 * the prior.
 */
export function fitPurge(readings: readonly PurgeReading[]): PurgeFit {
  const swaps = SWAPS.filter((swap) => readings.some((reading) => reading.swap === swap))
  return {
    readings: readings.length,
    swaps: (swaps.length > 0 ? swaps : SWAPS).map((swap) =>
      fitSwap(
        swap,
        readings.filter((reading) => reading.swap === swap),
      ),
    ),
  }
}

function fitSwap(swap: Swap, readings: readonly PurgeReading[]): SwapFit {
  const { deadMm3, decayMm3, noise } = CELLS
  const log = CELLS.log.slice()
  for (const { volumeMm3, grade, times } of counted(readings, (one) => `${one.volumeMm3} ${one.grade}`))
    for (let cell = 0; cell < log.length; cell++)
      log[cell] += times * logGrade(grade, logShare(volumeMm3, deadMm3[cell], decayMm3[cell]), noise[cell])
  const belief: PurgeBelief = { deadMm3, decayMm3, noise, weights: normalise(log) }
  const need = (share: number): PurgeNeed => {
    const volumes = sorted(
      deadMm3.map((dead, cell) => dead + decayMm3[cell] * Math.log(1 / share)),
      belief.weights,
    )
    return { ...interval(volumes), cautious: quantile(volumes, 0.9) }
  }
  return {
    swap,
    readings: readings.length,
    volumeMm3: {
      light: need(PURGE_PURPOSES.light),
      strength: need(PURGE_PURPOSES.strength),
      throwAway: need(PURGE_PURPOSES.throwAway),
    },
    belief,
  }
}

export type PurgeCurve = ReturnType<typeof purgeCurve>

/** What is left of the old filament over the volume, as a share: the median and the interval, for drawing. */
export function purgeCurve({ deadMm3, decayMm3, weights }: PurgeBelief) {
  const volumesMm3 = evenSteps(0, 500, 51)
  const bands = Array.from(volumesMm3, (volume) =>
    interval(
      sorted(
        deadMm3.map((dead, cell) => Math.exp(logShare(volume, dead, decayMm3[cell]))),
        weights,
      ),
    ),
  )
  const of = (side: keyof Interval) => Float64Array.from(bands, (band) => band[side])
  return { volumesMm3, median: of('median'), low: of('low'), high: of('high') }
}

/** log P(grade), safe far out in the tails. */
function logGrade(grade: Grade, share: number, noise: number): number {
  if (grade === 1) return logSigmoid((CUTS[0] - share) / noise)
  if (grade === 5) return logSigmoid((share - CUTS[3]) / noise)
  return Math.log(Math.max(1e-300, gradeChance(grade, share, noise)))
}

/** P(grade 1 .. 5) of a strip at a volume, in some cells. */
export function gradesPerCell(
  { deadMm3, decayMm3, noise }: PurgeBelief,
  volumeMm3: number,
  cells: Uint32Array,
): Float64Array[] {
  const grades = Array.from({ length: CUTS.length + 1 }, () => new Float64Array(cells.length))
  for (let i = 0; i < cells.length; i++) {
    const cell = cells[i]
    const share = logShare(volumeMm3, deadMm3[cell], decayMm3[cell])
    let before = 0
    for (let j = 0; j < CUTS.length; j++) {
      const upTo = upToGrade(j, share, noise[cell])
      grades[j][i] = upTo - before
      before = upTo
    }
    grades[CUTS.length][i] = 1 - before
  }
  return grades
}

/**
 * A posterior over values in no order: gathered in even bins between its ends, which the quantiles then read.
 */
function sorted(values: Float64Array, weights: Float64Array): Posterior {
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < values.length; i++)
    if (weights[i] > 1e-9) {
      if (values[i] < low) low = values[i]
      if (values[i] > high) high = values[i]
    }
  const bins = 400
  const width = Math.max(high - low, 1e-9) / (bins - 1)
  const sums = new Float64Array(bins)
  for (let i = 0; i < values.length; i++)
    if (weights[i] > 1e-9) sums[Math.round((values[i] - low) / width)] += weights[i]
  const total = sums.reduce((a, b) => a + b, 0)
  return {
    values: Float64Array.from({ length: bins }, (_, i) => low + i * width),
    weights: sums.map((sum) => sum / total),
  }
}
