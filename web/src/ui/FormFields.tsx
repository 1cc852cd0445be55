import { Controller, type Control, type FieldValues, type Path } from 'react-hook-form'
import { NumberInput, TextInput } from './fields'

type Props<T extends FieldValues> = {
  readonly control: Control<T>
  readonly name: Path<T>
  readonly label: string
}

/** A number of a form. With `optional`, an emptied field means that nobody knows. */
export function FormNumber<T extends FieldValues>({
  control,
  name,
  label,
  unit,
  optional,
}: Props<T> & { readonly unit?: string; readonly optional?: boolean }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <NumberInput
          label={label}
          unit={unit}
          value={field.value as number | null}
          onChange={(value) => field.onChange(optional && !Number.isFinite(value) ? null : value)}
          error={fieldState.error?.message}
        />
      )}
    />
  )
}

/** A line of text of a form. */
export function FormText<T extends FieldValues>({
  control,
  name,
  label,
  autoFocus,
}: Props<T> & { readonly autoFocus?: boolean }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <TextInput
          label={label}
          value={field.value as string}
          onChange={field.onChange}
          error={fieldState.error?.message}
          autoFocus={autoFocus}
        />
      )}
    />
  )
}

/** A day of a form; with `optional`, none is an answer too. */
export function FormDay<T extends FieldValues>({
  control,
  name,
  label,
  optional,
}: Props<T> & { readonly optional?: boolean }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <TextInput
          label={label}
          type="date"
          value={(field.value as string | null) ?? ''}
          onChange={(value) => field.onChange(optional && value === '' ? null : value)}
          error={fieldState.error?.message}
        />
      )}
    />
  )
}
