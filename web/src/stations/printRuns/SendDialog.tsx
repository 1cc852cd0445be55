import type { PrintRun, RunInput, RunPrinter } from '@tender/contract'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import styled from 'styled-components'
import { useStandIns, useStartRun } from '../../api/usePrintRun'
import { three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { NumberInput, Segments, TextInput } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'
import { length } from '../../theme/measures'

const USUAL_SPEED = 300

/** What is sent, once it is known whether a stand-in takes it. */
export type ToSend = {
  readonly file: Blob
  readonly input: Omit<RunInput, 'printer' | 'speed'>
}

/** Asks which printer takes a file, and sends it there. */
export function SendDialog({
  name,
  make,
  share,
  onSent,
  onClose,
}: {
  name: string
  /** Keeps what is printed, and writes its file. */
  make: (standIn: boolean) => Promise<ToSend>
  /** How much of the file is written; null where that is not told. */
  share: number | null
  onSent: (run: PrintRun) => void
  onClose: () => void
}) {
  const standIns = useStandIns()
  const startRun = useStartRun()
  const [wish, setWhere] = useState<'stand-in' | 'line' | null>(null)
  const where = wish ?? (standIns.printer ? 'stand-in' : 'line')
  const [host, setHost] = useState('')
  const [port, setPort] = useState<number | null>(null)
  const [speed, setSpeed] = useState(USUAL_SPEED)
  const start = useMutation({
    mutationFn: async () => {
      const printer: RunPrinter =
        where === 'stand-in' ? { standIn: true } : { standIn: false, host: host.trim(), port: port! }
      const { file, input } = await make(printer.standIn)
      return startRun({ ...input, printer, speed }, file)
    },
    onSuccess: onSent,
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
            <progress value={share ?? undefined} aria-label="Writing the print" /> Writing the print{' '}
          </div>
        ) : (
          <Button
            main
            isDisabled={where === 'line' && (host.trim() === '' || port === null)}
            onPress={() => start.mutate()}
          >
            Print {name}
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
    width: ${length.s};
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
const Row = styled.div`
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: ${({ theme }) => theme.space.m};
`
