/** @jest-environment jsdom */
import { expect, test } from '@jest/globals'
import { NOTHING_NOTED, WHOLE, type StoredTakeOff } from '@tender/contract'
import { screen } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { aTakeOff, idOf } from '../../testing/samples'
import { PretendServer, show } from '../../testing/view'
import { BedPage } from './BedPage'

const bed = idOf(80)
const variant = (
  n: number,
  name: string,
  upperGapMm: number,
  changes: Partial<StoredTakeOff> = {},
): StoredTakeOff => {
  const plain = aTakeOff()
  return {
    ...plain,
    id: idOf(40 + n),
    name: `Vane pivot, ${name}`,
    bed: { id: bed, dots: n },
    document: { ...plain.document, name, decisions: { ...plain.document.decisions, upperGapMm } },
    ...changes,
  }
}
const at = (path: string, items: StoredTakeOff[]) => {
  new PretendServer(({ query }) => {
    const own = items.filter(({ bed: of }) => of?.id === new URLSearchParams(query).get('bed'))
    return { body: { items: own, total: own.length } }
  })
  return show(
    <Routes>
      <Route path="/take-offs/bed/:id" element={<BedPage />} />
    </Routes>,
    path,
  )
}

test('variants of one bed stand in the order of their dots, with what differed and how each came off', async () => {
  at(`/take-offs/bed/${bed}`, [
    variant(2, 'wide', 0.3, {
      notes: [
        { at: 'c1', revision: 1, ...NOTHING_NOTED, release: 1, finish: 4 },
        { at: WHOLE, revision: 1, ...NOTHING_NOTED, minutes: 6, partG: 21 },
      ],
    }),
    variant(1, 'tight', 0.15),
    aTakeOff({ id: idOf(49), name: 'Another bed' }),
  ])
  await screen.findByRole('heading', { level: 1, name: /^Vane pivot, 2 variants of 21 Nov/ })
  expect(screen.getAllByRole('columnheader').map((one) => one.textContent)).toEqual([
    'What',
    '● tight',
    '●● wide',
  ])
  const cells = (name: RegExp) =>
    [...screen.getByRole('row', { name }).querySelectorAll('td')].map((cell) => cell.textContent)
  // What is alike in both is no row.
  expect(cells(/^Upper gap/)).toEqual(['0.15\u202fmm', '0.30\u202fmm'])
  expect(screen.queryByRole('row', { name: /^Lower gap/ })).toBeNull()
  expect(cells(/^How it came off/)).toEqual([
    'None of 2 contacts read yet.',
    '1 of 1 came off by hand or by themselves, 0 of 1 face is fine; 1 not read yet.',
  ])
  expect(cells(/^Minutes/)).toEqual(['–', '6\u202fmin'])
  expect(cells(/^Part weighs/)).toEqual(['–', '21.0\u202fg'])
})

test('a bed of which nothing is left says so', async () => {
  at(`/take-offs/bed/${idOf(81)}`, [variant(1, 'tight', 0.15)])
  expect(await screen.findByRole('heading', { level: 1, name: 'A bed that is not here' })).toBeTruthy()
})
