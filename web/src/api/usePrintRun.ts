import { PrintRun, StandIns, type RunInput, type STAND_IN_FAULTS } from '@tender/contract'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { z } from 'zod'
import { ask, sendFile } from './client'

const FOLLOW_MS = 300
const ENDED = ['done', 'given up']

/** Which stand-ins run beside the server; none until that is known. */
export function useStandIns(): StandIns {
  const query = useQuery({
    queryKey: ['stand-ins'],
    queryFn: () => ask('/stand-ins', StandIns),
    staleTime: Infinity,
  })
  return query.data ?? { printer: false, look: false, gauge: false, scale: false }
}

/** Sends a file to a printer. */
export const startRun = (input: RunInput, file: Blob): Promise<PrintRun> =>
  sendFile('/prints', file, PrintRun, 'POST', { 'tender-run': encodeURIComponent(JSON.stringify(input)) })

/** What was sent to a printer: a print that is to be taken off, or a trial's coupon. */
export type RunOf = { readonly kind: 'takeOff' | 'trial'; readonly id: string }

/** The newest run of it, followed while it goes on; null when it never ran from here. */
export function usePrintRun({ kind, id }: RunOf) {
  const client = useQueryClient()
  const key = ['prints', kind, id]
  const query = useQuery({
    queryKey: key,
    queryFn: async () => (await ask(`/prints?${kind}=${id}`, z.array(PrintRun)))[0] ?? null,
    refetchInterval: ({ state }) => (state.data && !ENDED.includes(state.data.state) ? FOLLOW_MS : false),
  })
  const told = { onSuccess: (run: PrintRun) => client.setQueryData(key, run) }
  const act = useMutation({
    mutationFn: (what: 'pause' | 'resume' | 'give-up') =>
      ask(`/prints/${query.data!.id}/${what}`, PrintRun, { method: 'POST' }),
    ...told,
  })
  const fail = useMutation({
    mutationFn: (fault: (typeof STAND_IN_FAULTS)[number]) =>
      ask(`/prints/${query.data!.id}/fault`, PrintRun, { method: 'POST', body: { fault } }),
    ...told,
  })
  return { query, act, fail }
}
