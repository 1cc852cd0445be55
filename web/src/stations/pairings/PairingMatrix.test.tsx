/** @jest-environment jsdom */
import { beforeEach, describe, expect, jest, test } from '@jest/globals'
import { PretendServer, show } from '../../testing/view'
import { screen } from '@testing-library/react'
import type { StoredFilament } from '@tender/contract'
import type { KnownPairing } from '@tender/core/pairing'
import { useState } from 'react'
import { aFilament } from '../../testing/samples'
import { PairingMatrix } from './PairingMatrix'

const known = (part: StoredFilament, touching: StoredFilament) =>
  ({
    cling: part.id === touching.id ? 4 : 1,
    source: part.id === touching.id ? 'measured' : 'guess',
    fit: { pTender: 0.62 },
  }) as unknown as KnownPairing
const onOpen = jest.fn()

function Matrix({ filaments }: { filaments: readonly StoredFilament[] }) {
  const [selected, setSelected] = useState({ part: filaments[1].id, touching: filaments[0].id })
  return (
    <PairingMatrix
      filaments={filaments}
      knownOf={known}
      selected={selected}
      onSelect={(part, touching) => setSelected({ part, touching })}
      onOpen={onOpen}
    />
  )
}

beforeEach(() => {
  onOpen.mockClear()
  new PretendServer(() => ({ body: null }))
})

const three = [aFilament(1, 'Chalk PLA'), aFilament(2, 'Moss PETG', 'PETG'), aFilament(3, 'Slate PLA')]
const here = () => document.activeElement!.textContent

describe('the matrix of pairings', () => {
  test('arrow keys walk it and stop at its edges; Home, End and Enter do what they say', async () => {
    const { user } = show(<Matrix filaments={three} />)
    await user.tab()
    expect(here()).toMatch(/^Moss PETG touched by Chalk PLA: cling 1 of 4, a guess/)
    await user.keyboard('{ArrowRight}')
    expect(here()).toMatch(/^Moss PETG on itself: cling 4 of 4, measured/)
    await user.keyboard('{ArrowUp}{ArrowUp}{ArrowUp}')
    expect(here()).toMatch(/^Chalk PLA touched by Moss PETG/)
    await user.keyboard('{End}')
    expect(here()).toMatch(/^Chalk PLA touched by Slate PLA/)
    await user.keyboard('{ArrowRight}{ArrowDown}{Home}')
    expect(here()).toMatch(/^Moss PETG touched by Chalk PLA/)
    await user.keyboard('{Enter}')
    expect(onOpen.mock.calls).toEqual([[three[1].id, three[0].id]])
  })

  test('only the current cell is a tab stop, and it alone is selected', async () => {
    const { user } = show(<Matrix filaments={three} />)
    await user.click(screen.getByRole('button', { name: /^Slate PLA touched by Moss PETG/ }))
    expect(screen.getAllByRole('gridcell', { selected: true }).map((cell) => cell.textContent)).toEqual([
      expect.stringMatching(/^Slate PLA touched by Moss PETG/),
    ])
    expect(screen.getAllByRole('button').filter((button) => button.tabIndex === 0)).toHaveLength(1)
  })

  test('a pairing that is gone leaves the first one current', () => {
    show(
      <PairingMatrix
        filaments={three}
        knownOf={known}
        selected={{ part: 'gone', touching: 'gone too' }}
        onSelect={jest.fn()}
        onOpen={onOpen}
      />,
    )
    expect(screen.getByRole('gridcell', { selected: true }).textContent).toMatch(/^Chalk PLA on itself/)
  })

  test('many filaments are small, with a gap before each family', () => {
    const many = Array.from({ length: 14 }, (_, i) =>
      aFilament(i + 1, `Filament ${i + 1}`, i < 7 ? 'PLA' : 'PETG'),
    )
    const { container } = show(<Matrix filaments={many} />)
    expect(
      [...container.querySelectorAll('tbody tr[data-family]')].map(
        (row) => row.querySelector('th')!.textContent,
      ),
    ).toEqual(['Filament 1', 'Filament 8'])
  })
})
