import { useScheme, type SchemeChoice } from '../theme/useScheme'
import { Dialog } from '../ui/Dialog'
import { Choice } from '../ui/fields'
import { KeysTable } from './KeysTable'

/** The keys of every view, and how the app looks. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  const { chosen, choose } = useScheme()
  return (
    <Dialog title="Keys and look" open onClose={onClose}>
      <KeysTable />
      <Choice<SchemeChoice>
        label="Look"
        value={chosen}
        onChange={choose}
        options={[
          { value: 'system', label: 'As the system has it' },
          { value: 'light', label: 'Light paper' },
          { value: 'dark', label: 'Dark paper' },
        ]}
      />
    </Dialog>
  )
}
