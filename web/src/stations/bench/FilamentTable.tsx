import type { SpoolFields, StoredFilament } from '@tender/contract'
import { useState } from 'react'
import styled from 'styled-components'
import { useRemove } from '../../api/useShelf'
import { day, grams, money, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Swatch } from '../../ui/fields'
import { Soft, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { WeighDialog } from './WeighDialog'
import { length } from '../../theme/measures'

/** Filaments, each with its spools under it. */
export function FilamentTable({
  filaments,
  onEdit,
}: {
  filaments: readonly StoredFilament[]
  onEdit: (id: string) => void
}) {
  const remove = useRemove('filaments')
  const [weighing, setWeighing] = useState<{ filament: StoredFilament; spool: SpoolFields } | null>(null)
  return (
    <Scroll>
      <Table>
        <thead>
          <tr>
            <th>Name</th>
            <th>Family</th>
            <th className="right">left</th>
            <th className="right">per kg</th>
            <th className="right">nozzle, bed</th>
            <th>
              <Unseen>What can be done</Unseen>
            </th>
          </tr>
        </thead>
        {filaments.map((one) => (
          <tbody key={one.id}>
            <tr>
              <td>
                <Named>
                  <Swatch style={{ background: one.colour }} /> {one.name}
                </Named>
              </td>
              <td>{one.family}</td>
              <td className="right">
                {one.spools.length === 0 ? (
                  <Soft>not weighed</Soft>
                ) : (
                  grams(one.spools.reduce((sum, spool) => sum + spool.gramsLeft, 0))
                )}
              </td>
              <td className="right">{money(one.pricePerKg)}</td>
              <td className="right">
                {three(one.nozzleC)}, {three(one.bedC)} °C
              </td>
              <td className="right">
                <Button onPress={() => onEdit(one.id)} aria-label={`Change ${one.name}`}>
                  Change
                </Button>{' '}
                <Button
                  quiet
                  onPress={() => remove.mutate({ id: one.id, name: one.name })}
                  aria-label={`Remove ${one.name}`}
                >
                  Remove
                </Button>
              </td>
            </tr>
            {one.spools.map((spool, i) => (
              <SpoolRow key={spool.id}>
                <td colSpan={2}>
                  <SoftLine as="span">{about(spool)}</SoftLine>
                </td>
                <td className="right">{grams(spool.gramsLeft)}</td>
                <td className="right">{spool.pricePerKg !== null && money(spool.pricePerKg)}</td>
                <td />
                <td className="right">
                  <Button
                    quiet
                    onPress={() => setWeighing({ filament: one, spool })}
                    aria-label={`Weigh spool ${i + 1} of ${one.name}`}
                  >
                    Weigh
                  </Button>
                </td>
              </SpoolRow>
            ))}
          </tbody>
        ))}
      </Table>
      {weighing && <WeighDialog {...weighing} onClose={() => setWeighing(null)} />}
    </Scroll>
  )
}

/** A spool in a line: what is written on it, when it was opened and dried, whether it is damp. */
function about({ label, lot, openedOn, driedOn, damp }: SpoolFields): string {
  const parts = [
    label,
    lot && `lot ${lot}`,
    openedOn && `opened ${day(openedOn)}`,
    driedOn && `dried ${day(driedOn)}`,
    damp && 'damp',
  ].filter(Boolean)
  return parts.length > 0 ? parts.join(', ') : 'a spool'
}

const Named = styled.span`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  font-weight: 500;
`
const SpoolRow = styled.tr`
  td {
    border-top: 0;
    padding-top: 0;
    padding-bottom: ${({ theme }) => theme.space.sm};
  }
  td:first-child {
    padding-left: ${({ theme }) => theme.space.xl};
  }
  button {
    min-height: ${length.small};
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.md}`};
  }
`
const Scroll = styled.div`
  overflow-x: auto;
`
