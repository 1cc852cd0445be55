import { ReadingInput, StepReading, type Trial } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useMemo } from 'react'
import { z } from 'zod'
import { ask } from '../../api/client'
import { shelfKeys } from '../../api/shelves'
import { keep } from '../../keep/outbox'
import { useKeptRows, type Aside } from '../../keep/useKeptRows'
import type { Sent } from '../../keep/useOutbox'

export const NOTHING_READ: ReadingInput = {
  grade: null,
  release: null,
  finish: null,
  forceN: null,
  leftOut: false,
  note: '',
}

/** A reading that the server would not have, with its reason. */
export type AsideReading = Aside<StepReading>

const topicOf = (trialId: string) => `reading.${trialId}`

/**
 * What an older version kept: whole readings, all in one place. They are taken over as changes of what nobody
 * had read.
 */
function takeOver(trialId: string): void {
  const key = `tender.pending.${trialId}`
  const text = localStorage.getItem(key)
  if (text === null) return
  localStorage.removeItem(key)
  try {
    const old = z.record(z.string(), ReadingInput).parse(JSON.parse(text))
    for (const [step, reading] of Object.entries(old)) {
      const said = Object.entries(reading).filter(
        ([field, value]) => value !== NOTHING_READ[field as keyof ReadingInput],
      )
      if (said.length > 0) keep(topicOf(trialId), step, 0, Object.fromEntries(said))
    }
  } catch {
    // Something else stood in its place.
  }
}

/** The readings of a trial, those not yet with the server included. */
export function useReadings(trial: Trial) {
  const client = useQueryClient()
  useMemo(() => takeOver(trial.id), [trial.id])

  const put = useCallback(
    (reading: StepReading) =>
      client.setQueryData<Trial>(
        shelfKeys.one('trials', trial.id),
        (before) =>
          before && {
            ...before,
            readings: [...before.readings.filter((one) => one.step !== reading.step), reading],
          },
      ),
    [client, trial.id],
  )
  const send = useCallback(
    async (step: string, change: Sent) => {
      const path = `/trials/${trial.id}/readings/${encodeURIComponent(step)}`
      put(await ask(path, StepReading, { method: 'PATCH', body: change }))
      void client.invalidateQueries({ queryKey: ['trials', 'list'] })
    },
    [client, put, trial.id],
  )
  const seeTheirs = useCallback(
    (current: unknown) => {
      const theirs = StepReading.safeParse(current)
      if (theirs.success) put(theirs.data)
    },
    [put],
  )
  const { rows, change, ...kept } = useKeptRows<StepReading>({
    topic: topicOf(trial.id),
    rows: trial.readings,
    keyOf: ({ step }) => step,
    blank: (step) => ({ step, revision: 0, ...NOTHING_READ }),
    send,
    seeTheirs,
  })
  return {
    ...kept,
    readings: rows,
    read: change as (step: string, changes: Partial<ReadingInput>) => void,
  }
}
