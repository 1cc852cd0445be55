/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { PretendServer, show } from '../testing/view'
import { screen } from '@testing-library/react'
import { RouterProvider as AriaRouter } from 'react-aria-components'
import { aFilament, aPart, aPlan, aTrial, idOf } from '../testing/samples'
import { FindDialog } from './FindDialog'

function workshop() {
  const shelves: Record<string, unknown[]> = {
    '/parts': [aPart(), aPart({ id: idOf(71), name: 'Louvre shield plate' })],
    '/plans': [aPlan()],
    '/trials': [aTrial()],
    '/filaments': [aFilament(1, 'Chalk PLA')],
  }
  return new PretendServer(({ path, query }) => {
    const search = new URLSearchParams(query).get('search')!.toLowerCase()
    const items = (shelves[path] ?? []).filter((one) => JSON.stringify(one).toLowerCase().includes(search))
    return { body: { items, total: items.length } }
  })
}
const found = () =>
  screen
    .getAllByRole('menuitem')
    .map((item) => [item.querySelector('span')!.textContent, item.getAttribute('href')])

test('find: everything by name, whatever shelf it is on, and what can be done', async () => {
  workshop()
  const { user } = show(<FindDialog onClose={jest.fn()} />)
  await screen.findByRole('menuitem', { name: /Louvre/ })
  await user.keyboard('louv')
  expect(found()).toEqual([['Louvre shield plate', `/parts/${idOf(71)}`]])
  await user.clear(screen.getByRole('searchbox'))
  await user.keyboard('chalk')
  expect(found()).toEqual([
    ['Chalk on Chalk', `/trials/${idOf(50)}`],
    ['Chalk PLA', `/bench?filament=${idOf(1)}`],
  ])
  // A plan is found by its part as well.
  await user.clear(screen.getByRole('searchbox'))
  await user.keyboard('vane')
  expect(found().map(([, href]) => href)).toEqual([`/plans/${idOf(60)}`, `/parts/${idOf(70)}`])
  await user.clear(screen.getByRole('searchbox'))
  await user.keyboard('fan')
  expect(found()).toEqual([['Make an overhang fan', '/trials/new/fan']])
})

test('find: nothing of that name is said, and without a server what can be done is still there', async () => {
  workshop().unplugged = true
  const { user } = show(<FindDialog onClose={jest.fn()} />)
  expect(found().length).toBeGreaterThan(5)
  await user.keyboard('no such thing')
  expect(screen.getByText('Nothing here is called that.')).toBeTruthy()
})

test('find: arrow keys and Enter go there and close it; Escape closes it too', async () => {
  workshop()
  const [onClose, navigate] = [jest.fn(), jest.fn<(to: string) => void>()]
  const { user } = show(
    <AriaRouter navigate={navigate}>
      <FindDialog onClose={onClose} />
    </AriaRouter>,
  )
  await screen.findByRole('menuitem', { name: /Louvre/ })
  await user.keyboard('louv{ArrowDown}{Enter}')
  expect(onClose).toHaveBeenCalledTimes(1)
  expect(navigate.mock.calls[0][0]).toBe(`/parts/${idOf(71)}`)
  await user.keyboard('{Escape}{Escape}')
  expect(onClose.mock.calls.length).toBeGreaterThan(1)
})
