import { FamilyInput, type FamilyEntry } from '@tender/contract'
import { Controller, useForm, type Path } from 'react-hook-form'
import { useFamilyChanges } from '../../api/useFamilies'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog, Fields } from '../../ui/Dialog'
import { Choice, NumberInput, TextInput, Toggle } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { zodForm } from '../../ui/zodForm'

/** Changes a family's numbers; ours stay in the drawer and can be taken back. */
export function FamilyDialog({ family, onClose }: { family: FamilyEntry; onClose: () => void }) {
  const changes = useFamilyChanges()
  const { name, own, revision, ...given } = family
  const { control, handleSubmit } = useForm<FamilyInput>({ resolver: zodForm(FamilyInput), defaultValues: { ...given, source: own ? given.source : '' } })
  const number = (field: Path<FamilyInput>, label: string, unit: string) => (
    <Controller
      control={control}
      name={field}
      render={({ field: { value, onChange }, fieldState }) => (
        <NumberInput label={label} unit={unit} value={value as number | null} onChange={(next) => onChange(Number.isFinite(next) ? next : null)} error={fieldState.error?.message} />
      )}
    />
  )
  const submit = handleSubmit((input) => changes.family.mutate({ name, revision, input }, { onSuccess: onClose }))
  return (
    <Dialog title={`${name} on this bench`} open onClose={onClose} wide>
      <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
        <Fields>
          {number('densityGcm3', 'Density', 'g/cm³')}
          {number('nozzleC.0', 'Nozzle from', '°C')}
          {number('nozzleC.1', 'Nozzle to', '°C')}
          {number('bedC.0', 'Bed from', '°C')}
          {number('bedC.1', 'Bed to', '°C')}
          {number('softensC', 'Softens at', '°C')}
          <Controller
            control={control}
            name="dissolvesIn"
            render={({ field }) => (
              <Choice
                label="Dissolves in"
                value={field.value ?? 'nothing'}
                onChange={(liquid) => field.onChange(liquid === 'nothing' ? null : liquid)}
                options={['nothing', 'water', 'limonene'].map((value) => ({ value, label: value }))}
              />
            )}
          />
          <Controller
            control={control}
            name="drawsWater"
            render={({ field }) => (
              <Toggle value={field.value} onChange={field.onChange}>
                Draws water from the air
              </Toggle>
            )}
          />
        </Fields>
        <Controller
          control={control}
          name="source"
          render={({ field, fieldState }) => <TextInput label="Where these numbers come from" value={field.value} onChange={field.onChange} error={fieldState.error?.message} />}
        />
        <ConflictNote error={changes.family.error} />
        <FormProblem error={changes.family.error ?? changes.reset.error} />
        <Buttons>
          <Button main type="submit" isDisabled={changes.family.isPending}>
            Save
          </Button>
          {own && <Button onPress={() => changes.reset.mutate(name, { onSuccess: onClose })}>Back to the starting numbers</Button>}
          <Button onPress={onClose}>Cancel</Button>
        </Buttons>
      </form>
    </Dialog>
  )
}
