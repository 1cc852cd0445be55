import { TrialInput } from '@tender/contract'
import { useForm } from 'react-hook-form'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { at, length } from '../../theme/measures'
import { Button, LinkButton } from '../../ui/Button'
import { Fields, FormFoot } from '../../ui/Dialog'
import { FormProblem } from '../../ui/FormProblem'
import { Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { zodForm } from '../../ui/zodForm'
import { usualPrinter } from '../bench/usualPrinter'
import { CouponSheet } from './CouponSheet'
import { ConditionsFields } from './form/ConditionsFields'
import { SECOND, usualSpeed, type Bench } from './form/couponWords'
import { StepsFields } from './form/StepsFields'
import { WhoFields } from './form/WhoFields'
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

/**
 * How a trial was printed. What stands on the bench is offered; without a bench there is nothing to choose
 * from.
 */
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
  const two = kind in SECOND
  const printer = usualPrinter(printers, kind)!
  // What is loaded is most likely what will be printed.
  const loaded = printer.loaded.flatMap(
    (spool) => filaments.find((one) => one.spools.some(({ id }) => id === spool)) ?? [],
  )
  const [first, next] = [
    loaded[0] ?? filaments[0],
    loaded[1] ?? filaments.find((one) => one.id !== (loaded[0] ?? filaments[0]).id),
  ]
  const fields = useForm<TrialInput>({
    resolver: zodForm(TrialInput as never),
    defaultValues: {
      printerId: printer.id,
      partFilamentId: first.id,
      supportFilamentId: (two && next?.id) || first.id,
      offsetMm: kind === 'offset' ? printer.offsetMm : null,
      speedMmS: usualSpeed(kind, printer),
      nozzleMm: printer.nozzleMm,
      ...start,
    },
  })
  const { control, handleSubmit, watch } = fields
  const alone = (input: TrialInput): TrialInput =>
    two ? input : { ...input, supportFilamentId: input.partFilamentId }
  const submit = handleSubmit((input) => onSubmit(alone(input)))
  const whole = TrialInput.safeParse(alone(watch()))
  const form = (
    <form noValidate onSubmit={(event) => void submit(event)} style={{ display: 'grid', gap: 14 }}>
      <Fields>
        <WhoFields kind={kind} form={fields} printers={printers} filaments={filaments} />
      </Fields>
      <SheetTitle as="h2">Steps of the coupon</SheetTitle>
      <Fields>
        <StepsFields kind={kind} control={control} />
      </Fields>
      <SheetTitle as="h2">Conditions</SheetTitle>
      <Fields>
        <ConditionsFields kind={kind} control={control} />
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
  grid-template-columns: minmax(0, 3fr) minmax(${length.xl}, 2fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
`
