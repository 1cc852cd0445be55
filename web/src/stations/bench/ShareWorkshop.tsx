import { Sharing } from '@tender/contract'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import styled from 'styled-components'
import { ApiError, ask } from '../../api/client'
import { Button } from '../../ui/Button'
import { Toggle } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SheetTitle, SoftLine } from '../../ui/Sheet'
import { SquareCode } from './SquareCode'
import { length } from '../../theme/measures'

const KEY = ['sharing'] as const
/** A code runs out, and devices come in elsewhere. */
const LOOK_MS = 10_000

/**
 * The phone at the printer: the workshop served to the local network, behind a code. Not to be seen from a
 * device that was let in.
 */
export function ShareWorkshop() {
  const client = useQueryClient()
  const query = useQuery({
    queryKey: KEY,
    queryFn: ({ signal }) => ask('/sharing', Sharing, { signal }),
    refetchInterval: ({ state }) => (state.data?.on ? LOOK_MS : false),
    retry: (_, error) => !(error instanceof ApiError && error.problem.code === 'FORBIDDEN'),
  })
  const done = (state: Sharing) => client.setQueryData(KEY, state)
  const turn = useMutation({
    mutationFn: (on: boolean) => ask('/sharing', Sharing, { method: 'PUT', body: { on } }),
    onSuccess: done,
  })
  const putOut = useMutation({
    mutationFn: (id: string) => ask(`/sharing/devices/${id}`, Sharing, { method: 'DELETE' }),
    onSuccess: done,
  })
  const { data } = query
  if (!data) return null
  const [address] = data.addresses
  return (
    <div>
      <SheetTitle>The phone at the printer</SheetTitle>
      <Toggle value={data.on} onChange={(on) => turn.mutate(on)}>
        Share with the local network, until Tender Bridge stops
      </Toggle>
      {data.on && address && data.code && (
        <Door>
          <SquareCode
            text={`${address}/let-in?code=${data.code}`}
            label={`Square code of ${address} with the code of now`}
          />
          <div>
            <SoftLine>Scan it, or open</SoftLine>
            {data.addresses.map((one) => (
              <code key={one}>{one}</code>
            ))}
            <SoftLine>and type</SoftLine>
            <b>
              {data.code.slice(0, 3)} {data.code.slice(3)}
            </b>
            <SoftLine>It lets one device in and runs out in ten minutes.</SoftLine>
          </div>
        </Door>
      )}
      {data.on && !address && (
        <SoftLine role="status">This machine has no address in a local network just now.</SoftLine>
      )}
      {data.devices.length > 0 && (
        <Devices aria-label="Devices that are let in">
          {data.devices.map(({ id, name, seenAt }) => (
            <li key={id}>
              <span>
                {name}
                <SoftLine>last seen {new Date(seenAt).toLocaleString('en-GB')}</SoftLine>
              </span>
              <Button
                isDisabled={putOut.isPending}
                onPress={() => putOut.mutate(id)}
                aria-label={`Put out ${name}`}
              >
                Put out
              </Button>
            </li>
          ))}
        </Devices>
      )}
      <FormProblem error={turn.error ?? putOut.error} />
    </div>
  )
}

const Door = styled.div`
  display: grid;
  grid-template-columns: ${length.s} minmax(0, 1fr);
  gap: ${({ theme }) => theme.space.l};
  align-items: center;
  code {
    display: block;
    font: ${({ theme }) => `${theme.size.note} ${theme.font.mono}`};
    overflow-wrap: anywhere;
  }
  b {
    font: 500 ${({ theme }) => `${theme.size.title} ${theme.font.mono}`};
    letter-spacing: 0.06em;
  }
`
const Devices = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    padding: ${({ theme }) => `${theme.space.sm} 0`};
    border-top: ${({ theme }) => theme.border.faint};
  }
`
