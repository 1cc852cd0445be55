import type { Cling } from '../bench'
import { fitFan, type FanFit } from './fitFan'
import { fitGap, GAP_DEFAULTS, gapPriorOf, WEAK_GAP_PRIOR, type GapFit } from './fitGap'
import { fitPull, type PullFit } from './fitPull'
import { fitPurge, type PurgeFit } from './fitPurge'
import { fitSpan, type SpanFit } from './fitSpan'
import type { KnownTrial, KnownTrialOf } from './knownTrial'
import type { GapReading, PurgeReading, Swap } from './readings'

/** A fit that was made of some trials, so that it can be made in one thread and used in another. */
export type RememberedFit = {
  readonly name: FitName
  /** Identities of the trials, in their order. */
  readonly trials: readonly string[]
  readonly key: string
  readonly fit: unknown
}
type FitName = 'fan' | 'span' | 'gap' | 'pull' | 'purge' | 'advice'

type Node = { readonly next: WeakMap<KnownTrial, Node>; readonly made: Map<string, unknown> }
const aNode = (): Node => ({ next: new WeakMap(), made: new Map() })
const roots = new Map<FitName, Node>()
let making: RememberedFit[] | null = null

function nodeOf(name: FitName, trials: readonly KnownTrial[]): Node {
  let node: Node = roots.get(name) ?? aNode()
  roots.set(name, node)
  for (const trial of trials) {
    const next: Node = node.next.get(trial) ?? aNode()
    node.next.set(trial, next)
    node = next
  }
  return node
}

/**
 * Remembers what was made of a list of trials, as long as the trials themselves live: the same trials,
 * further read, are other ones. A fit takes a tenth of a second and is asked for at every key.
 */
export function perTrials<Extra extends readonly (string | number | null)[], T>(
  name: FitName,
  make: (trials: readonly KnownTrial[], ...extra: Extra) => T,
): (trials: readonly KnownTrial[], ...extra: Extra) => T {
  return (trials, ...extra) => {
    const { made } = nodeOf(name, trials)
    const key = extra.join()
    if (!made.has(key)) made.set(key, make(trials, ...extra))
    const fit = made.get(key) as T
    making?.push({ name, trials: trials.map(({ id }) => id), key, fit })
    return fit
  }
}

/** Does some work and gives all fits that it asked for. */
export function fitsAskedBy(work: () => void): RememberedFit[] {
  const asked: RememberedFit[] = (making = [])
  try {
    work()
  } finally {
    making = null
  }
  return asked
}

/** Takes over fits that were made elsewhere of these trials. */
export function adoptFits(fits: readonly RememberedFit[], trials: readonly KnownTrial[]): void {
  const byId = new Map(trials.map((trial) => [trial.id, trial]))
  for (const { name, trials: ids, key, fit } of fits) {
    const own = ids.flatMap((id) => byId.get(id) ?? [])
    if (own.length === ids.length) nodeOf(name, own).made.set(key, fit)
  }
}

const readingsOf = <R>(trials: readonly KnownTrial[]): R[] =>
  trials.flatMap((trial) => trial.readings as unknown as R[])

/**
 * Gap readings of trials, each with the width of the lines it was printed with. Once take-offs are among
 * them, which are single prints, ladders count as single prints too.
 */
export function gapReadingsOf(trials: readonly KnownTrialOf<'gap'>[]): GapReading[] {
  const readings = trials.flatMap(({ id, conditions, readings: own }) =>
    own.map((one) => ({ id, reading: { ...one, lineWidthMm: conditions.lineWidthMm } })),
  )
  const apart = readings.some(({ reading }) => reading.print !== undefined)
  return readings.map(({ id, reading }) => (apart ? { ...reading, print: reading.print ?? id } : reading))
}

export const fanFitOf: (trials: readonly KnownTrialOf<'fan'>[]) => FanFit = perTrials('fan', (trials) =>
  fitFan(readingsOf(trials)),
)
export const spanFitOf: (trials: readonly KnownTrialOf<'span'>[]) => SpanFit = perTrials('span', (trials) =>
  fitSpan(readingsOf(trials)),
)
/** @param cling how much the pairing is guessed to cling, null when nothing is known of it */
export const gapFitOf: (trials: readonly KnownTrialOf<'gap'>[], cling: Cling | null) => GapFit = perTrials(
  'gap',
  (trials, cling: Cling | null) =>
    fitGap(gapReadingsOf(trials as readonly KnownTrialOf<'gap'>[]), {
      prior: cling === null ? WEAK_GAP_PRIOR : gapPriorOf(cling),
    }),
)
export const pullFitOf: (trials: readonly KnownTrialOf<'gap'>[]) => PullFit | null = perTrials(
  'pull',
  (trials) => fitPull(gapReadingsOf(trials as readonly KnownTrialOf<'gap'>[]), GAP_DEFAULTS.lineWidthMm),
)

/**
 * @param from identity of the filament that swaps are counted from: a ladder printed the other way round
 * tells the same, its swaps the other way
 */
export const purgeFitOf: (trials: readonly KnownTrialOf<'purge'>[], from: string) => PurgeFit = perTrials(
  'purge',
  (trials, from: string) => {
    const [first] = trials
    if (first && first.conditions.partFilament.id !== from) {
      const { swaps, readings } = purgeFitOf(
        trials as readonly KnownTrialOf<'purge'>[],
        first.conditions.partFilament.id,
      )
      return { swaps: swaps.map((fit) => ({ ...fit, swap: otherWay(fit.swap) })).reverse(), readings }
    }
    return fitPurge(
      trials.flatMap(({ readings, conditions }) =>
        (readings as readonly PurgeReading[]).map((one) =>
          conditions.partFilament.id === from ? one : { ...one, swap: otherWay(one.swap) },
        ),
      ),
    )
  },
)

const otherWay = (swap: Swap): Swap => (swap === 'AB' ? 'BA' : 'AB')
