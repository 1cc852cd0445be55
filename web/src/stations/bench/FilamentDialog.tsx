import { FilamentInput, type StoredFilament } from '@tender/contract'
import { FAMILIES, plainFilament, type Family } from '@tender/core/bench'
import { useState } from 'react'
import { Controller, useFieldArray, useForm, type Path } from 'react-hook-form'
import styled from 'styled-components'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog, Fields } from '../../ui/Dialog'
import { Choice, NumberInput, TextInput } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle, SoftLine } from '../../ui/Sheet'
import { zodForm } from '../../ui/zodForm'

const startOf = (name: string, family: Family, colour: string): FilamentInput => {
  const { gramsLeft: _, ...plain } = plainFilament(name, family, colour)
  return { ...plain, spools: [] }
}

/** Adds a filament with its spools, or changes one. Choosing a family fills in its usual numbers. */
export function FilamentDialog({ filament, onClose }: { filament: StoredFilament | null; onClose: () => void }) {
  const save = useSave('filaments')
  const [identity] = useState(() => ({ id: filament?.id ?? crypto.randomUUID(), revision: filament?.revision ?? null }))
  const { id: _, revision: __, updatedAt: ___, ...given } = filament ?? { id: '', revision: 0, updatedAt: '', ...startOf('', 'PLA', '#9aa0a6') }
  const { control, handleSubmit, setValue, getValues } = useForm<FilamentInput>({ resolver: zodForm(FilamentInput), defaultValues: given })
  const spools = useFieldArray({ control, name: 'spools' })
  const number = (name: Path<FilamentInput>, label: string, unit: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => <NumberInput label={label} unit={unit} value={field.value as number} onChange={field.onChange} error={fieldState.error?.message} />}
    />
  )
  const takeFamily = (family: Family) => {
    const { name, colour } = getValues()
    const usual = startOf(name, family, colour)
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
          <SpoolRow key={spool.id}>
            <Controller
              control={control}
              name={`spools.${i}.label`}
              render={({ field, fieldState }) => <TextInput label="Note" value={field.value} onChange={field.onChange} error={fieldState.error?.message} />}
            />
            {number(`spools.${i}.gramsLeft`, 'Left on it', 'g')}
            <Button onPress={() => spools.remove(i)} aria-label={`Take spool ${i + 1} away`}>
              Take away
            </Button>
          </SpoolRow>
        ))}
        <Buttons>
          <Button onPress={() => spools.append({ label: '', gramsLeft: 1000 })}>Add a spool</Button>
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
const SpoolRow = styled.div`
  display: grid;
  grid-template-columns: 2fr 1fr auto;
  gap: ${({ theme }) => theme.space.s};
  align-items: end;
`
