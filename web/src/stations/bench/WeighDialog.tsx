import type { SpoolFields, StoredFilament } from '@tender/contract'
import { useState } from 'react'
import { useSave } from '../../api/useShelf'
import { grams } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog, Fields } from '../../ui/Dialog'
import { NumberInput } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { Sentence } from '../../ui/Sheet'

/** Puts a spool on the scale: what it weighs less the empty spool is what is left. */
export function WeighDialog({
  filament,
  spool,
  onClose,
}: {
  filament: StoredFilament
  spool: SpoolFields
  onClose: () => void
}) {
  const save = useSave('filaments')
  const [gross, setGross] = useState(NaN)
  const [empty, setEmpty] = useState(spool.emptyG ?? NaN)
  const left = gross - empty
  const usable = Number.isFinite(left) && left >= 0
  const keep = () => {
    const { id, revision, updatedAt: _, ...input } = filament
    const spools = input.spools.map((one) =>
      one.id === spool.id ? { ...one, gramsLeft: Math.round(left * 10) / 10, emptyG: empty } : one,
    )
    save.mutate({ id, revision, input: { ...input, spools } }, { onSuccess: onClose })
  }
  return (
    <Dialog title={`Weigh ${filament.name}`} open onClose={onClose}>
      <form
        noValidate
        style={{ display: 'grid', gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault()
          if (usable) keep()
        }}
      >
        <Fields>
          <NumberInput
            label="On the scale"
            unit="g"
            value={gross}
            onChange={setGross}
            min={0}
            max={60_000}
            autoFocus
          />
          <NumberInput label="Empty spool" unit="g" value={empty} onChange={setEmpty} min={0} max={5000} />
        </Fields>
        <Sentence role="status">
          {usable
            ? `${grams(left)} are left; ${grams(spool.gramsLeft)} were written down.`
            : Number.isFinite(left)
              ? 'The scale shows less than the empty spool weighs. Look at both again.'
              : 'What the scale shows less the empty spool is what is left.'}
        </Sentence>
        <ConflictNote error={save.error} />
        <FormProblem error={save.error} />
        <Buttons>
          <Button main type="submit" isDisabled={!usable || save.isPending}>
            Write it down
          </Button>
          <Button onPress={onClose}>Cancel</Button>
        </Buttons>
      </form>
    </Dialog>
  )
}
