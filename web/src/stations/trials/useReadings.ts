import { ReadingInput, StepReading, type Trial } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { z } from 'zod'
import { ApiError, ask } from '../../api/client'
import { shelfKeys } from '../../api/shelves'

const Pending = z.record(z.string(), ReadingInput)
type Pending = z.infer<typeof Pending>
const AGAIN_MS = 2_500
export const NOTHING_READ: ReadingInput = { grade: null, release: null, finish: null, forceN: null, leftOut: false, note: '' }

const keyOf = (trialId: string) => `tender.pending.${trialId}`
function stored(trialId: string): Pending {
  try {
    return Pending.parse(JSON.parse(localStorage.getItem(keyOf(trialId)) ?? '{}'))
  } catch {
    return {}
  }
}

/**
 * The readings of a trial, those not yet with the server included. Each is kept in the browser until the server has it, and sent
 * again while the connection is away; sending one twice changes nothing.
 */
export function useReadings(trial: Trial) {
  const client = useQueryClient()
  const [pending, setPending] = useState(() => stored(trial.id))
  const [problem, setProblem] = useState<string | null>(null)
  const queue = useRef(pending)
  const sending = useRef(false)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)

  const keep = useCallback(
    (next: Pending) => {
      queue.current = next
      if (Object.keys(next).length === 0) localStorage.removeItem(keyOf(trial.id))
      else localStorage.setItem(keyOf(trial.id), JSON.stringify(next))
      setPending(next)
    },
    [trial.id],
  )

  const flush = useCallback(async () => {
    if (sending.current) return
    sending.current = true
    clearTimeout(timer.current)
    try {
      for (let [entry] = Object.entries(queue.current); entry; [entry] = Object.entries(queue.current)) {
        const [step, reading] = entry
        const saved = await ask(`/trials/${trial.id}/readings/${encodeURIComponent(step)}`, StepReading, { method: 'PUT', body: reading })
        client.setQueryData<Trial>(shelfKeys.one('trials', trial.id), (before) => before && { ...before, readings: [...before.readings.filter((one) => one.step !== step), saved] })
        const { [step]: sent, ...rest } = queue.current
        // Changed while it was under way: the newer one goes next.
        if (sent === reading) keep(rest)
      }
      setProblem(null)
      void client.invalidateQueries({ queryKey: ['trials', 'list'] })
    } catch (error) {
      setProblem((error as Error).message)
      if (error instanceof ApiError && error.problem.code === 'OFFLINE') timer.current = setTimeout(() => void flush(), AGAIN_MS)
    } finally {
      sending.current = false
    }
  }, [client, keep, trial.id])

  useEffect(() => {
    if (Object.keys(queue.current).length > 0) void flush()
    return () => clearTimeout(timer.current)
  }, [flush])

  const readings = useMemo(() => {
    const merged = new Map(trial.readings.map((reading) => [reading.step, reading]))
    for (const [step, reading] of Object.entries(pending)) merged.set(step, { step, ...reading })
    return [...merged.values()]
  }, [trial.readings, pending])

  const read = useCallback(
    (step: string, change: Partial<ReadingInput>) => {
      const known = queue.current[step] ?? readings.find((reading) => reading.step === step) ?? NOTHING_READ
      const { grade, release, finish, forceN, leftOut, note } = { ...known, ...change }
      keep({ ...queue.current, [step]: { grade, release, finish, forceN, leftOut, note } })
      void flush()
    },
    [flush, keep, readings],
  )
  return { readings, read, unsaved: Object.keys(pending).length, problem }
}
