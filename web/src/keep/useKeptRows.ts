import { useCallback, useEffect, useMemo, useRef } from 'react'
import { useOutbox, type Sent } from './useOutbox'

/** Something that the server would not have, with its reason. */
export type Aside<Row> = {
  readonly id: string
  readonly key: string
  readonly changes: Partial<Row>
  readonly reason: string
}

type Rows<Row> = {
  /** What is kept in the browser under which name. */
  readonly topic: string
  /** As the server has them. */
  readonly rows: readonly Row[]
  readonly keyOf: (row: Row) => string
  readonly blank: (key: string) => Row
  readonly send: (key: string, change: Sent) => Promise<void>
  /** Told of a row as it stands, when a change of ours was refused for it. */
  readonly seeTheirs: (current: unknown) => void
}

/**
 * Rows that several fill in at once, those not yet with the server included. Only what changed is sent, with
 * the revision it was seen at; what was changed differently elsewhere meanwhile is set aside for the maker to
 * decide.
 */
export function useKeptRows<Row extends { readonly revision: number }>({
  topic,
  rows,
  keyOf,
  blank,
  send,
  seeTheirs,
}: Rows<Row>) {
  const calls = useRef({ keyOf, blank })
  const outbox = useOutbox(
    topic,
    send,
    useCallback((_key: string, current: unknown) => seeTheirs(current), [seeTheirs]),
  )
  const { waiting, aside, problem, change, again, drop } = outbox

  const merged = useMemo(() => {
    const found = new Map(rows.map((row) => [calls.current.keyOf(row), row]))
    for (const { target, changes } of waiting)
      found.set(target, {
        ...(found.get(target) ?? calls.current.blank(target)),
        ...(changes as Partial<Row>),
      })
    return [...found.values()]
  }, [rows, waiting])

  const revisions = useRef<ReadonlyMap<string, number>>(new Map())
  useEffect(
    () => void (revisions.current = new Map(rows.map((row) => [calls.current.keyOf(row), row.revision]))),
  )
  return {
    rows: merged,
    change: useCallback(
      (key: string, changes: Partial<Row>) => change(key, revisions.current.get(key) ?? 0, changes),
      [change],
    ),
    unsaved: waiting.length,
    problem,
    aside: aside.map(({ id, target, changes, refused }): Aside<Row> => ({
      id,
      key: target,
      changes: changes as Partial<Row>,
      reason: refused!,
    })),
    /** Puts the maker's own over what stands there now. */
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
