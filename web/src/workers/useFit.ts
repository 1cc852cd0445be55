import { keepPreviousData, useQuery } from '@tanstack/react-query'
import type { Remote } from 'comlink'
import { fitting } from './fitting'
import type { FittingApi } from './fittingWork'

/**
 * What some readings say, fitted beside; undefined until it is there. While readings change the answer before
 * stays.
 * @param about what is asked, and of what: the same words mean the same answer
 */
export function useFit<T>(
  about: readonly unknown[],
  ask: (api: Remote<FittingApi>) => Promise<T>,
): T | undefined {
  return useQuery({
    queryKey: ['fit', ...about],
    queryFn: () => ask(fitting()),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  }).data
}
