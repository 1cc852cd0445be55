import type { Printer, StoredFilament } from '@tender/contract'
import styled from 'styled-components'
import { useRemove, useSave } from '../../api/useShelf'
import { counted, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { Num, SoftLine } from '../../ui/Sheet'
import { PrinterDrawing } from './PrinterDrawing'
import { length } from '../../theme/measures'

const NOTHING = 'nothing'

/** One printer: its drawing, its facts, and which spool sits where. */
export function PrinterCard({
  printer,
  filaments,
  onEdit,
}: {
  printer: Printer
  filaments: readonly StoredFilament[]
  onEdit: () => void
}) {
  const remove = useRemove('printers')
  const save = useSave('printers')
  const { name, feed, loads, nozzleMm, bedMm, heightMm, wallMmS, accelMmS2 } = printer
  const spools = filaments.flatMap((filament) => filament.spools.map((spool) => ({ spool, filament })))
  const loaded = Array.from(
    { length: loads },
    (_, slot) => spools.find(({ spool }) => spool.id === printer.loaded[slot]) ?? null,
  )
  const options = [
    { value: NOTHING, label: 'nothing' },
    ...spools.map(({ spool, filament }) => ({
      value: spool.id,
      label: [filament.name, spool.label || spool.lot].filter(Boolean).join(', '),
      swatch: spool.colour ?? filament.colour,
    })),
  ]
  const load = (slot: number, spoolId: string) => {
    const { id, revision, updatedAt: _, ...input } = printer
    // A spool sits in one place only.
    const next = Array.from({ length: loads }, (_, i) =>
      i === slot
        ? spoolId === NOTHING
          ? null
          : spoolId
        : (printer.loaded[i] ?? null) === spoolId
          ? null
          : (printer.loaded[i] ?? null),
    )
    save.mutate({ id, revision, input: { ...input, loaded: next } })
  }
  return (
    <Card>
      <PrinterDrawing
        printer={printer}
        loaded={loaded.map((one) => one && (one.spool.colour ?? one.filament.colour))}
      />
      <div>
        <h3>{name}</h3>
        <p>
          {feed === 'changer'
            ? `One nozzle of ${three(nozzleMm)} mm, fed by a changer with ${counted(loads, 'slot')}`
            : `${counted(loads, 'nozzle')} of ${three(nozzleMm)} mm ${feed === 'nozzles' ? 'on one carriage' : 'on carriages of their own'}`}
        </p>
        <SoftLine>
          <Num>
            {three(bedMm[0])} × {three(bedMm[1])} × {three(heightMm)}
          </Num>{' '}
          mm, walls at <Num>{three(wallMmS)}</Num> mm/s, acceleration <Num>{three(accelMmS2)}</Num> mm/s²
        </SoftLine>
      </div>
      <Slots>
        {loaded.map((one, slot) => (
          <Choice
            key={slot}
            label={`${feed === 'changer' ? 'Slot' : 'Nozzle'} ${slot + 1}`}
            value={one?.spool.id ?? NOTHING}
            onChange={(spool) => load(slot, spool)}
            options={options}
          />
        ))}
      </Slots>
      <FormProblem error={save.error} />
      <Row>
        <Button onPress={onEdit} aria-label={`Change ${name}`}>
          Change
        </Button>
        <Button quiet onPress={() => remove.mutate({ id: printer.id, name })} aria-label={`Remove ${name}`}>
          Remove
        </Button>
      </Row>
    </Card>
  )
}

const Card = styled.article`
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  padding: ${({ theme }) => `${theme.space.m} 0`};
  & + & {
    border-top: ${({ theme }) => theme.border.faint};
  }
  > svg {
    max-width: ${length.xl};
  }
  h3 {
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.serif}`};
  }
`
const Slots = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${length.s}, 1fr));
  gap: ${({ theme }) => theme.space.s};
`
const Row = styled.div`
  display: flex;
  gap: ${({ theme }) => theme.space.s};
`
