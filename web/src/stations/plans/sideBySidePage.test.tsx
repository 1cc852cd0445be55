/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { act, screen, waitFor } from '@testing-library/react'
import { aPart, aPlan, idOf } from '../../testing/samples'
import { PretendServer, show } from '../../testing/view'

const worked: ((answer: object) => void)[] = []
jest.unstable_mockModule('../../workers/geometry', () => ({
  planning: () => ({
    beside: () => new Promise((resolve) => worked.push(resolve)),
    section: async () => null,
  }),
  proxy: (told: unknown) => told,
}))
jest.unstable_mockModule('../../workers/useMesh', () => ({ useMesh: () => ({ data: 'mesh' }) }))

const outcome = (id: string, massG: number) => ({
  id,
  bounds: { minX: 0, minY: 0, minZ: 0, maxX: massG, maxY: 10, maxZ: 10 },
  heightMm: 60 - massG,
  undersides: 0,
  summary: {
    estimate: { massG, wasteG: 1, cost: massG / 50 },
    timeS: 60 * massG,
    swaps: 0,
    pTender: null,
    warnings: massG > 40 ? [{ code: 'UNSTEADY', severity: 'warning', message: 'It bends.' }] : [],
    contacts: [],
  },
  release: { verdict: 'comes out whole', stands: [{}] },
})

test('the best is told once all plans are known, by pictures of one scale; one that cannot be worked out says why, and is not waited for', async () => {
  const part = aPart()
  const plans = ['Chalk', 'Moss', 'Reed'].map((name, i) =>
    aPlan({ id: idOf(40 + i), partId: part.id, document: { ...aPlan().document, name } }),
  )
  new PretendServer(({ path }) => ({
    body: path.startsWith('/parts/') ? part : { items: plans, total: plans.length },
  }))
  const { SideBySidePage } = await import('./SideBySidePage')
  show(<SideBySidePage />)
  const grams = () => screen.getByRole('row', { name: /^Filament/ }).textContent
  const answer = async (value: object) => {
    const next = await waitFor(() => worked.shift() ?? Promise.reject(new Error('nothing is asked')))
    await act(async () => next(value))
  }
  await waitFor(() => expect(screen.getAllByRole('status', { name: /^Working out/ })).toHaveLength(3))
  await answer({ ok: true, value: outcome('a', 40) })
  expect(grams()).toMatch(/^Filament40\.0\sg––$/)
  await answer({ ok: false, code: 'TOO_LARGE', message: 'Moss is larger than the bed.' })
  expect(screen.getByRole('alert').textContent).toBe('Moss is larger than the bed.')
  expect(screen.getAllByRole('status', { name: /^Working out/ })).toHaveLength(1)
  expect(grams()).toMatch(/^Filament40\.0\sg––$/)
  await answer({ ok: true, value: outcome('c', 50) })
  expect(grams()).toMatch(/^Filament40\.0\sg, the best–50\.0\sg$/)
  expect(screen.getByRole('row', { name: /^While it is printed/ }).textContent).toMatch(
    /none told unsteady, the best–a nozzle may push some over$/,
  )
  // As wide as the one and as tall as the other, with a margin of 6 mm.
  const frames = screen.getAllByRole('img').map((picture) => picture.getAttribute('viewBox'))
  expect(frames).toEqual(['-6 -26 62 32', '-6 -26 62 32'])
})
