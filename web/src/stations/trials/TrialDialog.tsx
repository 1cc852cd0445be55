import type { Trial } from '@tender/contract'
import { useSave } from '../../api/useShelf'
import { ConflictNote } from '../../ui/ConflictNote'
import { Dialog } from '../../ui/Dialog'
import { TrialForm } from './TrialForm'

/** Corrects how a trial was printed; readings of steps that stay are kept. */
export function TrialDialog({ trial, onClose }: { trial: Trial; onClose: () => void }) {
  const save = useSave('trials')
  const {
    id,
    revision,
    updatedAt: _,
    printerName: __,
    partFilamentName: ___,
    supportFilamentName: ____,
    readings: _____,
    photos: ______,
    ...start
  } = trial
  return (
    <Dialog title={`Change ${trial.name}`} open onClose={onClose} wide>
      <TrialForm
        start={start}
        submitLabel="Save"
        error={save.error}
        busy={save.isPending}
        onCancel={onClose}
        onSubmit={(input) => save.mutate({ id, revision, input }, { onSuccess: onClose })}
      />
      <ConflictNote error={save.error} />
    </Dialog>
  )
}
