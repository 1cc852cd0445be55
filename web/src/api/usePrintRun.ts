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

/** What was sent to a printer: a print that is to be taken off, or a trial's coupon. */
export type RunOf = { readonly kind: 'takeOff' | 'trial'; readonly id: string }

const keyOf = ({ kind, id }: RunOf) => ['prints', kind, id]

/** Sends a file to a printer; what shows its runs knows of it at once. */
export function useStartRun() {
  const client = useQueryClient()
  return async (input: RunInput, file: Blob): Promise<PrintRun> => {
    const asked = encodeURIComponent(JSON.stringify(input))
    const run = await sendFile('/prints', file, PrintRun, 'POST', { 'tender-run': asked })
    const { takeOffId, trialId } = run
    if (takeOffId) client.setQueryData(keyOf({ kind: 'takeOff', id: takeOffId }), run)
    if (trialId) client.setQueryData(keyOf({ kind: 'trial', id: trialId }), run)
    return run
  }
}

/** The newest run of it, followed while it goes on; null when it never ran from here. */
export function usePrintRun(of: RunOf) {
  const client = useQueryClient()
  const key = keyOf(of)
  const query = useQuery({
    queryKey: key,
    queryFn: async () => (await ask(`/prints?${of.kind}=${of.id}`, z.array(PrintRun)))[0] ?? null,
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
