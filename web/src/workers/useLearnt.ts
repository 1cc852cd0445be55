import { keptQuestions, type LastKept } from '@tender/contract'
import type { Learnt } from '@tender/core/decide'
import type { TakeOff } from '@tender/core/takeOff'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { fitting } from './fitting'
import { keepAnswer, keptAnswer, keyOf, lastAnswer } from './keptAnswers'
import { useLeanTakeOffs, type KnownTrials } from './useKnownTrials'

/** It is little: where one browser worked it out, no other waits for the thread that fits. */
const ABOUT = 'learnt'

/**
 * What take-offs taught beyond gaps: all of the readings that the numbers of a plan go by.
 * @param known once the readings are fitted here, what came of that counts
 * @param last what was last kept: undefined while that is waited for
 */
export function useLearnt(known: KnownTrials | undefined, last: LastKept | undefined): Learnt | undefined {
  const takeOffs = useLeanTakeOffs()
  const told = useMemo(
    () => takeOffs && last && lastAnswer<Learnt>(last, ABOUT, asked(takeOffs.map(({ takeOff }) => takeOff))),
    [takeOffs, last],
  )
  const ahead = useQuery({
    queryKey: ['learnt', takeOffs?.map(({ number }) => number)],
    enabled: told === null && known === undefined,
    staleTime: Infinity,
    queryFn: () => learntOf(takeOffs!.map(({ takeOff }) => takeOff)),
  }).data
  const learnt = known?.learnt ?? told ?? ahead
  const text = JSON.stringify(learnt)
  // The same said once more is no news to what hangs on it.
  // oxlint-disable-next-line react/exhaustive-deps
  return useMemo(() => learnt, [text])
}

const asked = keptQuestions.learnt

async function learntOf(takeOffs: readonly TakeOff[]): Promise<Learnt> {
  const key = keyOf(asked(takeOffs))
  const kept = await keptAnswer<Learnt>(key, ABOUT)
  if (kept) return kept
  const learnt = await fitting().learnt(takeOffs)
  void keepAnswer(key, learnt, ABOUT)
  return learnt
}
