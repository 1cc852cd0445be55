/** @jest-environment jsdom */
import { beforeEach, expect, test } from '@jest/globals'
import type { BetterFound, BetterSearch } from '@tender/contract'
import { screen, waitFor, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { aFilament, aPlan, idOf } from '../../testing/samples'
import { PretendServer, show } from '../../testing/view'
import { BetterPage } from './BetterPage'

beforeEach(() => localStorage.clear())

const figures = {
  massG: 50,
  wasteG: 10,
  cost: 1.2,
  timeS: 7200,
  swapTimeS: 0,
  swaps: 0,
  pTender: 0.8,
  errors: 0,
}
// Its filament is one of the bench.
const plan: ReturnType<typeof aPlan> = JSON.parse(
  JSON.stringify(aPlan()).replaceAll('"Part PLA"', `"${idOf(1)}"`),
)
const found = (words: string, changes: Partial<BetterFound['figures']> = {}): BetterFound => ({
  words,
  figures: { ...figures, ...changes },
  release: 'comes out whole',
  unsteady: false,
  unheldMm2: 5,
  document: plan.document,
})
const asItIs = found('as it is')
const done = (better: BetterFound[], changes: Partial<BetterSearch> = {}): BetterSearch => ({
  id: idOf(30),
  partId: plan.partId,
  planId: plan.id,
  state: 'done',
  message: null,
  progress: 1,
  tried: 14,
  refused: 2,
  asItIs,
  found: better,
  ...changes,
})

function opened(search: BetterSearch | null) {
  const list = (items: unknown[]) => ({ body: { items, total: items.length } })
  const server = new PretendServer(({ method, path, body }) => {
    if (path === `/plans/${plan.id}`) return { body: plan }
    if (path.endsWith('/better/newest')) return { body: search }
    if (method === 'POST') return { body: done([], { asItIs: null, tried: 0, refused: 0, progress: 0 }) }
    if (method === 'PUT') return { body: { ...plan, ...(body as object), id: idOf(61) } }
    if (path === '/filaments') return list([aFilament(1, 'Part PLA'), aFilament(2, 'Moss PETG', 'PETG')])
    return list([])
  })
  const view = (
    <Routes>
      <Route path="/plans/:id/better" element={<BetterPage />} />
      <Route path="*" element={<p>elsewhere</p>} />
    </Routes>
  )
  return { server, ...show(view, `/plans/${plan.id}/better`) }
}

test('a search sends the plan as it is and changed in one thing each, with filaments of the bench', async () => {
  const { server, user } = opened(null)
  const button = await screen.findByRole('button', { name: 'Search' })
  await waitFor(() => expect(button.getAttribute('data-disabled')).toBeNull(), { timeout: 20_000 })
  await user.click(button)
  await waitFor(() => expect(server.changes).toHaveLength(1))
  const { planId, variations } = server.changes[0].body as {
    planId: string
    variations: { words: string; document: object }[]
  }
  expect(planId).toBe(plan.id)
  expect(variations[0]).toMatchObject({ words: 'as it is', document: plan.document })
  expect(variations.map(({ words }) => words)).toEqual(
    expect.arrayContaining(['branching stands', 'touched by Moss PETG']),
  )
})

test('what nothing beats is told by its differences, better and worse not by colour alone, and one can be taken', async () => {
  const { server, user } = opened(
    done([
      { ...found('branching stands', { massG: 38, timeS: 8400 }), unsteady: true },
      found('0.24 mm layers', { timeS: 5400, pTender: 0.7 }),
    ]),
  )
  const row = await screen.findByRole('row', { name: /^branching stands/ })
  expect(
    within(row)
      .getByText(/^−12\.0/)
      .getAttribute('data-better'),
  ).toBe('true')
  expect(screen.getAllByText(/comes out whole, unsteady while it is printed/)).toHaveLength(1)
  expect(within(row).getByText(/^\+20/).getAttribute('data-better')).toBe('false')
  expect(screen.getByRole('row', { name: /^as it is/ }).textContent).toContain('50.0\u202fg')
  expect(
    screen.getByText(
      /Of 14 plans worked out, these are better than the plan as it is\. 2 variations cannot be\./,
    ),
  ).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Take 0.24 mm layers' }))
  await waitFor(() => expect(server.changes.at(-1)).toMatchObject({ method: 'PUT' }))
  expect(server.changes.at(-1)!.body).toMatchObject({ partId: plan.partId, figures: { timeS: 5400 } })
  expect(await screen.findByText('elsewhere')).toBeTruthy()
})

test('when nothing beats the plan it says so; a search of another plan of the part is not this one’s', async () => {
  const { unmount } = opened(done([asItIs]))
  expect(await screen.findByText(/nothing beats the plan as it is in anything/)).toBeTruthy()
  expect(screen.getAllByRole('row')).toHaveLength(2)
  unmount()
  opened(done([asItIs], { planId: idOf(99), state: 'working' }))
  expect(await screen.findByText(/Another plan of this part is being searched/)).toBeTruthy()
  expect(screen.queryByRole('table')).toBeNull()
  expect(screen.getByRole('button', { name: 'Search' })).toBeTruthy()
})
