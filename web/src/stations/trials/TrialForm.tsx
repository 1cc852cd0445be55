import { TrialInput, type Printer, type StoredFilament } from '@tender/contract'
import { AXES, COMPASS, FULL_COMPASS, SWAPS, type CouponKind } from '@tender/core/trial'
import { useState } from 'react'
import { Controller, useForm, type Path } from 'react-hook-form'
import { usualPrinter } from '../bench/usualPrinter'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { Button, LinkButton } from '../../ui/Button'
import { Fields, FormFoot } from '../../ui/Dialog'
import { AngleConvention, Choice, Segments, TextInput, Toggle, useAngleConvention } from '../../ui/Fields'
import { FormDay, FormNumber, FormText } from '../../ui/FormFields'
import { FormProblem } from '../../ui/FormProblem'
import { Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { zodForm } from '../../ui/zodForm'
import { CouponSheet } from './CouponSheet'
import { KINDS } from './trialKinds'

type Props = {
  start: Pick<TrialInput, 'name' | 'coupon' | 'printedOn'> & Partial<TrialInput>
  submitLabel: string
  error: Error | null
  busy: boolean
  onSubmit: (input: TrialInput) => void
  onCancel: () => void
  /** Draws the coupon beside the form. */
  preview?: boolean
}

/** How a trial was printed. What stands on the bench is offered; without a bench there is nothing to choose from. */
export function TrialForm(props: Props) {
  const printers = useList('printers')
  const filaments = useList('filaments')
  return (
    <Loaded query={printers}>
      {({ items: printerItems }) => (
        <Loaded query={filaments}>
          {({ items: filamentItems }) =>
            printerItems.length === 0 || filamentItems.length === 0 ? (
              <Empty
                action={
                  <LinkButton $main to="/bench">
                    Set the bench
                  </LinkButton>
                }
              >
                A trial belongs to a printer and a filament. Put them on the bench first.
              </Empty>
            ) : (
              <Form {...props} printers={printerItems} filaments={filamentItems} />
            )
          }
        </Loaded>
      )}
    </Loaded>
  )
}

type Bench = { printers: Printer[]; filaments: StoredFilament[] }

/** Coupons that two filaments take part in, and what the second one is called. */
const SECOND: Partial<Record<CouponKind, string>> = {
  gap: 'Touched by',
  purge: 'Swapped to',
  offset: 'Second nozzle',
}
const FIRST: Partial<Record<CouponKind, string>> = {
  gap: 'Part',
  purge: 'Swapped from',
  offset: 'First nozzle',
}
const SPEEDS: Record<CouponKind, string> = {
  fan: 'Wall speed',
  span: 'Bridge speed',
  gap: 'Interface speed',
  purge: 'Speed',
  offset: 'Speed',
}
const speedOf = (kind: CouponKind, printer: Printer) =>
  kind === 'gap' ? printer.interfaceMmS : printer.wallMmS

function Form({
  start,
  submitLabel,
  error,
  busy,
  onSubmit,
  onCancel,
  preview,
  printers,
  filaments,
}: Props & Bench) {
  const kind = start.coupon.kind
  const second = SECOND[kind]
  const printer = usualPrinter(printers, kind)!
  // What is loaded is most likely what will be printed.
  const loaded = printer.loaded.flatMap(
    (spool) => filaments.find((one) => one.spools.some(({ id }) => id === spool)) ?? [],
  )
  const [first, next] = [
    loaded[0] ?? filaments[0],
    loaded[1] ?? filaments.find((one) => one.id !== (loaded[0] ?? filaments[0]).id),
  ]
  const { control, handleSubmit, watch, setValue } = useForm<TrialInput>({
    resolver: zodForm(TrialInput as never),
    defaultValues: {
      printerId: printer.id,
      partFilamentId: first.id,
      supportFilamentId: (second && next?.id) || first.id,
      offsetMm: kind === 'offset' ? printer.offsetMm : null,
      speedMmS: speedOf(kind, printer),
      nozzleMm: printer.nozzleMm,
      ...start,
    },
  })
  const values = watch()
  const part = watch('partFilamentId')
  const number = (name: string, label: string, unit: string) => (
    <FormNumber key={name} control={control} name={name as Path<TrialInput>} label={label} unit={unit} />
  )
  const list = (name: string, label: string) => (
    <Controller
      control={control}
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
  const options = filaments.map((one) => ({ value: one.id, label: one.name, swatch: one.colour }))
  const submit = handleSubmit((input) =>
    onSubmit(second ? input : { ...input, supportFilamentId: input.partFilamentId }),
  )
  const whole = TrialInput.safeParse(
    second ? values : { ...values, supportFilamentId: values.partFilamentId },
  )
  const form = (
    <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
      <Fields>
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
                setValue('speedMmS', speedOf(kind, chosen))
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
      </Fields>
      <SheetTitle as="h2">Steps of the coupon</SheetTitle>
      <Fields>
        {kind === 'fan' && (
          <>
            <Controller
              control={control}
              name="coupon.anglesDeg"
              render={({ field, fieldState }) => (
                <AngleListInput
                  value={field.value}
                  onChange={field.onChange}
                  error={listError(fieldState.error)}
                />
              )}
            />
            <Controller
              control={control}
              name="coupon.directions"
              render={({ field }) => (
                <Segments
                  label="Sides"
                  value={
                    field.value?.length === 1
                      ? 'one'
                      : field.value && field.value.length > 4
                        ? 'eight'
                        : 'four'
                  }
                  onChange={(sides) =>
                    field.onChange(
                      sides === 'one' ? ['any'] : [...(sides === 'eight' ? FULL_COMPASS : COMPASS)],
                    )
                  }
                  options={[
                    { value: 'four', label: 'four, told apart' },
                    { value: 'eight', label: 'eight' },
                    { value: 'one', label: 'one' },
                  ]}
                />
              )}
            />
          </>
        )}
        {kind === 'span' && list('coupon.spansMm', 'Spans, mm')}
        {kind === 'gap' && (
          <>
            {list('coupon.gapsMm', 'Gaps, mm')}
            {list('coupon.spacingsMm', 'Line spacings, mm (0 = solid)')}
            {number('coupon.interfaceLayers', 'Interface layers', '')}
            {number('tileAreaMm2', 'Area of a tile, for pull forces', 'mm²')}
          </>
        )}
        {kind === 'purge' && (
          <>
            {list('coupon.volumesMm3', 'Volumes, mm³')}
            <Controller
              control={control}
              name={'coupon.swaps' as never}
              render={({ field }) => (
                <Segments
                  label="Swaps"
                  value={(field.value as readonly string[]).length > 1 ? 'both' : 'one'}
                  onChange={(ways) => field.onChange(ways === 'both' ? [...SWAPS] : ['AB'])}
                  options={[
                    { value: 'both', label: 'there and back' },
                    { value: 'one', label: 'there only' },
                  ]}
                />
              )}
            />
          </>
        )}
        {kind === 'offset' && (
          <>
            {list('coupon.shiftsMm', 'Shifts, mm')}
            <Controller
              control={control}
              name={'coupon.axes' as never}
              render={({ field }) => (
                <Segments
                  label="Combs"
                  value={(field.value as readonly string[]).length > 2 ? 'xyz' : 'xy'}
                  onChange={(axes) => field.onChange(axes === 'xyz' ? [...AXES] : ['x', 'y'])}
                  options={[
                    { value: 'xyz', label: 'X, Y and height' },
                    { value: 'xy', label: 'X and Y' },
                  ]}
                />
              )}
            />
            {(['X', 'Y', 'Z'] as const).map((axis, i) =>
              number(`offsetMm.${i}`, `Offset ${axis} now stored`, 'mm'),
            )}
          </>
        )}
      </Fields>
      <SheetTitle as="h2">Conditions</SheetTitle>
      <Fields>
        {number('nozzleMm', 'Nozzle', 'mm')}
        {number('layerHeightMm', 'Layer height', 'mm')}
        {number('lineWidthMm', 'Line width', 'mm')}
        {number('speedMmS', SPEEDS[kind], 'mm/s')}
        {number('fanPercent', 'Fan', '%')}
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
          label={second ? 'Lot of the first spool' : 'Lot of the spool'}
        />
        {second && <FormText control={control} name="supportLot" label="Lot of the second spool" />}
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
      </Fields>
      <FormProblem error={error} />
      <FormFoot>
        <Button main type="submit" isDisabled={busy}>
          {submitLabel}
        </Button>
        <Button onPress={onCancel}>Cancel</Button>
      </FormFoot>
    </form>
  )
  if (!preview) return form
  return (
    <Beside>
      <Sheet>{form}</Sheet>
      <Sheet aria-label="The coupon to print">
        {whole.success ? (
          <CouponSheet input={whole.data} />
        ) : (
          <SoftLine>
            Once all is filled in, the coupon is drawn here, with what it takes and the files to print it.
          </SoftLine>
        )}
        <SoftLine>{KINDS[kind].about}</SoftLine>
      </Sheet>
    </Beside>
  )
}

const Beside = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(320px, 2fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
`

/** An error of a whole list or of its first bad entry. */
function listError(error: unknown): string | undefined {
  if (!error) return undefined
  const { message } = error as { message?: string }
  return (
    message ??
    Object.values(error as Record<string, { message?: string } | undefined>).find((entry) => entry?.message)
      ?.message
  )
}

/** The arms' angles, typed in either convention; stored from vertical. */
function AngleListInput({
  value,
  onChange,
  error,
}: {
  value: readonly number[] | undefined
  onChange: (value: number[]) => void
  error?: string
}) {
  const [from, setFrom] = useAngleConvention()
  const other = (angles: readonly number[]) =>
    angles.map((angle) => Number((90 - angle).toFixed(4))).sort((a, b) => a - b)
  return (
    <div>
      <ListInput
        // Typed text belongs to its convention.
        key={from}
        label={`Angles from ${from === 'bed' ? 'the bed' : 'vertical'}, °`}
        value={from === 'bed' ? other(value ?? []) : value}
        onChange={(angles) => onChange(from === 'bed' ? other(angles) : angles)}
        error={error}
      />
      <AngleConvention value={from} onChange={setFrom} />
    </div>
  )
}

/** Numbers typed with commas or spaces between them. */
function ListInput({
  label,
  value,
  onChange,
  error,
}: {
  label: string
  value: readonly number[] | undefined
  onChange: (value: number[]) => void
  error?: string
}) {
  const [text, setText] = useState(() => (value ?? []).join(', '))
  return (
    <TextInput
      label={label}
      value={text}
      error={error}
      onChange={(next) => {
        setText(next)
        // Sorted and without repeats: a step is known by its value.
        onChange(
          [
            ...new Set(
              next
                .split(/[\s,;]+/)
                .filter(Boolean)
                .map(Number),
            ),
          ].sort((a, b) => a - b),
        )
      }}
    />
  )
}
