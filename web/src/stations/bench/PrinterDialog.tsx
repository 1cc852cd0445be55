import { PrinterFields, type Printer } from '@tender/contract'
import { PLAIN_PRINTER } from '@tender/core/bench'
import { useState } from 'react'
import { Controller, useForm, type Path } from 'react-hook-form'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { Buttons, Dialog, Fields } from '../../ui/Dialog'
import { NumberInput, Segments, TextInput } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle } from '../../ui/Sheet'
import { zodForm } from '../../ui/zodForm'
import { ConflictNote } from '../../ui/ConflictNote'

type Row = { name: Path<PrinterFields>; label: string; unit?: string }

const ROOM: readonly Row[] = [
  { name: 'nozzleMm', label: 'Nozzle diameter', unit: 'mm' },
  { name: 'bedMm.0', label: 'Bed, left to right', unit: 'mm' },
  { name: 'bedMm.1', label: 'Bed, front to back', unit: 'mm' },
  { name: 'heightMm', label: 'Height', unit: 'mm' },
]
const MOTION: readonly Row[] = [
  { name: 'wallMmS', label: 'Walls', unit: 'mm/s' },
  { name: 'fillMmS', label: 'Fill', unit: 'mm/s' },
  { name: 'standMmS', label: 'Stands', unit: 'mm/s' },
  { name: 'interfaceMmS', label: 'Interface layers', unit: 'mm/s' },
  { name: 'firstLayerMmS', label: 'First layer', unit: 'mm/s' },
  { name: 'travelMmS', label: 'Travel', unit: 'mm/s' },
  { name: 'accelMmS2', label: 'Acceleration', unit: 'mm/s²' },
  { name: 'cornerMmS', label: 'Sudden change at corners', unit: 'mm/s' },
  { name: 'retractS', label: 'One retraction', unit: 's' },
  { name: 'swapS', label: 'One swap, without purging', unit: 's' },
  { name: 'purgeMm3S', label: 'Purging', unit: 'mm³/s' },
  { name: 'minLayerS', label: 'Shortest layer', unit: 's' },
]

/** Adds a printer or changes one. */
export function PrinterDialog({ printer, onClose }: { printer: Printer | null; onClose: () => void }) {
  const save = useSave('printers')
  const [identity] = useState(() => ({ id: printer?.id ?? crypto.randomUUID(), revision: printer?.revision ?? null }))
  const { id: _, revision: __, updatedAt: ___, ...given } = printer ?? { id: '', revision: 0, updatedAt: '', ...PLAIN_PRINTER, name: '' }
  const { control, handleSubmit, watch } = useForm<PrinterFields>({ resolver: zodForm(PrinterFields), defaultValues: { ...given, bedMm: [...given.bedMm] } })
  const feed = watch('feed')
  const number = ({ name, label, unit }: Row) => (
    <Controller
      key={name}
      control={control}
      name={name}
      render={({ field, fieldState }) => <NumberInput label={label} unit={unit} value={field.value as number} onChange={field.onChange} error={fieldState.error?.message} />}
    />
  )
  const submit = handleSubmit((input) => save.mutate({ ...identity, input }, { onSuccess: onClose }))
  return (
    <Dialog title={printer ? `Change ${printer.name}` : 'A printer for the bench'} open onClose={onClose} wide>
      <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
        <Controller
          control={control}
          name="name"
          render={({ field, fieldState }) => <TextInput label="Name" value={field.value} onChange={field.onChange} error={fieldState.error?.message} autoFocus />}
        />
        <Fields>
          <Controller
            control={control}
            name="feed"
            render={({ field }) => (
              <Segments
                label="How a second filament gets to the part"
                value={field.value}
                onChange={field.onChange}
                options={[
                  { value: 'nozzles', label: 'its own nozzle' },
                  { value: 'changer', label: 'a changer' },
                ]}
              />
            )}
          />
          {number({ name: 'loads', label: feed === 'nozzles' ? 'Nozzles' : 'Slots of the changer' })}
        </Fields>
        <Fields>{ROOM.map(number)}</Fields>
        <SheetTitle as="h3">Speeds, for the time estimate</SheetTitle>
        <Fields>{MOTION.map(number)}</Fields>
        <ConflictNote error={save.error} />
        <FormProblem error={save.error} />
        <Buttons>
          <Button main type="submit" isDisabled={save.isPending}>
            {printer ? 'Save' : 'Put it on the bench'}
          </Button>
          <Button onPress={onClose}>Cancel</Button>
        </Buttons>
      </form>
    </Dialog>
  )
}
