import type { Trial } from '@tender/contract'
import {
  fanSentence,
  fitFan,
  fitGap,
  fitOffset,
  fitPurge,
  fitSpan,
  gapSentence,
  hedged,
  offsetSentence,
  purgeSentence,
  spanSentence,
  whatIsMissing,
  type Readings,
} from '@tender/core/trial'

/** What of a stored trial its sentence speaks of. */
export type SaidOf = Pick<Trial, 'lineWidthMm' | 'offsetMm' | 'partFilamentName' | 'supportFilamentName'>

export const saidOf = ({ lineWidthMm, offsetMm, partFilamentName, supportFilamentName }: SaidOf): SaidOf => ({
  lineWidthMm,
  offsetMm,
  partFilamentName,
  supportFilamentName,
})

/** What a trial says, in one sentence. */
export function trialSentence(known: Readings, trial: SaidOf): string {
  const offset = known.kind === 'offset' ? fitOffset(known.readings) : null
  const doubts = whatIsMissing(
    offset ? { kind: 'offset', fit: offset } : (known as Exclude<Readings, { kind: 'offset' }>),
  )
  const plain = () => {
    switch (known.kind) {
      case 'fan':
        return fanSentence(fitFan(known.readings))
      case 'span':
        return spanSentence(fitSpan(known.readings))
      case 'gap':
        return gapSentence(fitGap(known.readings, { lineWidthMm: trial.lineWidthMm }))
      case 'purge':
        return purgeSentence(fitPurge(known.readings), {
          a: trial.partFilamentName,
          b: trial.supportFilamentName,
        })
      case 'offset':
        return offsetSentence(offset!, storedOffset(trial))
    }
  }
  return hedged(plain(), doubts)
}

/** The offset the printer had while a comb was printed; without one, corrections count from nothing. */
export function storedOffset({ offsetMm }: Pick<Trial, 'offsetMm'>) {
  const [x, y, z] = offsetMm ?? [0, 0, 0]
  return { x, y, z }
}
