import { ReadingInput, StepReading, type Trial } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef } from 'react'
import { z } from 'zod'
import { ask } from '../../api/client'
import { shelfKeys } from '../../api/shelves'
import { keep } from '../../keep/outbox'
import { useOutbox, type Sent } from '../../keep/useOutbox'

export const NOTHING_READ: ReadingInput = {
  grade: null,
  release: null,
  finish: null,
  forceN: null,
  leftOut: false,
  note: '',
}

/** A reading that the server would not have, with its reason. */
export type AsideReading = {
  readonly id: string
  readonly step: string
  readonly changes: Partial<ReadingInput>
  readonly reason: string
}

const topicOf = (trialId: string) => `reading.${trialId}`

/** What an older version kept: whole readings, all in one place. They are taken over as changes of what nobody had read. */
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

/**
 * The readings of a trial, those not yet with the server included. Only what changed is sent, with the revision it was seen at; what was
 * read differently elsewhere meanwhile is set aside for the maker to decide.
 */
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
    (_step: string, current: unknown) => {
      const theirs = StepReading.safeParse(current)
      if (theirs.success) put(theirs.data)
    },
    [put],
  )
  const outbox = useOutbox(topicOf(trial.id), send, seeTheirs)
  const { waiting, aside, problem, change, again, drop } = outbox

  const readings = useMemo(() => {
    const merged = new Map(trial.readings.map((reading) => [reading.step, reading]))
    for (const { target, changes } of waiting) {
      const before = merged.get(target) ?? { step: target, revision: 0, ...NOTHING_READ }
      merged.set(target, { ...before, ...(changes as Partial<ReadingInput>) })
    }
    return [...merged.values()]
  }, [trial.readings, waiting])

  const revisions = useRef<ReadonlyMap<string, number>>(new Map())
  useEffect(
    () => void (revisions.current = new Map(trial.readings.map(({ step, revision }) => [step, revision]))),
  )

  const read = useCallback(
    (step: string, changes: Partial<ReadingInput>) => change(step, revisions.current.get(step) ?? 0, changes),
    [change],
  )
  return {
    readings,
    read,
    unsaved: waiting.length,
    problem,
    aside: aside.map(({ id, target, changes, refused }): AsideReading => ({
      id,
      step: target,
      changes,
      reason: refused!,
    })),
    /** Puts the maker's own reading over what stands there now. */
    putMine: useCallback(
      (id: string) => {
        const entry = aside.find((one) => one.id === id)
        if (entry) again(id, revisions.current.get(entry.target) ?? 0)
      },
      [aside, again],
    ),
    drop,
  }
}
