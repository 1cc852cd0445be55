import { CURRENCIES } from '@tender/contract'
import { useWorkshop, useWorkshopChange } from '../../api/useWorkshop'
import { Choice } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle, SoftLine } from '../../ui/Sheet'

const NONE = 'none'
const names = new Intl.DisplayNames('en', { type: 'currency' })

/** In what money is told, chosen once. */
export function MoneyChoice() {
  const workshop = useWorkshop()
  const change = useWorkshopChange()
  if (!workshop) return null
  return (
    <div>
      <SheetTitle>Money</SheetTitle>
      <Choice
        label="Prices and costs are in"
        value={workshop.currency ?? NONE}
        onChange={(value) =>
          change.mutate({
            revision: workshop.revision,
            input: { currency: value === NONE ? null : value },
          })
        }
        options={[
          { value: NONE, label: 'no currency, plain numbers' },
          ...CURRENCIES.map((code) => ({ value: code, label: `${names.of(code)}, ${code}` })),
        ]}
      />
      <SoftLine>Amounts are not converted: it only says what the numbers are.</SoftLine>
      <FormProblem error={change.error} />
    </div>
  )
}
