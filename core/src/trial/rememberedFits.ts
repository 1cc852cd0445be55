import type { Cling } from '../bench'
import { fitFan, type FanFit } from './fitFan'
import { fitGap, gapPriorOf, type GapFit } from './fitGap'
import { fitPull, type PullFit } from './fitPull'
import { fitPurge, type PurgeFit } from './fitPurge'
import { fitSpan, type SpanFit } from './fitSpan'
import type { KnownTrial, KnownTrialOf } from './knownTrial'
import type { PurgeReading } from './readings'

/**
 * Remembers what was made of a list of trials, as long as the trials themselves live: the same trials, further read, are other ones. A
 * fit takes a tenth of a second and is asked for at every key.
 */
function perTrials<Extra extends readonly (string | number)[], T>(
  make: (trials: readonly KnownTrial[], ...extra: Extra) => T,
): (trials: readonly KnownTrial[], ...extra: Extra) => T {
  type Node = { readonly next: WeakMap<KnownTrial, Node>; readonly made: Map<string, T> }
  const aNode = (): Node => ({ next: new WeakMap(), made: new Map() })
  const root = aNode()
  return (trials, ...extra) => {
    let node = root
    for (const trial of trials) {
      let next = node.next.get(trial)
      if (!next) node.next.set(trial, (next = aNode()))
      node = next
    }
    const key = extra.join()
    const known = node.made.get(key)
    if (known !== undefined) return known
    const made = make(trials, ...extra)
    node.made.set(key, made)
    return made
  }
}

const readingsOf = <R>(trials: readonly KnownTrial[]): R[] =>
  trials.flatMap((trial) => trial.readings as unknown as R[])

export const fanFitOf: (trials: readonly KnownTrialOf<'fan'>[]) => FanFit = perTrials((trials) =>
  fitFan(readingsOf(trials)),
)
export const spanFitOf: (trials: readonly KnownTrialOf<'span'>[]) => SpanFit = perTrials((trials) =>
  fitSpan(readingsOf(trials)),
)
export const gapFitOf: (trials: readonly KnownTrialOf<'gap'>[], lineWidthMm: number, cling: Cling) => GapFit =
  perTrials((trials, lineWidthMm: number, cling: Cling) =>
    fitGap(readingsOf(trials), { lineWidthMm, prior: gapPriorOf(cling) }),
  )
export const pullFitOf: (trials: readonly KnownTrialOf<'gap'>[], lineWidthMm: number) => PullFit | null =
  perTrials((trials, lineWidthMm: number) => fitPull(readingsOf(trials), lineWidthMm))

/** @param from identity of the filament that swaps are counted from: a ladder printed the other way round tells the same, its swaps the other way */
export const purgeFitOf: (trials: readonly KnownTrialOf<'purge'>[], from: string) => PurgeFit = perTrials(
  (trials, from: string) =>
    fitPurge(
      trials.flatMap(({ readings, conditions }) =>
        (readings as readonly PurgeReading[]).map((one) =>
          conditions.partFilament.id === from
            ? one
            : { ...one, swap: one.swap === 'AB' ? ('BA' as const) : ('AB' as const) },
        ),
      ),
    ),
)
