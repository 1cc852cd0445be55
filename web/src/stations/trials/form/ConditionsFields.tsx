import type { TrialInput } from '@tender/contract'
import type { CouponKind } from '@tender/core/trial'
import { Controller, type Control } from 'react-hook-form'
import { FormNumber, FormText } from '../../../ui/FormFields'
import { Toggle } from '../../../ui/fields'
import { SECOND } from './couponWords'

const SPEEDS: Record<CouponKind, string> = {
  fan: 'Wall speed',
  span: 'Bridge speed',
  gap: 'Interface speed',
  purge: 'Speed',
  offset: 'Speed',
}

/** Under what conditions it was printed. */
export function ConditionsFields({
  kind,
  control,
}: {
  readonly kind: CouponKind
  readonly control: Control<TrialInput>
}) {
  const two = kind in SECOND
  return (
    <>
      <FormNumber control={control} name="nozzleMm" label="Nozzle" unit="mm" />
      <FormNumber control={control} name="layerHeightMm" label="Layer height" unit="mm" />
      <FormNumber control={control} name="lineWidthMm" label="Line width" unit="mm" />
      <FormNumber control={control} name="speedMmS" label={SPEEDS[kind]} unit="mm/s" />
      <FormNumber control={control} name="fanPercent" label="Fan" unit="%" />
      <Controller
        control={control}
        name="damp"
        render={({ field }) => (
          <Toggle value={field.value} onChange={field.onChange}>
            The spool was damp
          </Toggle>
        )}
      />
      <FormText
        control={control}
        name="partLot"
        label={two ? 'Lot of the first spool' : 'Lot of the spool'}
      />
      {two && <FormText control={control} name="supportLot" label="Lot of the second spool" />}
      <FormText control={control} name="note" label="What else may have got in the way" />
      <Controller
        control={control}
        name="leftOut"
        render={({ field }) => (
          <Toggle value={field.value} onChange={field.onChange}>
            Leave it out of what plans go by
          </Toggle>
        )}
      />
    </>
  )
}
