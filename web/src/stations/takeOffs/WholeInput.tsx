import { WHOLE, type StoredNote, type StoredTakeOff, type TakeOffNote } from '@tender/contract'
import { TOOLS } from '@tender/core/takeOff'
import styled from 'styled-components'
import { duration, grams } from '../../format/numbers'
import { Chips } from '../../ui/Chips'
import { NumberInput, TextInput } from '../../ui/fields'
import { Sheet, SheetTitle } from '../../ui/Sheet'
import { ContactPhotos } from './ContactsInput'

/** What was noted of the whole print, beside what was planned. */
export function WholeInput({
  takeOff,
  note,
  onNote,
}: {
  takeOff: StoredTakeOff
  note: StoredNote
  onNote: (changes: Partial<TakeOffNote>) => void
}) {
  const { printed } = takeOff
  const planned = (of: 'partG' | 'wasteG') => grams(printed.grams.reduce((sum, one) => sum + one[of], 0))
  const number = (field: 'minutes' | 'partG' | 'wasteG') => (value: number) =>
    onNote({ [field]: Number.isFinite(value) ? value : null })
  return (
    <Frame aria-label="The whole print">
      <SheetTitle>The whole print</SheetTitle>
      <Chips label="Taken off with" value={note.tool} options={TOOLS} onChange={(tool) => onNote({ tool })} />
      <Numbers>
        <NumberInput
          label="Minutes"
          unit="min"
          value={note.minutes}
          min={0}
          max={10_000}
          onChange={number('minutes')}
          description={`guessed ${duration(60 * printed.minutes)}`}
        />
        <NumberInput
          label="Part weighs"
          unit="g"
          value={note.partG}
          min={0}
          max={100_000}
          onChange={number('partG')}
          description={`planned ${planned('partG')}`}
        />
        <NumberInput
          label="Thrown away"
          unit="g"
          value={note.wasteG}
          min={0}
          max={100_000}
          onChange={number('wasteG')}
          description={`planned ${planned('wasteG')}`}
        />
      </Numbers>
      <TextInput label="Note" value={note.note} onChange={(text) => onNote({ note: text.slice(0, 1000) })} />
      <ContactPhotos takeOff={takeOff} at={WHOLE} photos={takeOff.photos} called="the whole print" />
    </Frame>
  )
}

const Frame = styled(Sheet)`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
`
const Numbers = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: ${({ theme }) => theme.space.m};
`
