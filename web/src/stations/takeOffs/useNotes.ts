import { NOTHING_NOTED, StoredNote, type StoredTakeOff } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import { ask } from '../../api/client'
import { shelfKeys } from '../../api/shelves'
import { useKeptRows } from '../../keep/useKeptRows'
import type { Sent } from '../../keep/useOutbox'

/** What was noted of a print, what is not yet with the server included. */
export function useNotes({ id, notes }: StoredTakeOff) {
  const client = useQueryClient()
  const put = useCallback(
    (note: StoredNote) =>
      client.setQueryData<StoredTakeOff>(
        shelfKeys.one('takeOffs', id),
        (before) =>
          before && { ...before, notes: [...before.notes.filter(({ at }) => at !== note.at), note] },
      ),
    [client, id],
  )
  const send = useCallback(
    async (at: string, change: Sent) => {
      put(
        await ask(`/take-offs/${id}/notes/${encodeURIComponent(at)}`, StoredNote, {
          method: 'PATCH',
          body: change,
        }),
      )
      void client.invalidateQueries({ queryKey: ['takeOffs', 'list'] })
    },
    [client, put, id],
  )
  const seeTheirs = useCallback(
    (current: unknown) => {
      const theirs = StoredNote.safeParse(current)
      if (theirs.success) put(theirs.data)
    },
    [put],
  )
  return useKeptRows<StoredNote>({
    topic: `take-off.${id}`,
    rows: notes,
    keyOf: ({ at }) => at,
    blank: (at) => ({ at, revision: 0, ...NOTHING_NOTED }),
    send,
    seeTheirs,
  })
}
