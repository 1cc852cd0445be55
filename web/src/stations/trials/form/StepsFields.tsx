import type { TrialInput } from '@tender/contract'
import { AXES, COMPASS, FULL_COMPASS, SWAPS, type CouponKind } from '@tender/core/trial'
import type { ReactNode } from 'react'
import { Controller, type Control, type Path } from 'react-hook-form'
import { FormNumber } from '../../../ui/FormFields'
import { Segments, type Option } from '../../../ui/fields'
import { AngleListInput, ListInput, listError } from './NumberList'

type Props = { readonly control: Control<TrialInput> }

/** What is on the coupon of a kind: its steps and what else its shape depends on. */
export function StepsFields({ kind, control }: Props & { readonly kind: CouponKind }): ReactNode {
  const Fields = FIELDS[kind]
  return <Fields control={control} />
}

const FIELDS: Record<CouponKind, (props: Props) => ReactNode> = {
  fan: ({ control }) => (
    <>
      <Controller
        control={control}
        name="coupon.anglesDeg"
        render={({ field, fieldState }) => (
          <AngleListInput value={field.value} onChange={field.onChange} error={listError(fieldState.error)} />
        )}
      />
      <Several
        control={control}
        name="coupon.directions"
        label="Sides"
        ways={{
          four: { label: 'four, told apart', list: COMPASS },
          eight: { label: 'eight', list: FULL_COMPASS },
          one: { label: 'one', list: ['any'] },
        }}
      />
    </>
  ),
  span: ({ control }) => <Steps control={control} name="coupon.spansMm" label="Spans, mm" />,
  gap: ({ control }) => (
    <>
      <Steps control={control} name="coupon.gapsMm" label="Gaps, mm" />
      <Steps control={control} name="coupon.spacingsMm" label="Line spacings, mm (0 = solid)" />
      <FormNumber
        control={control}
        name={'coupon.interfaceLayers' as Path<TrialInput>}
        label="Interface layers"
      />
      <FormNumber control={control} name="tileAreaMm2" label="Area of a tile, for pull forces" unit="mm²" />
    </>
  ),
  purge: ({ control }) => (
    <>
      <Steps control={control} name="coupon.volumesMm3" label="Volumes, mm³" />
      <Several
        control={control}
        name="coupon.swaps"
        label="Swaps"
        ways={{
          both: { label: 'there and back', list: SWAPS },
          one: { label: 'there only', list: ['AB'] },
        }}
      />
    </>
  ),
  offset: ({ control }) => (
    <>
      <Steps control={control} name="coupon.shiftsMm" label="Shifts, mm" />
      <Several
        control={control}
        name="coupon.axes"
        label="Combs"
        ways={{ xyz: { label: 'X, Y and height', list: AXES }, xy: { label: 'X and Y', list: ['x', 'y'] } }}
      />
      {(['X', 'Y', 'Z'] as const).map((axis, i) => (
        <FormNumber
          key={axis}
          control={control}
          name={`offsetMm.${i}` as Path<TrialInput>}
          label={`Offset ${axis} now stored`}
          unit="mm"
        />
      ))}
    </>
  ),
}

/** The steps of a coupon along one of its axes. */
function Steps({ control, name, label }: Props & { readonly name: string; readonly label: string }) {
  return (
    <Controller
      control={control}
      // A path of one kind of coupon is none of the others.
      name={name as never}
      render={({ field, fieldState }) => (
        <ListInput
          label={label}
          value={field.value as readonly number[]}
          onChange={field.onChange}
          error={listError(fieldState.error)}
        />
      )}
    />
  )
}

type Ways = Readonly<Record<string, { readonly label: string; readonly list: readonly string[] }>>

/**
 * How many of its sides, ways or combs a coupon has: one of a few lists, the nearest in number of what it has
 * now.
 */
function Several({
  control,
  name,
  label,
  ways,
}: Props & { readonly name: string; readonly label: string; readonly ways: Ways }) {
  const options: Option<string>[] = Object.entries(ways).map(([value, way]) => ({ value, label: way.label }))
  const nearest = (count: number) =>
    Object.keys(ways).reduce((best, way) =>
      Math.abs(ways[way].list.length - count) < Math.abs(ways[best].list.length - count) ? way : best,
    )
  return (
    <Controller
      control={control}
      name={name as never}
      render={({ field }) => (
        <Segments
          label={label}
          value={nearest((field.value as readonly string[] | undefined)?.length ?? Infinity)}
          onChange={(way) => field.onChange([...ways[way].list])}
          options={options}
        />
      )}
    />
  )
}
