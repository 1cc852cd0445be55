import type { Part } from '@tender/contract'
import { FAMILIES, type Family } from '@tender/core/bench'
import { useState } from 'react'
import { useList } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { Buttons, Dialog } from '../../ui/Dialog'
import { Choice } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'
import { useNewPlan } from './useNewPlan'

const OPTIONS = FAMILIES.map((value) => ({ value, label: value }))

/**
 * Starts a plan for a part. With nothing on the bench it starts on a plain printer and filament, said to be
 * guesses.
 */
export function PlanButton({ part }: { part: Part }) {
  const newPlan = useNewPlan()
  const filaments = useList('filaments').data
  const [asking, setAsking] = useState(false)
  const [family, setFamily] = useState<Family>('PLA')
  return (
    <>
      <Button
        main
        isDisabled={newPlan.isPending || !filaments}
        onPress={() => (filaments!.total === 0 ? setAsking(true) : newPlan.mutate({ part }))}
      >
        Plan how to hold it
      </Button>
      <FormProblem error={asking ? null : newPlan.error} />
      <Dialog title="Nothing is on the bench yet" open={asking} onClose={() => setAsking(false)}>
        <p>
          The plan can start on a plain filament and, if there is no printer either, a plain one. Their
          numbers are guesses, and the plan says so; put your own on the bench when you like, and choose them
          in its letter.
        </p>
        <Choice<Family>
          label="Family of the filament"
          value={family}
          onChange={setFamily}
          options={OPTIONS}
        />
        <SoftLine>What limits and gaps it needs is guessed from the family until a trial is read.</SoftLine>
        <FormProblem error={newPlan.error} />
        <Buttons>
          <Button main isDisabled={newPlan.isPending} onPress={() => newPlan.mutate({ part, family })}>
            Start with a plain {family}
          </Button>
          <Button onPress={() => setAsking(false)}>Not yet</Button>
        </Buttons>
      </Dialog>
    </>
  )
}
