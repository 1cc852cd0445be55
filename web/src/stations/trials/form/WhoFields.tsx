import type { TrialInput } from '@tender/contract'
import type { CouponKind } from '@tender/core/trial'
import { Controller, type UseFormReturn } from 'react-hook-form'
import { FormDay, FormText } from '../../../ui/FormFields'
import { Choice } from '../../../ui/fields'
import { FIRST, SECOND, usualSpeed, type Bench } from './couponWords'

/** What it is called, and which printer and filaments took part. */
export function WhoFields({
  kind,
  form,
  printers,
  filaments,
}: Bench & { readonly kind: CouponKind; readonly form: UseFormReturn<TrialInput> }) {
  const { control, setValue, watch } = form
  const second = SECOND[kind]
  const part = watch('partFilamentId')
  const options = filaments.map((one) => ({ value: one.id, label: one.name, swatch: one.colour }))
  return (
    <>
      <FormText control={control} name="name" label="Name" autoFocus />
      <Controller
        control={control}
        name="printerId"
        render={({ field }) => (
          <Choice
            label="Printer"
            value={field.value}
            onChange={(id) => {
              field.onChange(id)
              const chosen = printers.find((one) => one.id === id)!
              setValue('nozzleMm', chosen.nozzleMm)
              setValue('speedMmS', usualSpeed(kind, chosen))
              if (kind === 'offset') setValue('offsetMm', chosen.offsetMm)
            }}
            options={printers.map((one) => ({ value: one.id, label: one.name }))}
          />
        )}
      />
      <Controller
        control={control}
        name="partFilamentId"
        render={({ field }) => (
          <Choice
            label={FIRST[kind] ?? 'Filament'}
            value={field.value}
            onChange={field.onChange}
            options={options}
          />
        )}
      />
      {second && (
        <Controller
          control={control}
          name="supportFilamentId"
          render={({ field }) => (
            <Choice
              label={second}
              value={field.value}
              onChange={field.onChange}
              options={options.map((one) =>
                one.value === part ? { ...one, label: `${one.label} (itself)` } : one,
              )}
            />
          )}
        />
      )}
      <FormDay control={control} name="printedOn" label="Printed on" />
    </>
  )
}
