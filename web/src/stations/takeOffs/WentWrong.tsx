import type { PrintedContact } from '@tender/core/takeOff'
import type { PlanDocument } from '@tender/core/decide'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Dialog } from '../../ui/Dialog'
import { Choice, Toggle } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'
import { Complaints } from './Complaints'
import type { PrintOrder } from './useNewTakeOff'
import { contactName } from './words'

const WHOLE = 'whole'

/** A complaint about a plan of which no print was kept: one that failed on the way, or was thrown away. */
export function WentWrong({
  order,
  document,
  onClose,
}: {
  readonly order: PrintOrder
  readonly document: PlanDocument
  readonly onClose: () => void
}) {
  const [where, setWhere] = useState(WHOLE)
  const [damp, setDamp] = useState(false)
  const printed = useQuery({
    queryKey: ['printed', order.resultId],
    queryFn: () => unwrap(planning().printed(order.resultId, document)),
  })
  const contacts: readonly PrintedContact[] = printed.data?.contacts ?? []
  return (
    <Dialog title="What went wrong? Point at it" open onClose={onClose} wide>
      <Choice
        label="Where"
        value={where}
        onChange={setWhere}
        options={[
          { value: WHOLE, label: 'The print as a whole' },
          ...contacts.map((one, i) => ({ value: one.key, label: `${i + 1}, ${contactName(one)}` })),
        ]}
      />
      <Toggle value={damp} onChange={setDamp}>
        A spool was damp
      </Toggle>
      <FormProblem error={printed.error} />
      <Complaints
        print={{ id: order.resultId, partId: order.part.id, document, reading: null, damp }}
        contact={contacts.find(({ key }) => key === where) ?? null}
      />
      <SoftLine>
        Once it is taken off, keep it as printed (“Take to printer”, “It is printed”): what is read of its
        contacts speaks too, and teaches the next plan.
      </SoftLine>
    </Dialog>
  )
}
