import { FamilyInput, type FamilyEntry } from '@tender/contract'
import { Controller, useForm } from 'react-hook-form'
import { useFamilyChanges } from '../../api/useFamilies'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Dialog, Fields, FormFoot } from '../../ui/Dialog'
import { Choice, Toggle } from '../../ui/fields'
import { FormNumber, FormText } from '../../ui/FormFields'
import { FormProblem } from '../../ui/FormProblem'
import { zodForm } from '../../ui/zodForm'

/** Changes a family's numbers; ours stay in the drawer and can be taken back. */
export function FamilyDialog({ family, onClose }: { family: FamilyEntry; onClose: () => void }) {
  const changes = useFamilyChanges()
  const { name, own, revision, ...given } = family
  const { control, handleSubmit } = useForm<FamilyInput>({
    resolver: zodForm(FamilyInput),
    defaultValues: { ...given, source: own ? given.source : '' },
  })
  const submit = handleSubmit((input) =>
    changes.family.mutate({ name, revision, input }, { onSuccess: onClose }),
  )
  return (
    <Dialog title={`${name} on this bench`} open onClose={onClose} wide>
      <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
        <Fields>
          <FormNumber control={control} name="densityGcm3" label="Density" unit="g/cm³" />
          <FormNumber control={control} name="nozzleC.0" label="Nozzle from" unit="°C" />
          <FormNumber control={control} name="nozzleC.1" label="Nozzle to" unit="°C" />
          <FormNumber control={control} name="bedC.0" label="Bed from" unit="°C" />
          <FormNumber control={control} name="bedC.1" label="Bed to" unit="°C" />
          <FormNumber control={control} name="softensC" label="Softens at" unit="°C" optional />
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
        <FormText control={control} name="source" label="Where these numbers come from" />
        <ConflictNote error={changes.family.error} />
        <FormProblem error={changes.family.error ?? changes.reset.error} />
        <FormFoot>
          <Button main type="submit" isDisabled={changes.family.isPending}>
            Save
          </Button>
          {own && (
            <Button onPress={() => changes.reset.mutate(name, { onSuccess: onClose })}>
              Back to the starting numbers
            </Button>
          )}
          <Button onPress={onClose}>Cancel</Button>
        </FormFoot>
      </form>
    </Dialog>
  )
}
