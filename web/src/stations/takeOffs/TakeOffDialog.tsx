import type { StoredTakeOff } from '@tender/contract'
import { useState } from 'react'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { ConflictNote } from '../../ui/ConflictNote'
import { Buttons, Dialog } from '../../ui/Dialog'
import { TextInput, Toggle } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'
import { takeOffInput } from './takeOffInput'

/** What a print is called, when it was made, whether a spool was damp. Plan and print stay as they were. */
export function TakeOffDialog({ takeOff, onClose }: { takeOff: StoredTakeOff; onClose: () => void }) {
  const save = useSave('takeOffs')
  const [name, setName] = useState(takeOff.name)
  const [printedOn, setPrintedOn] = useState(takeOff.printedOn)
  const [damp, setDamp] = useState(takeOff.damp)
  return (
    <Dialog title={`Change ${takeOff.name}`} open onClose={onClose}>
      <TextInput
        label="Name"
        value={name}
        onChange={setName}
        autoFocus
        error={name.trim() === '' ? 'It needs a name.' : undefined}
      />
      <TextInput label="Printed on" type="date" value={printedOn} onChange={setPrintedOn} />
      <Toggle value={damp} onChange={setDamp}>
        A spool was damp
      </Toggle>
      <SoftLine>The plan stays as it was printed.</SoftLine>
      <Buttons>
        <Button
          main
          isDisabled={save.isPending || name.trim() === '' || printedOn === ''}
          onPress={() =>
            save.mutate(
              {
                id: takeOff.id,
                revision: takeOff.revision,
                input: { ...takeOffInput(takeOff), name, printedOn, damp },
              },
              { onSuccess: onClose },
            )
          }
        >
          Save
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </Buttons>
      <FormProblem error={save.error} />
      <ConflictNote error={save.error} />
    </Dialog>
  )
}
