import { FilamentInput, SpoolFields, type StoredFilament } from '@tender/contract'
import { FAMILIES, plainFilament, type Family, type FamilyBook } from '@tender/core/bench'
import { useState } from 'react'
import { Controller, useFieldArray, useForm, type Control } from 'react-hook-form'
import styled from 'styled-components'
import { newId } from '../../keep/newId'
import { useBook } from '../../api/useFamilies'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog, Fields, FormFoot } from '../../ui/Dialog'
import { Choice, Toggle } from '../../ui/fields'
import { FormDay, FormNumber, FormText } from '../../ui/FormFields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle, SoftLine } from '../../ui/Sheet'
import { zodForm } from '../../ui/zodForm'
import { length } from '../../theme/measures'

const startOf = (name: string, family: Family, colour: string, book?: FamilyBook): FilamentInput => {
  const { gramsLeft: _grams, lots: _lots, ...plain } = plainFilament(name, family, colour, book)
  return { ...plain, spools: [] }
}

const newSpool = (): SpoolFields => SpoolFields.parse({ id: newId(), label: '', gramsLeft: 1000 })

/** Adds a filament with its spools, or changes one. Choosing a family fills in its usual numbers. */
export function FilamentDialog({
  filament,
  onClose,
}: {
  filament: StoredFilament | null
  onClose: () => void
}) {
  const save = useSave('filaments')
  const book = useBook()
  const [identity] = useState(() => ({
    id: filament?.id ?? newId(),
    revision: filament?.revision ?? null,
  }))
  const {
    id: _,
    revision: __,
    updatedAt: ___,
    ...given
  } = filament ?? { id: '', revision: 0, updatedAt: '', ...startOf('', 'PLA', '#9aa0a6', book) }
  const { control, handleSubmit, setValue, getValues, watch } = useForm<FilamentInput>({
    resolver: zodForm(FilamentInput as never),
    defaultValues: given,
  })
  const spools = useFieldArray({ control, name: 'spools', keyName: 'key' })
  const takeFamily = (family: Family) => {
    const { name, colour } = getValues()
    const usual = startOf(name, family, colour, book)
    setValue('family', family)
    for (const key of ['densityGcm3', 'nozzleC', 'bedC'] as const) setValue(key, usual[key])
  }
  const submit = handleSubmit((input) => save.mutate({ ...identity, input }, { onSuccess: onClose }))
  return (
    <Dialog
      title={filament ? `Change ${filament.name}` : 'A filament for the bench'}
      open
      onClose={onClose}
      wide
    >
      <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
        <Fields>
          <FormText control={control} name="name" label="Name" autoFocus />
          <Controller
            control={control}
            name="family"
            render={({ field }) => (
              <Choice
                label="Family"
                value={field.value}
                onChange={takeFamily}
                options={FAMILIES.map((family) => ({ value: family, label: family }))}
              />
            )}
          />
          <Colour control={control} name="colour" label="Colour" />
          <FormNumber control={control} name="densityGcm3" label="Density" unit="g/cm³" />
          <FormNumber control={control} name="diameterMm" label="Diameter" unit="mm" />
          <FormNumber control={control} name="pricePerKg" label="Price" unit="per kg" />
          <FormNumber control={control} name="nozzleC" label="Nozzle" unit="°C" />
          <FormNumber control={control} name="bedC" label="Bed" unit="°C" />
        </Fields>
        <SheetTitle as="h3">Spools</SheetTitle>
        {spools.fields.length === 0 && (
          <SoftLine>Without a spool nobody checks whether a plan has enough of it.</SoftLine>
        )}
        {spools.fields.map((spool, i) => (
          <SpoolBox key={spool.key} role="group" aria-label={`Spool ${i + 1}`}>
            <FormText control={control} name={`spools.${i}.label`} label="Note" />
            <FormText control={control} name={`spools.${i}.lot`} label="Lot" />
            <FormNumber control={control} name={`spools.${i}.gramsLeft`} label="Left on it" unit="g" />
            <FormNumber control={control} name={`spools.${i}.emptyG`} label="Empty spool" unit="g" optional />
            <FormDay control={control} name={`spools.${i}.openedOn`} label="Opened" optional />
            <FormDay control={control} name={`spools.${i}.driedOn`} label="Dried" optional />
            <FormNumber
              control={control}
              name={`spools.${i}.pricePerKg`}
              label="Price, if other"
              unit="per kg"
              optional
            />
            <Controller
              control={control}
              name={`spools.${i}.colour`}
              render={({ field }) => (
                <Toggle
                  value={field.value !== null}
                  onChange={(own) => field.onChange(own ? getValues('colour') : null)}
                >
                  Colour of its own
                </Toggle>
              )}
            />
            {watch(`spools.${i}.colour`) !== null && (
              <Colour control={control} name={`spools.${i}.colour`} label="Its colour" />
            )}
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
        <FormFoot>
          <Button main type="submit" isDisabled={save.isPending}>
            {filament ? 'Save' : 'Put it on the bench'}
          </Button>
          <Button onPress={onClose}>Cancel</Button>
        </FormFoot>
      </form>
    </Dialog>
  )
}

function Colour({
  control,
  name,
  label,
}: {
  control: Control<FilamentInput>
  name: 'colour' | `spools.${number}.colour`
  label: string
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <ColourField>
          <span>{label}</span>
          <input type="color" value={field.value ?? '#9aa0a6'} onChange={field.onChange} />
        </ColourField>
      )}
    />
  )
}

const ColourField = styled.label`
  display: grid;
  gap: ${({ theme }) => theme.space.xs};
  align-content: start;
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
  input {
    width: 100%;
    height: ${length.control};
    padding: ${({ theme }) => theme.space.hair};
    background: ${({ theme }) => theme.color.sheet};
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.s};
  }
`
const SpoolBox = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${length.s}, 1fr));
  gap: ${({ theme }) => theme.space.s};
  align-items: end;
  padding-bottom: ${({ theme }) => theme.space.m};
  border-bottom: ${({ theme }) => theme.border.faint};
  > label:has(.track) {
    min-height: ${length.control};
  }
`
