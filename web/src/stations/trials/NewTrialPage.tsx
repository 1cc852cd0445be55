import type { TrialInput } from '@tender/contract'
import { PLAIN_PRINTER } from '@tender/core/bench'
import { STARTING_FAN, STARTING_LADDER } from '@tender/core/trial'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { useSave } from '../../api/useShelf'
import { Page } from '../../ui/Page'
import { Sheet } from '../../ui/Sheet'
import { TrialForm } from './TrialForm'
import { KIND_NAMES } from './TrialPage'

const today = () => new Date().toLocaleDateString('sv-SE')

/** Describes a printed coupon, so that it can be read. */
export function NewTrialPage() {
  const kind = useParams().kind === 'gap' ? 'gap' : 'fan'
  const navigate = useNavigate()
  const save = useSave('trials')
  const [id] = useState(() => crypto.randomUUID())
  const start = {
    name: kind === 'fan' ? 'New fan' : 'New ladder',
    coupon: structuredClone(kind === 'fan' ? STARTING_FAN : STARTING_LADDER) as TrialInput['coupon'],
    nozzleMm: 0.4,
    layerHeightMm: 0.2,
    lineWidthMm: 0.45,
    speedMmS: kind === 'fan' ? PLAIN_PRINTER.wallMmS : PLAIN_PRINTER.interfaceMmS,
    fanPercent: 100,
    damp: false,
    tileAreaMm2: kind === 'gap' ? 196 : null,
    printedOn: today(),
  }
  return (
    <Page over="A printed test to read" title={KIND_NAMES[kind]}>
      <Sheet>
        <TrialForm
          key={kind}
          start={start}
          submitLabel="Read it"
          error={save.error}
          busy={save.isPending}
          onCancel={() => void navigate('/trials')}
          onSubmit={(input) => save.mutate({ id, revision: null, input }, { onSuccess: () => void navigate(`/trials/${id}`) })}
        />
      </Sheet>
    </Page>
  )
}
