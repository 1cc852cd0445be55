import { keptQuestions } from '@tender/contract'
import type { Learnt } from '@tender/core/decide'
import type { TakeOff } from '@tender/core/takeOff'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { fitting } from './fitting'
import { keepAnswer, keptAnswer, keyOf } from './keptAnswers'
import { useLeanTakeOffs, type KnownTrials } from './useKnownTrials'

/** It is little: where one browser worked it out, no other waits for the thread that fits. */
const FOR_ALL = { forAll: true }

/**
 * What take-offs taught beyond gaps: all of the readings that the numbers of a plan go by.
 * @param known once the readings are fitted here, what came of that counts
 */
export function useLearnt(known: KnownTrials | undefined): Learnt | undefined {
  const takeOffs = useLeanTakeOffs()
  const ahead = useQuery({
    queryKey: ['learnt', takeOffs?.map(({ number }) => number)],
    enabled: takeOffs !== undefined && known === undefined,
    staleTime: Infinity,
    queryFn: () => learntOf(takeOffs!.map(({ takeOff }) => takeOff)),
  }).data
  const learnt = known?.learnt ?? ahead
  const text = JSON.stringify(learnt)
  // The same said once more is no news to what hangs on it.
  // oxlint-disable-next-line react/exhaustive-deps
  return useMemo(() => learnt, [text])
}

async function learntOf(takeOffs: readonly TakeOff[]): Promise<Learnt> {
  const key = await keyOf(keptQuestions.learnt(takeOffs))
  const kept = await keptAnswer<Learnt>(key, FOR_ALL)
  if (kept) return kept
  const learnt = await fitting().learnt(takeOffs)
  void keepAnswer(key, learnt, FOR_ALL)
  return learnt
}
