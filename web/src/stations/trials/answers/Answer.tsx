import type { Trial } from '@tender/contract'
import type { Readings } from '@tender/core/trial'
import { useDeferredValue } from 'react'
import { type SwapNames } from '../trialKinds'
import { storedOffset } from '../trialSentence'
import { FanAnswer } from './FanAnswer'
import { GapAnswer } from './GapAnswer'
import { OffsetAnswer } from './OffsetAnswer'
import { PurgeAnswer } from './PurgeAnswer'
import { SpanAnswer } from './SpanAnswer'

/**
 * What the readings of a coupon say: the sentence first, the chart under it. Drawn anew at every reading,
 * after the reading itself.
 */
export function Answer({ trial, known, names }: { trial: Trial; known: Readings; names: SwapNames }) {
  const used = useDeferredValue(known)
  switch (used.kind) {
    case 'fan':
      return <FanAnswer readings={used.readings} />
    case 'span':
      return <SpanAnswer readings={used.readings} />
    case 'gap':
      return (
        <GapAnswer
          readings={used.readings}
          spacingsMm={[...new Set(used.readings.map((one) => one.spacingMm))]}
          lineWidthMm={trial.lineWidthMm}
        />
      )
    case 'purge':
      return <PurgeAnswer readings={used.readings} names={names} />
    case 'offset':
      return (
        <OffsetAnswer readings={used.readings} stored={storedOffset(trial)} known={trial.offsetMm !== null} />
      )
  }
}
