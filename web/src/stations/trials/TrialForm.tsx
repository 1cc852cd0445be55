import { TrialInput } from '@tender/contract'
import { COMPASS } from '@tender/core/trial'
import { useState } from 'react'
import { Controller, useForm, type Path } from 'react-hook-form'
import { useList } from '../../api/useShelf'
import { Button, LinkButton } from '../../ui/Button'
import { Buttons, Fields } from '../../ui/Dialog'
import { AngleConvention, Choice, NumberInput, Segments, TextInput, Toggle, useAngleConvention } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { zodForm } from '../../ui/zodForm'

type Props = {
  start: Omit<TrialInput, 'printerId' | 'partFilamentId' | 'supportFilamentId'> & Partial<TrialInput>
  submitLabel: string
  error: Error | null
  busy: boolean
  onSubmit: (input: TrialInput) => void
  onCancel: () => void
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

type Bench = { printers: { id: string; name: string; nozzleMm: number; wallMmS: number; interfaceMmS: number }[]; filaments: { id: string; name: string; colour: string }[] }

function Form({ start, submitLabel, error, busy, onSubmit, onCancel, printers, filaments }: Props & Bench) {
  const [printer] = printers
  const { control, handleSubmit, watch, setValue } = useForm<TrialInput>({
    resolver: zodForm(TrialInput as never),
    defaultValues: { printerId: printer.id, partFilamentId: filaments[0].id, supportFilamentId: (start.coupon.kind === 'gap' && filaments[1]?.id) || filaments[0].id, ...start },
  })
  const kind = start.coupon.kind
  const part = watch('partFilamentId')
  const number = (name: Path<TrialInput>, label: string, unit: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => <NumberInput label={label} unit={unit} value={field.value as number} onChange={field.onChange} error={fieldState.error?.message} />}
    />
  )
  const options = filaments.map((one) => ({ value: one.id, label: one.name, swatch: one.colour }))
  const submit = handleSubmit((input) => onSubmit(kind === 'fan' ? { ...input, supportFilamentId: input.partFilamentId } : input))
  return (
    <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
      <Fields>
        <Controller
          control={control}
          name="name"
          render={({ field, fieldState }) => <TextInput label="Name" value={field.value} onChange={field.onChange} error={fieldState.error?.message} autoFocus />}
        />
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
                setValue('speedMmS', kind === 'fan' ? chosen.wallMmS : chosen.interfaceMmS)
              }}
              options={printers.map((one) => ({ value: one.id, label: one.name }))}
            />
          )}
        />
        <Controller
          control={control}
          name="partFilamentId"
          render={({ field }) => <Choice label={kind === 'fan' ? 'Filament' : 'Part'} value={field.value} onChange={field.onChange} options={options} />}
        />
        {kind === 'gap' && (
          <Controller
            control={control}
            name="supportFilamentId"
            render={({ field }) => (
              <Choice label="Touched by" value={field.value} onChange={field.onChange} options={options.map((one) => (one.value === part ? { ...one, label: `${one.label} (itself)` } : one))} />
            )}
          />
        )}
        <Controller
          control={control}
          name="printedOn"
          render={({ field, fieldState }) => <TextInput label="Printed on" type="date" value={field.value} onChange={field.onChange} error={fieldState.error?.message} />}
        />
      </Fields>
      <SheetTitle as="h2">Steps of the coupon</SheetTitle>
      {kind === 'fan' ? (
        <Fields>
          <Controller
            control={control}
            name="coupon.anglesDeg"
            render={({ field, fieldState }) => <AngleListInput value={field.value} onChange={field.onChange} error={listError(fieldState.error)} />}
          />
          <Controller
            control={control}
            name="coupon.directions"
            render={({ field }) => (
              <Segments
                label="Sides"
                value={field.value?.length === 1 ? 'one' : 'four'}
                onChange={(sides) => field.onChange(sides === 'one' ? ['any'] : [...COMPASS])}
                options={[
                  { value: 'four', label: 'four, told apart' },
                  { value: 'one', label: 'one' },
                ]}
              />
            )}
          />
        </Fields>
      ) : (
        <Fields>
          <Controller
            control={control}
            name="coupon.gapsMm"
            render={({ field, fieldState }) => <ListInput label="Gaps, mm" value={field.value} onChange={field.onChange} error={listError(fieldState.error)} />}
          />
          <Controller
            control={control}
            name="coupon.spacingsMm"
            render={({ field, fieldState }) => <ListInput label="Line spacings, mm (0 = solid)" value={field.value} onChange={field.onChange} error={listError(fieldState.error)} />}
          />
          {number('tileAreaMm2', 'Area of a tile, for pull forces', 'mm²')}
        </Fields>
      )}
      <SheetTitle as="h2">Conditions</SheetTitle>
      <Fields>
        {number('nozzleMm', 'Nozzle', 'mm')}
        {number('layerHeightMm', 'Layer height', 'mm')}
        {number('lineWidthMm', 'Line width', 'mm')}
        {number('speedMmS', kind === 'fan' ? 'Wall speed' : 'Interface speed', 'mm/s')}
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
      </Fields>
      <FormProblem error={error} />
      <Buttons>
        <Button main type="submit" isDisabled={busy}>
          {submitLabel}
        </Button>
        <Button onPress={onCancel}>Cancel</Button>
      </Buttons>
    </form>
  )
}

/** An error of a whole list or of its first bad entry. */
function listError(error: unknown): string | undefined {
  if (!error) return undefined
  if (Array.isArray(error)) return error.find(Boolean)?.message
  return (error as { message?: string }).message
}

/** The arms' angles, typed in either convention; stored from vertical. */
function AngleListInput({ value, onChange, error }: { value: readonly number[] | undefined; onChange: (value: number[]) => void; error?: string }) {
  const [from, setFrom] = useAngleConvention()
  const other = (angles: readonly number[]) => angles.map((angle) => Number((90 - angle).toFixed(4))).sort((a, b) => a - b)
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
function ListInput({ label, value, onChange, error }: { label: string; value: readonly number[] | undefined; onChange: (value: number[]) => void; error?: string }) {
  const [text, setText] = useState(() => (value ?? []).join(', '))
  return (
    <TextInput
      label={label}
      value={text}
      error={error}
      onChange={(next) => {
        setText(next)
        // Sorted and without repeats: a step is known by its value.
        onChange([...new Set(next.split(/[\s,;]+/).filter(Boolean).map(Number))].sort((a, b) => a - b)) // prettier-ignore
      }}
    />
  )
}
