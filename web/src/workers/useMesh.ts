import { useQuery } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { meshBytes } from '../api/client'
import { unwrap } from './answer'
import { planning } from './geometry'

/**
 * Loads a stored mesh into the planning worker; the data is its key.
 * @param enabled false while something else comes first
 */
export function useMesh(sha256: string, enabled = true) {
  return useQuery({
    queryKey: ['mesh', sha256],
    enabled,
    queryFn: async ({ signal }) => {
      const bytes = await meshBytes(sha256, signal)
      await unwrap(planning().hold(sha256, transfer(bytes, [bytes.buffer])))
      return sha256
    },
    staleTime: Infinity,
    // The worker keeps few meshes: when a view is left, its mesh may have to be loaded again.
    gcTime: 0,
  })
}
