import { PoseSearch } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useJob } from '../../api/useJob'

/** The newest search of a part for poses that need less holding. */
export function usePoseSearch(partId: string) {
  const { job, start, ...rest } = useJob('searches', partId, PoseSearch)
  return { ...rest, search: job, start: (document: PlanDocument) => start({ document }) }
}
