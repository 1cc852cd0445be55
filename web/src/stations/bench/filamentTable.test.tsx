/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import type { StoredFilament } from '@tender/contract'
import { screen, waitFor, within } from '@testing-library/react'
import { aFilament, idOf } from '../../testing/samples'
import { PretendServer, show } from '../../testing/view'
import { FilamentTable } from './FilamentTable'

const spool = (n: number, label: string, gramsLeft: number) => ({
  id: idOf(n),
  label,
  lot: '',
  openedOn: null,
  driedOn: null,
  damp: false,
  gramsLeft,
  emptyG: 200,
  colour: null,
  pricePerKg: null,
})
const few = [
  aFilament(1, 'Moss PETG', 'PETG', [spool(11, 'thin one', 120), spool(12, 'full one', 1000)]),
  aFilament(2, 'Chalk PLA', 'PLA'),
  aFilament(3, 'Dew PVA', 'PVA', [spool(13, 'sealed', 500)]),
]
const rows = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0].textContent!.trim())

/** A server that orders by name and knows pages. */
const shelfOf = (filaments: readonly StoredFilament[]) =>
  new PretendServer(({ query }) => {
    const asked = new URLSearchParams(query)
    const [order, offset, limit] = [
      asked.get('order'),
      Number(asked.get('offset')),
      Number(asked.get('limit')),
    ]
    const sorted = filaments.toSorted((a, b) => a.name.localeCompare(b.name))
    if (order === '-name') sorted.reverse()
    return { body: { items: sorted.slice(offset, offset + limit), total: sorted.length } }
  })

test('a press on a head asks the server for another order and says which; spools stay under their filament', async () => {
  const server = shelfOf(few)
  const { user } = show(<FilamentTable onEdit={jest.fn()} />)
  await screen.findByText('Dew PVA')
  expect(rows()).toEqual(['Chalk PLA', 'Dew PVA', 'sealed', 'Moss PETG', 'thin one', 'full one'])
  const head = () => screen.getByRole('columnheader', { name: 'Name' })
  expect(head().getAttribute('aria-sort')).toBe('ascending')
  await user.click(within(head()).getByRole('button'))
  await waitFor(() =>
    expect(rows()).toEqual(['Moss PETG', 'thin one', 'full one', 'Dew PVA', 'sealed', 'Chalk PLA']),
  )
  expect(head().getAttribute('aria-sort')).toBe('descending')
  expect(server.asked.map(({ query }) => new URLSearchParams(query).get('order'))).toEqual(['name', '-name'])
})

test('of ten thousand filaments sixty are asked for and drawn, and sixty more with each press', async () => {
  const server = shelfOf(
    Array.from({ length: 10_000 }, (_, n) => aFilament(n, `Filament ${String(n).padStart(5, '0')}`)),
  )
  const { user } = show(<FilamentTable onEdit={jest.fn()} />)
  await screen.findByText('Filament 00059')
  expect(rows()).toHaveLength(60)
  await user.click(screen.getByRole('button', { name: 'Show more of 10000, 60 shown' }))
  await screen.findByText('Filament 00119')
  expect(rows()).toHaveLength(120)
  expect(server.asked).toHaveLength(2)
})
