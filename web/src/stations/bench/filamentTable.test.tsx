/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { screen, within } from '@testing-library/react'
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
const filaments = [
  aFilament(1, 'Moss PETG', 'PETG', [spool(11, 'thin one', 120), spool(12, 'full one', 1000)]),
  aFilament(2, 'Chalk PLA', 'PLA'),
  aFilament(3, 'Dew PVA', 'PVA', [spool(13, 'sealed', 500)]),
]
const rows = () =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0].textContent!.trim())

test('filaments sort by a press on a head, spools stay under theirs, and what was never weighed stands last either way', async () => {
  new PretendServer(() => ({ body: null }))
  const { user } = show(<FilamentTable filaments={filaments} onEdit={jest.fn()} />)
  const asGiven = ['Moss PETG', 'thin one', 'full one', 'Chalk PLA', 'Dew PVA', 'sealed']
  expect(rows()).toEqual(asGiven)
  const left = screen.getByRole('columnheader', { name: 'left' })
  await user.click(within(left).getByRole('button'))
  const first = [left.getAttribute('aria-sort'), rows()]
  await user.click(within(left).getByRole('button'))
  const second = [left.getAttribute('aria-sort'), rows()]
  const up = ['Dew PVA', 'sealed', 'Moss PETG', 'thin one', 'full one', 'Chalk PLA']
  const down = ['Moss PETG', 'thin one', 'full one', 'Dew PVA', 'sealed', 'Chalk PLA']
  expect([first, second]).toEqual(
    expect.arrayContaining([
      ['ascending', up],
      ['descending', down],
    ]),
  )
  await user.click(within(screen.getByRole('columnheader', { name: 'Name' })).getByRole('button'))
  expect(rows()).toEqual(['Chalk PLA', 'Dew PVA', 'sealed', 'Moss PETG', 'thin one', 'full one'])
})
