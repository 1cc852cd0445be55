import { PrinterInput, type Printer } from '@tender/contract'
import { FAN_SIDES, PLAIN_PRINTER, thicknessOf, type Feed } from '@tender/core/bench'
import { BLOCK_WORDS, unknownWords } from '@tender/core/print'
import { useState } from 'react'
import { Controller, useForm, type Path } from 'react-hook-form'
import styled from 'styled-components'
import { newId } from '../../keep/newId'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { Dialog, Fields, FormFoot } from '../../ui/Dialog'
import { Choice, Segments, TextArea, Toggle } from '../../ui/fields'
import { FormNumber, FormText } from '../../ui/FormFields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle, SoftLine } from '../../ui/Sheet'
import { zodForm } from '../../ui/zodForm'
import { ConflictNote } from '../../ui/ConflictNote'

type Row = { name: Path<PrinterInput>; label: string; unit?: string }

const ROOM: readonly Row[] = [
  { name: 'nozzleMm', label: 'Nozzle diameter', unit: 'mm' },
  { name: 'bedMm.0', label: 'Bed, left to right', unit: 'mm' },
  { name: 'bedMm.1', label: 'Bed, front to back', unit: 'mm' },
  { name: 'heightMm', label: 'Height', unit: 'mm' },
  { name: 'headAroundMm', label: 'Room of the head around its nozzle', unit: 'mm' },
  { name: 'barAboveMm', label: 'Bar above the nozzle’s tip', unit: 'mm' },
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
  { name: 'wipeMm', label: 'Wipe before lifting away', unit: 'mm' },
  { name: 'swapS', label: 'One swap, without purging', unit: 's' },
  { name: 'purgeMm3S', label: 'Purging', unit: 'mm³/s' },
  { name: 'minLayerS', label: 'Shortest layer', unit: 's' },
]

const OFFSET: readonly Row[] = [
  { name: 'offsetMm.0', label: 'Second nozzle, X', unit: 'mm' },
  { name: 'offsetMm.1', label: 'Second nozzle, Y', unit: 'mm' },
  { name: 'offsetMm.2', label: 'Second nozzle, Z', unit: 'mm' },
]
const BLOCKS = [
  { name: 'startGcode', label: 'Before the first line' },
  { name: 'swapGcode', label: 'At each swap' },
  { name: 'endGcode', label: 'After the last line' },
] as const
/** What the choice asks of later steps. */
const MEANS: Record<Feed, string> = {
  nozzles:
    'The idle nozzle travels along and may ooze: it is wiped and primed at each swap, and its offset has to be right.',
  carriages: 'The idle nozzle parks away: it is primed at each swap, and its offset has to be right.',
  changer:
    'Both come through one nozzle: what is left of the old one must be purged at each swap. There is no offset.',
}

