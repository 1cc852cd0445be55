import type { ClingEntry } from '@tender/contract'
import { CLINGS, type Cling } from '@tender/core/bench'
import { useState } from 'react'
import { useFamilyChanges } from '../../api/useFamilies'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog } from '../../ui/Dialog'
import { Segments, TextInput } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'

/** Says how strongly two families cling on this bench. */
export function ClingDialog({ cling: entry, onClose }: { cling: ClingEntry; onClose: () => void }) {
  const changes = useFamilyChanges()
  const { a, b, revision, own } = entry
  const [cling, setCling] = useState<Cling>(entry.cling)
  const [source, setSource] = useState(own ? entry.source : '')
  return (
    <Dialog title={a === b ? `${a} on itself` : `${a} and ${b}`} open onClose={onClose}>
      <form
        noValidate
        style={{ display: 'grid', gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault()
          changes.cling.mutate({ a, b, revision, input: { cling, source } }, { onSuccess: onClose })
        }}
      >
        <Segments
          label="How strongly they cling"
          value={String(cling)}
          onChange={(value) => setCling(Number(value) as Cling)}
          options={CLINGS.map((value) => ({ value: String(value), label: String(value) }))}
        />
        <SoftLine>
          0 falls apart by itself, 1 peels off, 2 needs a tool, 3 leaves marks, 4 is welded. New guesses of
          gaps start from here.
        </SoftLine>
        <TextInput label="Where this comes from" value={source} onChange={setSource} />
        <ConflictNote error={changes.cling.error} />
        <FormProblem error={changes.cling.error ?? changes.resetCling.error} />
        <Buttons>
          <Button main type="submit" isDisabled={changes.cling.isPending}>
            Save
          </Button>
          {own && (
            <Button onPress={() => changes.resetCling.mutate({ a, b }, { onSuccess: onClose })}>
              Back to the starting guess
            </Button>
          )}
          <Button onPress={onClose}>Cancel</Button>
        </Buttons>
      </form>
    </Dialog>
  )
}
