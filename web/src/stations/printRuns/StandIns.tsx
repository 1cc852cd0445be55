import type { StoredTakeOff, Trial } from '@tender/contract'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import styled from 'styled-components'
import { z } from 'zod'
import { ask } from '../../api/client'
import { useStandIns } from '../../api/usePrintRun'
import { Button } from '../../ui/Button'
import { useToasts } from '../../ui/Toasts'

const ADDRESS = { trials: 'trials', takeOffs: 'take-offs' } as const

/** Lets the stand-ins read what no maker has read. */
export function StandInButton({
  of,
  item,
  read,
}: {
  of: keyof typeof ADDRESS
  item: Trial | StoredTakeOff
  /** Whether somebody has read some of it: that is not mixed with what is simulated. */
  read: boolean
}) {
  const { look } = useStandIns()
  const client = useQueryClient()
  const toasts = useToasts()
  const reading = useMutation({
    mutationFn: () => ask(`/${ADDRESS[of]}/${item.id}/stand-ins`, z.unknown(), { method: 'POST' }),
    onSuccess: () =>
      toasts.show({ text: 'Read by the stand-ins. It is marked as simulated wherever it counts.' }),
    onError: (error) => toasts.show({ text: error.message }),
    onSettled: () => client.invalidateQueries({ queryKey: [of] }),
  })
  if (!look || (read && !item.simulated)) return null
  return (
    <Button isDisabled={reading.isPending} onPress={() => reading.mutate()}>
      Let the stand-ins read it
    </Button>
  )
}

/** Says that no maker saw this. */
export const Simulated = () => <Mark>simulated</Mark>

const Mark = styled.span`
  display: inline-block;
  margin-right: ${({ theme }) => theme.space.s};
  padding: ${({ theme }) => `0 ${theme.space.s}`};
  border: 1.5px dashed ${({ theme }) => theme.color.clay};
  border-radius: ${({ theme }) => theme.radius.s};
  color: ${({ theme }) => theme.color.ink};
  font-size: ${({ theme }) => theme.size.small};
`