/** Adds a printer or changes one. */
export function PrinterDialog({ printer, onClose }: { printer: Printer | null; onClose: () => void }) {
  const save = useSave('printers')
  const [identity] = useState(() => ({
    id: printer?.id ?? newId(),
    revision: printer?.revision ?? null,
  }))
  const {
    id: _,
    revision: __,
    updatedAt: ___,
    ...given
  } = printer ?? { ...PLAIN_PRINTER, revision: 0, updatedAt: '', layerMm: null, loaded: [], name: '' }
  const { control, handleSubmit, watch, setValue } = useForm<PrinterInput>({
    resolver: zodForm(PrinterInput as never),
    defaultValues: { ...given, bedMm: [...given.bedMm], offsetMm: [...given.offsetMm] },
  })
  const [feed, layers, nozzleMm] = [watch('feed'), watch('layerMm'), watch('nozzleMm')]
  const number = ({ name, label, unit }: Row) => (
    <FormNumber key={name} control={control} name={name} label={label} unit={unit} />
  )
  const submit = handleSubmit((input) => save.mutate({ ...identity, input }, { onSuccess: onClose }))
  return (
    <Dialog
      title={printer ? `Change ${printer.name}` : 'A printer for the bench'}
      open
      onClose={onClose}
      wide
    >
      <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
        <FormText control={control} name="name" label="Name" autoFocus />
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
                  { value: 'nozzles', label: 'a nozzle beside the first' },
                  { value: 'carriages', label: 'a carriage of its own' },
                  { value: 'changer', label: 'a changer' },
                ]}
              />
            )}
          />
          {number({ name: 'loads', label: feed === 'changer' ? 'Slots of the changer' : 'Nozzles' })}
        </Fields>
        <SoftLine>{MEANS[feed]}</SoftLine>
        <Fields>{ROOM.map(number)}</Fields>
        <SheetTitle as="h3">Nozzles and cooling</SheetTitle>
        <Fields>
          {feed !== 'changer' && OFFSET.map(number)}
          <Controller
            control={control}
            name="fanSide"
            render={({ field }) => (
              <Choice
                label="The fan blows from"
                value={field.value}
                onChange={field.onChange}
                options={FAN_SIDES.map((side) => ({
                  value: side,
                  label: side === 'around' ? 'all around' : `the ${side}`,
                }))}
              />
            )}
          />
        </Fields>
        <Toggle
          value={layers !== null}
          onChange={(own) =>
            setValue(
              'layerMm',
              own
                ? ([...thicknessOf({ nozzleMm, layerMm: null })].map((mm) => Number(mm.toFixed(3))) as [
                    number,
                    number,
                  ])
                : null,
            )
          }
        >
          This nozzle’s thinnest and thickest layer are known
        </Toggle>
        {layers !== null ? (
          <Fields>
            {number({ name: 'layerMm.0', label: 'Thinnest layer', unit: 'mm' })}
            {number({ name: 'layerMm.1', label: 'Thickest layer', unit: 'mm' })}
          </Fields>
        ) : (
          <SoftLine>
            Otherwise plans go by its diameter:{' '}
            {thicknessOf({ nozzleMm, layerMm: null })
              .map((mm) => mm.toFixed(2))
              .join(' to ')}{' '}
            mm.
          </SoftLine>
        )}
        <SheetTitle as="h3">Speeds and moves</SheetTitle>
        <Fields>{MOTION.map(number)}</Fields>
        <details>
          <summary>G-code of coupons: its start, swap and end</summary>
          <Blocks>
            <Controller
              control={control}
              name="extrusion"
              render={({ field }) => (
                <Segments
                  label="Extrusion counted"
                  value={field.value}
                  onChange={field.onChange}
                  options={[
                    { value: 'relative', label: 'from the last move' },
                    { value: 'absolute', label: 'from the start' },
                  ]}
                />
              )}
            />
            {BLOCKS.map(({ name, label }) => (
              <Controller
                key={name}
                control={control}
                name={name}
                render={({ field, fieldState }) => {
                  const unknown = unknownWords(field.value)
                  return (
                    <TextArea
                      label={label}
                      value={field.value}
                      onChange={field.onChange}
                      error={fieldState.error?.message}
                      description={
                        unknown.length > 0
                          ? `Nothing here is called {${unknown.join('}, {')}}; it is left as it stands.`
                          : undefined
                      }
                    />
                  )
                }}
              />
            ))}
            <SoftLine>
              In braces, filled in: {BLOCK_WORDS.map((word) => `{${word}}`).join(' ')}. “Other” is the
              filament not in use.
            </SoftLine>
          </Blocks>
        </details>
        <ConflictNote error={save.error} />
        <FormProblem error={save.error} />
        <FormFoot>
          <Button main type="submit" isDisabled={save.isPending}>
            {printer ? 'Save' : 'Put it on the bench'}
          </Button>
          <Button onPress={onClose}>Cancel</Button>
        </FormFoot>
      </form>
    </Dialog>
  )
}

const Blocks = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  margin-top: ${({ theme }) => theme.space.s};
`
