/** @jest-environment jsdom */
import { beforeEach, expect, test } from '@jest/globals'
import { NOTHING_NOTED, WHOLE, type StoredNote } from '@tender/contract'
import { screen, waitFor, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { placeInside } from '../../drawings/ContactMap'
import { aFilament, aTakeOff, idOf } from '../../testing/samples'
import { PretendServer, refusal, show } from '../../testing/view'
import { TakeOffPage } from './TakeOffPage'
import { freeName } from './useNewTakeOff'
import { noteInWords, recordSentence } from './words'

const aNote = (at: string, changes: Partial<StoredNote> = {}): StoredNote => ({
  at,
  revision: 1,
  ...NOTHING_NOTED,
  ...changes,
})

/** A server with one print on it; `stale` refuses what is said of the first contact. */
function aBench(notes: StoredNote[] = [], stale = false, onBench = true) {
  // Its filament is one of the bench.
  const takeOff: ReturnType<typeof aTakeOff> = JSON.parse(
    JSON.stringify(aTakeOff({ notes })).replaceAll('"Part PLA"', `"${idOf(1)}"`),
  )
  const stored = new Map(notes.map((note) => [note.at, note]))
  const list = (items: unknown[]) => ({ body: { items, total: items.length } })
  const server = new PretendServer(({ method, path, body }) => {
    if (path.startsWith(`/take-offs/${takeOff.id}/notes/`)) {
      const at = path.split('/').at(-1)!
      const { base, changes } = body as { base: number; changes: object }
      if (stale && at === 'c1')
        return refusal(409, 'STALE', 'This was changed somewhere else.', {
          current: aNote('c1', { revision: 5, release: 1 }),
        })
      const next = { ...(stored.get(at) ?? aNote(at)), ...changes, revision: base + 1 }
      stored.set(at, next)
      return { body: next }
    }
    if (method === 'PUT') return { body: { ...takeOff, ...(body as object), revision: 2 } }
    if (path === `/take-offs/${takeOff.id}`) return { body: takeOff }
    if (path === '/take-offs') return list([takeOff])
    if (path === '/filaments') return list(onBench ? [aFilament(1, 'Part PLA')] : [])
    return path === '/families' ? { body: { families: [], clings: [] } } : list([])
  })
  const view = (
    <Routes>
      <Route path="/take-offs/:id" element={<TakeOffPage />} />
    </Routes>
  )
  return { server, takeOff, ...show(view, `/take-offs/${takeOff.id}`) }
}

beforeEach(() => localStorage.clear())

test('keys grade the contact looked at and go on to the next; each goes to the server as the change it is', async () => {
  const { server, user } = aBench([aNote('c1', { revision: 3, finish: 2 })])
  await screen.findByText('Flat underside at 4\u202fmm', { normalizer: (text) => text.replace(/^f/, 'F') })
  screen.getByRole('button', { name: /^1, flat underside at 4/ }).focus()
  await user.keyboard('4a{ArrowRight}1w')
  await waitFor(() => expect(server.changes.length).toBeGreaterThanOrEqual(2))
  await waitFor(() => expect(screen.queryByText(/not with the server yet/)).toBeNull())
  const said = server.changes.map(({ path, body }) => [path.split('/').at(-1), body] as const)
  const of = (at: string) =>
    Object.assign(
      {},
      ...said.filter(([to]) => to === at).map(([, body]) => (body as { changes: object }).changes),
    )
  expect(of('c1')).toEqual({ release: 4, stayed: 'nothing' })
  expect(of('c2')).toEqual({ release: 1, finish: 2 })
  expect(said[0][1]).toMatchObject({ base: 3 })
  expect(
    screen.getByRole('button', { name: /^2, flat underside at 12.*fell off/ }).getAttribute('aria-pressed'),
  ).toBe('true')
  expect(screen.getByText(/1 of 2 came off by hand/)).toBeTruthy()
})

test('what somebody else noted differently is set aside with both, and mine can be put over it', async () => {
  const { server, user } = aBench([], true)
  await user.click(await screen.findByRole('button', { name: /^1, flat/ }))
  await user.keyboard('5')
  const aside = await screen.findByRole('alert', { name: 'Notes that were not taken' })
  expect(aside.textContent).toContain(
    'flat underside at 4\u202fmm: came off would not. This was changed somewhere else.',
  )
  expect(screen.getByRole('button', { name: /^1, flat underside.*fell off/ })).toBeTruthy()
  await user.click(within(aside).getByRole('button', { name: 'Use mine' }))
  await waitFor(() => expect(server.changes.at(-1)!.body).toMatchObject({ base: 5, changes: { release: 5 } }))
})

test('lessons are told with what they moved, and one that is left out is saved as such with the plan untouched', async () => {
  const { server, takeOff, user } = aBench([aNote('c1', { release: 5 }), aNote(WHOLE, { minutes: 12 })])
  const lessons = await screen.findByRole('region', { name: 'What it teaches' })
  await waitFor(() => expect(lessons.textContent).toContain('Gap of'), { timeout: 20_000 })
  expect(lessons.textContent).toMatch(/Minutes of taking off.*as guessed → ×/)
  await user.click(within(lessons).getByRole('switch', { name: /Heed “Minutes/ }))
  await waitFor(() => expect(server.changes.at(-1)).toMatchObject({ method: 'PUT', query: 'revision=1' }))
  expect(server.changes.at(-1)!.body).toMatchObject({
    lessonsLeftOut: ['minutes'],
    document: takeOff.document,
  })
})

test('a print in a filament that is not on the bench teaches as well', async () => {
  aBench([aNote('c1', { release: 5 })], false, false)
  const lessons = await screen.findByRole('region', { name: 'What it teaches' })
  await waitFor(() => expect(lessons.textContent).toContain('Gap of'), { timeout: 20_000 })
})

test('a record in a sentence, changes in words, names that are free, and marks inside their contact', () => {
  const { printed } = aTakeOff()
  expect(recordSentence({ printed, notes: [] })).toBe('None of 2 contacts read yet.')
  const single = { ...printed, contacts: printed.contacts.slice(0, 1) }
  expect(recordSentence({ printed: single, notes: [] })).toBe('Its one contact is not read yet.')
  expect(recordSentence({ printed, notes: [aNote('c1', { release: 2, finish: 4 })] })).toBe(
    '1 of 1 came off by hand or by themselves, 0 of 1 face is fine; 1 not read yet.',
  )
  expect(noteInWords({ release: 3, partG: null, damage: 'torn' })).toBe(
    'came off with a tool, damage: torn, part not weighed',
  )
  expect(freeName('Vane', new Set(['Vane', 'Vane, print 2']))).toBe('Vane, print 3')
  // A ring around a hole: its middle is no place of it.
  const ring = {
    atMm: [0, 0, 0] as const,
    outline: [
      [-10, -10, 10, -10, 10, 10, -10, 10],
      [-8, -8, -8, 8, 8, 8, 8, -8],
    ],
  }
  const [x, y] = placeInside(ring)
  expect(Math.max(Math.abs(x), Math.abs(y))).toBeGreaterThan(8)
  expect(Math.max(Math.abs(x), Math.abs(y))).toBeLessThan(10)
})
