import { FilamentInput, type SpoolFields, type StoredFilament } from '@tender/contract'
import { FAMILIES, plainFilament, type Family, type FamilyBook } from '@tender/core/bench'
import { useState } from 'react'
import { Controller, useFieldArray, useForm, type Path } from 'react-hook-form'
import styled from 'styled-components'
import { useBook } from '../../api/useFamilies'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog, Fields } from '../../ui/Dialog'
import { Choice, NumberInput, TextInput, Toggle } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle, SoftLine } from '../../ui/Sheet'
import { zodForm } from '../../ui/zodForm'

const startOf = (name: string, family: Family, colour: string, book?: FamilyBook): FilamentInput => {
  const { gramsLeft: _grams, lots: _lots, ...plain } = plainFilament(name, family, colour, book)
  return { ...plain, spools: [] }
}

const newSpool = (): SpoolFields => ({ id: crypto.randomUUID(), label: '', lot: '', gramsLeft: 1000, emptyG: null, pricePerKg: null, colour: null, openedOn: null, driedOn: null, damp: false })

/** Adds a filament with its spools, or changes one. Choosing a family fills in its usual numbers. */
export function FilamentDialog({ filament, onClose }: { filament: StoredFilament | null; onClose: () => void }) {
  const save = useSave('filaments')
  const book = useBook()
  const [identity] = useState(() => ({ id: filament?.id ?? crypto.randomUUID(), revision: filament?.revision ?? null }))
  const { id: _, revision: __, updatedAt: ___, ...given } = filament ?? { id: '', revision: 0, updatedAt: '', ...startOf('', 'PLA', '#9aa0a6', book) }
  const { control, handleSubmit, setValue, getValues } = useForm<FilamentInput>({ resolver: zodForm(FilamentInput as never), defaultValues: given })
  const spools = useFieldArray({ control, name: 'spools', keyName: 'key' })
  const number = (name: Path<FilamentInput>, label: string, unit: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => <NumberInput label={label} unit={unit} value={field.value as number} onChange={field.onChange} error={fieldState.error?.message} />}
    />
  )
  const text = (name: Path<FilamentInput>, label: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => <TextInput label={label} value={field.value as string} onChange={field.onChange} error={fieldState.error?.message} />}
    />
  )
  const day = (name: Path<FilamentInput>, label: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <TextInput label={label} type="date" value={(field.value as string | null) ?? ''} onChange={(value) => field.onChange(value === '' ? null : value)} error={fieldState.error?.message} />
      )}
    />
  )
  const optional = (name: Path<FilamentInput>, label: string, unit: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <NumberInput label={label} unit={unit} value={field.value as number | null} onChange={(value) => field.onChange(Number.isFinite(value) ? value : null)} error={fieldState.error?.message} />
      )}
    />
  )
  const takeFamily = (family: Family) => {
    const { name, colour } = getValues()
    const usual = startOf(name, family, colour, book)
    setValue('family', family)
    for (const key of ['densityGcm3', 'nozzleC', 'bedC'] as const) setValue(key, usual[key])
  }
  const submit = handleSubmit((input) => save.mutate({ ...identity, input }, { onSuccess: onClose }))
  return (
    <Dialog title={filament ? `Change ${filament.name}` : 'A filament for the bench'} open onClose={onClose} wide>
      <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
        <Fields>
          <Controller
            control={control}
            name="name"
            render={({ field, fieldState }) => <TextInput label="Name" value={field.value} onChange={field.onChange} error={fieldState.error?.message} autoFocus />}
          />
          <Controller
            control={control}
            name="family"
            render={({ field }) => <Choice label="Family" value={field.value} onChange={takeFamily} options={FAMILIES.map((family) => ({ value: family, label: family }))} />}
          />
          <Controller
            control={control}
            name="colour"
            render={({ field }) => (
              <ColourField>
                <span>Colour</span>
                <input type="color" value={field.value} onChange={field.onChange} />
              </ColourField>
            )}
          />
          {number('densityGcm3', 'Density', 'g/cm³')}
          {number('diameterMm', 'Diameter', 'mm')}
          {number('pricePerKg', 'Price', 'per kg')}
          {number('nozzleC', 'Nozzle', '°C')}
          {number('bedC', 'Bed', '°C')}
        </Fields>
        <SheetTitle as="h3">Spools</SheetTitle>
        {spools.fields.length === 0 && <SoftLine>Without a spool nobody checks whether a plan has enough of it.</SoftLine>}
        {spools.fields.map((spool, i) => (
          <SpoolBox key={spool.key} role="group" aria-label={`Spool ${i + 1}`}>
            {text(`spools.${i}.label`, 'Note')}
            {text(`spools.${i}.lot`, 'Lot')}
            {number(`spools.${i}.gramsLeft`, 'Left on it', 'g')}
            {optional(`spools.${i}.emptyG`, 'Empty spool', 'g')}
            {day(`spools.${i}.openedOn`, 'Opened')}
            {day(`spools.${i}.driedOn`, 'Dried')}
            {optional(`spools.${i}.pricePerKg`, 'Price, if other', 'per kg')}
            <Controller
              control={control}
              name={`spools.${i}.damp`}
              render={({ field }) => (
                <Toggle value={field.value} onChange={field.onChange}>
                  Damp
                </Toggle>
              )}
            />
            <Button onPress={() => spools.remove(i)} aria-label={`Take spool ${i + 1} away`}>
              Take away
            </Button>
          </SpoolBox>
        ))}
        <Buttons>
          <Button onPress={() => spools.append(newSpool())}>Add a spool</Button>
        </Buttons>
        <ConflictNote error={save.error} />
        <FormProblem error={save.error} />
        <Buttons>
          <Button main type="submit" isDisabled={save.isPending}>
            {filament ? 'Save' : 'Put it on the bench'}
          </Button>
          <Button onPress={onClose}>Cancel</Button>
        </Buttons>
      </form>
    </Dialog>
  )
}

const ColourField = styled.label`
  display: grid;
  gap: 4px;
  align-content: start;
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
  input {
    width: 100%;
    height: 34px;
    padding: 3px;
    background: ${({ theme }) => theme.color.sheet};
    border: 1px solid ${({ theme }) => theme.color.line};
    border-radius: ${({ theme }) => theme.radius.s};
  }
`
const SpoolBox = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(128px, 1fr));
  gap: ${({ theme }) => theme.space.s};
  align-items: end;
  padding-bottom: ${({ theme }) => theme.space.m};
  border-bottom: 1px solid ${({ theme }) => theme.color.faint};
  label {
    min-height: 34px;
  }
`
