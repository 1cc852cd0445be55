import type { StoredFilament } from '@tender/contract'
import type { KnownPairing } from '@tender/core/pairing'
import { useRef, type KeyboardEvent } from 'react'
import styled from 'styled-components'
import { chance } from '../../format/numbers'
import { Swatch } from '../../ui/fields'
import { Sideways, Unseen } from '../../ui/Sheet'
import { PairingCell } from './PairingCell'
import { above, at, length, space } from '../../theme/measures'

/** From here on cells are small and families get headings. */
const MANY = 12

type Props = {
  filaments: readonly StoredFilament[]
  knownOf: (part: StoredFilament, touching: StoredFilament) => KnownPairing
  selected: { readonly part: string; readonly touching: string }
  onSelect: (part: string, touching: string) => void
  onOpen: (part: string, touching: string) => void
}

/** Every filament touched by every other. Arrow keys move over it, Enter opens the pairing. */
export function PairingMatrix({ filaments, knownOf, selected, onSelect, onOpen }: Props) {
  const cells = useRef(new Map<string, HTMLButtonElement>())
  const small = filaments.length > MANY
  const at = (id: string) =>
    Math.max(
      0,
      filaments.findIndex((one) => one.id === id),
    )
  const [row, column] = [at(selected.part), at(selected.touching)]
  const go = (toRow: number, toColumn: number) => {
    const clamp = (value: number) => Math.max(0, Math.min(filaments.length - 1, value))
    const [part, touching] = [filaments[clamp(toRow)].id, filaments[clamp(toColumn)].id]
    onSelect(part, touching)
    cells.current.get(part + touching)?.focus()
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const moves: Record<string, readonly [number, number]> = {
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
    }
    const move = moves[event.key]
    if (move) go(row + move[0], column + move[1])
    else if (event.key === 'Home') go(row, 0)
    else if (event.key === 'End') go(row, filaments.length - 1)
    else if (event.key === 'Enter') onOpen(filaments[row].id, filaments[column].id)
    else return
    event.preventDefault()
  }
  const startsFamily = (i: number) => small && (i === 0 || filaments[i].family !== filaments[i - 1].family)
  return (
    <Scroll data-small={small || undefined} tabIndex={-1}>
      <table role="grid" aria-label="Parts in rows, what touches them in columns" onKeyDown={onKeyDown}>
        <thead>
          <tr>
            <th scope="col">
              <Corner>part, touched by</Corner>
            </th>
            {filaments.map((one, i) => (
              <th key={one.id} scope="col" data-family={startsFamily(i) || undefined}>
                <ColumnName data-small={small || undefined}>
                  {small && <Swatch style={{ background: one.colour }} />}
                  <span>{one.name}</span>
                </ColumnName>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {filaments.map((part, r) => (
            <tr key={part.id} data-family={startsFamily(r) || undefined}>
              <th scope="row">
                <RowName>
                  <span>{part.name}</span>
                  <Swatch style={{ background: part.colour }} />
                </RowName>
              </th>
              {filaments.map((touching, c) => {
                const known = knownOf(part, touching)
                const current = r === row && c === column
                return (
                  <td
                    key={touching.id}
                    role="gridcell"
                    aria-selected={current}
                    data-family={startsFamily(c) || undefined}
                  >
                    <Cell
                      ref={(node) =>
                        void (node
                          ? cells.current.set(part.id + touching.id, node)
                          : cells.current.delete(part.id + touching.id))
                      }
                      type="button"
                      tabIndex={current ? 0 : -1}
                      data-measured={known.source === 'measured' || undefined}
                      data-current={current || undefined}
                      onClick={() => onSelect(part.id, touching.id)}
                      onDoubleClick={() => onOpen(part.id, touching.id)}
                    >
                      <Unseen>{spoken(part, touching, known)}</Unseen>
                      <PairingCell known={known} small={small} />
                    </Cell>
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  )
}

function spoken(
  part: StoredFilament,
  touching: StoredFilament,
  { cling, source, fit }: KnownPairing,
): string {
  const pair = part.id === touching.id ? `${part.name} on itself` : `${part.name} touched by ${touching.name}`
  return `${pair}: cling ${cling} of 4, ${source === 'measured' ? `measured, ${chance(fit.pTender)} come off clean` : `a guess, ${chance(fit.pTender)}`}`
}

const Scroll = styled(Sideways)`
  overflow: auto;
  max-height: calc(100vh - ${above.matrix});
  outline: 0;
  table {
    border-collapse: separate;
    border-spacing: ${space.sm};
  }
  &[data-small] table {
    border-spacing: ${length.rule};
  }
  th {
    font: 400 ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
    background: ${({ theme }) => theme.color.sheet};
    position: sticky;
  }
  thead th {
    top: 0;
    z-index: 2;
    vertical-align: bottom;
  }
  tbody th,
  thead th:first-child {
    left: 0;
    z-index: 1;
    text-align: right;
  }
  thead th:first-child {
    z-index: 3;
  }
  td {
    padding: 0;
  }
  &[data-small] [data-family]:not(tr) {
    padding-left: ${({ theme }) => theme.space.s};
  }
  &[data-small] tr[data-family] > * {
    padding-top: ${({ theme }) => theme.space.s};
  }
`
const Corner = styled.span`
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
`
const ColumnName = styled.span`
  display: block;
  max-width: ${length.xs};
  margin: 0 auto;
  text-align: center;
  &[data-small] {
    writing-mode: vertical-rl;
    rotate: 180deg;
    display: flex;
    gap: ${({ theme }) => theme.space.xs};
    align-items: center;
    justify-content: flex-start;
    max-height: ${length.s};
    font-size: ${({ theme }) => theme.size.small};
    white-space: nowrap;
    text-align: left;
  }
`
const RowName = styled.span`
  display: flex;
  gap: ${({ theme }) => theme.space.s};
  align-items: center;
  justify-content: flex-end;
  padding-right: ${({ theme }) => theme.space.sm};
  white-space: nowrap;
`
const Cell = styled.button`
  display: block;
  width: ${length.xs};
  height: ${length.xs};
  padding: 0;
  background: none;
  border: ${length.hair} dashed ${({ theme }) => theme.color.line};
  border-radius: ${({ theme }) => theme.radius.s};
  cursor: pointer;
  svg {
    display: block;
    width: 100%;
    height: 100%;
  }
  [data-small] & {
    width: ${length.control};
    height: ${length.control};
    border-radius: ${({ theme }) => theme.radius.xs};
  }
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
  &[data-measured] {
    border: ${length.rule} solid ${({ theme }) => theme.color.ink};
  }
  &[data-current] {
    border: ${length.rule} solid ${({ theme }) => theme.color.damson};
    background: ${({ theme }) => theme.color.damsonWash};
    @media ${at.forcedColors} {
      outline: ${length.rule} solid Highlight;
    }
  }
`
