import type { StoredTakeOff, Trial } from '@tender/contract'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import styled from 'styled-components'
import { z } from 'zod'
import { ask } from '../../api/client'
import { useStandIns } from '../../api/usePrintRun'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { useToasts } from '../../ui/Toasts'
import { length } from '../../theme/measures'

const ADDRESS = { trials: 'trials', takeOffs: 'take-offs' } as const

/**
 * Lets the stand-ins read what no maker has read. What was not simulated before is asked about: it stays so
 * for good.
 */
export function StandInButton({
  of,
  item,
  read,
  left,
}: {
  of: keyof typeof ADDRESS
  item: Trial | StoredTakeOff
  /** Whether somebody has read some of it: that is not mixed with what is simulated. */
  read: boolean
  /** How much of it there is still to be read. */
  left: number
}) {
  const { look } = useStandIns()
  const client = useQueryClient()
  const toasts = useToasts()
  const [asking, setAsking] = useState(false)
  const reading = useMutation({
    mutationFn: () => ask(`/${ADDRESS[of]}/${item.id}/stand-ins`, z.unknown(), { method: 'POST' }),
    onSuccess: () =>
      toasts.show({ text: 'Read by the stand-ins. It is marked as simulated wherever it counts.' }),
    onError: (error) => toasts.show({ text: error.message }),
    onSettled: () => client.invalidateQueries({ queryKey: [of] }),
  })
  if (!look || left === 0 || (read && !item.simulated)) return null
  const start = () => {
    setAsking(false)
    reading.mutate()
  }
  return (
    <>
      <Button isDisabled={reading.isPending} onPress={() => (item.simulated ? start() : setAsking(true))}>
        Let the stand-ins read it
      </Button>
      <Dialog title="Rehearse it?" open={asking} onClose={() => setAsking(false)}>
        <p>
          Stand-ins make their readings up. “{item.name}” is marked as simulated from then on, for good; what
          you print yourself wants {of === 'trials' ? 'a trial' : 'a take-off'} of its own.
        </p>
        <Choices>
          <Button main onPress={start}>
            Rehearse it
          </Button>
          <Button onPress={() => setAsking(false)}>Cancel</Button>
        </Choices>
      </Dialog>
    </>
  )
}

const Choices = styled.div`
  display: flex;
  gap: ${({ theme }) => theme.space.s};
`

/** Says that no maker saw this. */
export const Simulated = () => <Mark>simulated</Mark>

const Mark = styled.span`
  display: inline-block;
  margin-right: ${({ theme }) => theme.space.s};
  padding: ${({ theme }) => `0 ${theme.space.s}`};
  border: ${length.rule} dashed ${({ theme }) => theme.color.clay};
  border-radius: ${({ theme }) => theme.radius.s};
  color: ${({ theme }) => theme.color.ink};
  font-size: ${({ theme }) => theme.size.small};
`
