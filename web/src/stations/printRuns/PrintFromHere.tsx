import type { RunPrinter } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { meshBytes } from '../../api/client'
import { startRun, useStandIns } from '../../api/usePrintRun'
import { three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { NumberInput, Segments, TextInput } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing, proxy } from '../../workers/geometry'
import { keepPrint, takenNames, type PrintOrder } from '../takeOffs/useNewTakeOff'

const USUAL_SPEED = 300

/** Sends a plan to a printer: keeps it as printed, writes its file, goes to where it is watched. */
export function PrintFromHere({
  order,
  onClose,
}: {
  order: PrintOrder & { document: PlanDocument }
  onClose: () => void
}) {
  const standIns = useStandIns()
  const navigate = useNavigate()
  const client = useQueryClient()
  const [wish, setWhere] = useState<'stand-in' | 'line' | null>(null)
  const where = wish ?? (standIns.printer ? 'stand-in' : 'line')
  const [host, setHost] = useState('')
  const [port, setPort] = useState<number | null>(null)
  const [speed, setSpeed] = useState(USUAL_SPEED)
  const [share, setShare] = useState(0)
  const start = useMutation({
    mutationFn: async () => {
      setShare(0)
      const { part, document } = order
      const bytes = await meshBytes(part.meshSha256)
      const { file, timeS, zeroMm, filaments } = await unwrap(
        filing().print(
          Date.now(),
          part.meshSha256,
          transfer(bytes, [bytes.buffer]),
          document,
          proxy(setShare),
        ),
      )
      const printer: RunPrinter =
        where === 'stand-in' ? { standIn: true } : { standIn: false, host: host.trim(), port: port! }
      const takeOff = await keepPrint(order, null, await takenNames(), printer.standIn)
      await client.invalidateQueries({ queryKey: ['takeOffs', 'list'] })
      await startRun(
        { title: takeOff.name, takeOffId: takeOff.id, printer, zeroMm, filaments, seconds: timeS, speed },
        file,
      )
      return takeOff.id
    },
    onSuccess: (id) => navigate(`/take-offs/${id}/watch`),
  })
  return (
    <Dialog title="Print it from here" open onClose={onClose}>
      <Fields>
        {standIns.printer && (
          <Segments
            label="Where"
            value={where}
            onChange={setWhere}
            options={[
              { value: 'stand-in', label: 'on the stand-in' },
              { value: 'line', label: 'on a printer in the network' },
            ]}
          />
        )}
        {where === 'stand-in' ? (
          <>
            <SoftLine>
              A small program beside the server that takes the file like a printer and lays nothing: for
              trying the way out before plastic is spent. Whatever comes of it is marked as simulated.
            </SoftLine>
            <NumberInput
              label="Quicker than a printer"
              unit="times"
              value={speed}
              min={10}
              max={100_000}
              step={10}
              onChange={(value) => Number.isFinite(value) && setSpeed(value)}
            />
          </>
        ) : (
          <>
            <SoftLine>
              A printer that takes lines of G-code over a socket and answers each with “ok”. Lines go out one
              after the other, numbered. Stay near it: this page only knows what the printer says.
            </SoftLine>
            <Row>
              <TextInput label="Its number in the network" value={host} onChange={setHost} />
              <NumberInput
                label="Port"
                value={port}
                min={1}
                max={65_535}
                onChange={(value) => setPort(Number.isFinite(value) ? value : null)}
              />
            </Row>
          </>
        )}
        <FormProblem error={start.error} />
        {start.isPending ? (
          <div role="status">
            <progress value={share} aria-label="Writing the print" /> Writing the print{' '}
          </div>
        ) : (
          <Button
            main
            isDisabled={where === 'line' && (host.trim() === '' || port === null)}
            onPress={() => start.mutate()}
          >
            Print {order.document.name}
          </Button>
        )}
        {where === 'stand-in' && !start.isPending && (
          <SoftLine>An hour of printing takes about {three(3600 / speed)} s then.</SoftLine>
        )}
      </Fields>
    </Dialog>
  )
}

const Fields = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  justify-items: start;
  progress {
    width: 140px;
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
const Row = styled.div`
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: ${({ theme }) => theme.space.m};
`
