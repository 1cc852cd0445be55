import { PlanFile, summaryJson } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import type { PlanSummary } from '@tender/core/plan'
import { useMutation } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useState } from 'react'
import { Button as AriaButton, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { meshBytes } from '../../api/client'
import { useStandIns } from '../../api/usePrintRun'
import { saveFile, slug } from '../../ui/saveFile'
import { useToasts } from '../../ui/Toasts'
import { unwrap, WorkError } from '../../workers/answer'
import { loadedOn } from '../printRuns/loadedOn'
import { filing, proxy } from '../../workers/geometry'
import { PrintFromHere } from '../printRuns/PrintFromHere'
import { useNewTakeOff, type PrintOrder } from '../takeOffs/useNewTakeOff'
import { WentWrong } from '../takeOffs/WentWrong'
import { ReadBack } from './ReadBack'
import { planCsv } from './planCsv'
import { length } from '../../theme/measures'

const WORDS = { '3mf': 'Building the bodies', gcode: 'Writing the print' } as const

/** Everything a plan can leave as: the print itself, bodies, numbers, decisions, a sheet of paper. */
export function TakeToPrinter({
  planId,
  partName,
  meshKey,
  document: plan,
  summary,
  printed,
}: {
  planId: string
  partName: string
  meshKey: string
  document: PlanDocument
  summary: PlanSummary | null
  /** What there is to be taken off once it is printed. */
  printed: PrintOrder | null
}) {
  const toasts = useToasts()
  const takeOff = useNewTakeOff()
  const standIns = useStandIns()
  const [share, setShare] = useState(0)
  const [here, setHere] = useState(false)
  const [reading, setReading] = useState(false)
  const [wrong, setWrong] = useState(false)
  const name = `${slug(partName)}-${slug(plan.name)}`
  const file = useMutation({
    mutationFn: async (form: '3mf' | 'gcode') => {
      setShare(0)
      const bytes = await meshBytes(meshKey)
      const given = [Date.now(), meshKey, transfer(bytes, [bytes.buffer]), plan, proxy(setShare)] as const
      if (form === 'gcode') return unwrap(filing().print(...given, await loadedOn(plan.printer.id)))
      const bodies = await unwrap(filing().bodies(...given))
      return { file: new Blob([bodies as Uint8Array<ArrayBuffer>]), leavesPurge: false }
    },
    onSuccess: ({ file: content, leavesPurge }, form) => {
      saveFile(`${name}.${form}`, form === '3mf' ? 'model/3mf' : 'text/x.gcode', content)
      const errors = summary?.warnings.filter((warning) => warning.severity === 'error') ?? []
      const isWhole = form === 'gcode' || summary?.part.watertight
      toasts.show({
        text:
          errors.length > 0
            ? `Written, though not in order: ${errors[0].message}`
            : !isWhole
              ? 'Written with the stands alone: the part is open, and the format holds closed solids only. Bring it in from its own file, at the same place.'
              : leavesPurge
                ? `Written. Its swaps do not purge: let the swap block of ${plan.printer.name} push out {purgeLength} mm of filament where the printer may, or purge into a tower.`
                : form === '3mf'
                  ? 'Written. Print its bodies with the other program’s own supports switched off.'
                  : 'Written. It is the whole print, as planned.',
      })
    },
    onError: (error) =>
      toasts.show({
        text:
          error instanceof WorkError && error.code === 'STOPPED'
            ? 'Stopped; nothing was written.'
            : error.message,
      }),
  })
  if (file.isPending)
    return (
      <Working role="status">
        <progress value={share} aria-label={WORDS[file.variables]} />
        {WORDS[file.variables]}
        <Button onPress={() => void filing().cancel()}>Stop</Button>
      </Working>
    )
  return (
    <>
      <MenuTrigger>
        <Opener isDisabled={summary === null}>Take to printer</Opener>
        <Sheet placement="bottom end">
          <Menu
            onAction={(key) => {
              if (key === '3mf' || key === 'gcode') file.mutate(key)
              else if (key === 'printed' && printed) takeOff.mutate({ ...printed, document: plan })
              else if (key === 'here') setHere(true)
              else if (key === 'read') setReading(true)
              else if (key === 'wrong') setWrong(true)
              else if (key === 'csv') saveFile(`${name}.csv`, 'text/csv', planCsv(summary!))
              else if (key === 'numbers')
                saveFile(
                  `${name}-numbers.json`,
                  'application/json',
                  JSON.stringify(summaryJson(summary!), null, 2),
                )
              else if (key === 'plan')
                saveFile(
                  `${name}.plan.json`,
                  'application/json',
                  JSON.stringify(PlanFile.parse(plan), null, 2),
                )
            }}
          >
            <MenuItem id="gcode" textValue="G-code to print">
              <b>G-code to print</b>
              <span>The whole print, gaps and swaps as planned</span>
            </MenuItem>
            <MenuItem id="here" textValue="Print it from here" isDisabled={printed === null}>
              <b>Print it from here</b>
              <span>
                {standIns.printer
                  ? 'On the stand-in printer, or one in your network'
                  : 'On a printer in your network'}
                ; watch it layer by layer
              </span>
            </MenuItem>
            <MenuItem id="3mf" textValue="Bodies as 3MF">
              <b>Bodies as 3MF</b>
              <span>Part, stand and interface apart, for another program</span>
            </MenuItem>
            <MenuItem href={`/plans/${planId}/sheet`} textValue="Sheet to print">
              <b>Sheet to print</b>
              <span>One page to lay beside the printer</span>
            </MenuItem>
            <MenuItem id="csv" textValue="Numbers as CSV">
              <b>Numbers as CSV</b>
              <span>Filament use and undersides as rows</span>
            </MenuItem>
            <MenuItem id="numbers" textValue="Numbers as JSON">
              <b>Numbers as JSON</b>
              <span>Everything that was worked out</span>
            </MenuItem>
            <MenuItem id="plan" textValue="Plan as JSON">
              <b>Plan as JSON</b>
              <span>The decisions, for the command line or another bench</span>
            </MenuItem>
            <MenuItem id="read" textValue="Read a file back">
              <b>Read a file back</b>
              <span>Hold a G-code file against this plan</span>
            </MenuItem>
            <MenuItem
              id="printed"
              textValue="It is printed"
              isDisabled={printed === null || takeOff.isPending}
            >
              <b>It is printed</b>
              <span>Keep it as it is now, and note how it comes off</span>
            </MenuItem>
            <MenuItem id="wrong" textValue="It went wrong" isDisabled={printed === null}>
              <b>It went wrong</b>
              <span>Point at what happened: what may be to blame, and what to change</span>
            </MenuItem>
          </Menu>
        </Sheet>
      </MenuTrigger>
      {reading && summary && (
        <ReadBack
          document={plan}
          summary={summary}
          resultId={printed?.resultId ?? null}
          onClose={() => setReading(false)}
        />
      )}
      {wrong && printed && <WentWrong order={printed} document={plan} onClose={() => setWrong(false)} />}
      {here && printed && (
        <PrintFromHere order={{ ...printed, document: plan }} onClose={() => setHere(false)} />
      )}
    </>
  )
}

const Working = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  font-size: ${({ theme }) => theme.size.note};
  progress {
    width: ${length.xs};
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
const Opener = styled(AriaButton)`
  font: 500 ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  min-height: ${length.control};
  padding: ${({ theme }) => `${theme.space.sm} ${theme.space.m}`};
  border-radius: ${({ theme }) => theme.radius.s};
  border: ${({ theme }) => theme.border.damson};
  background: ${({ theme }) => theme.color.damson};
  color: ${({ theme }) => theme.color.onDamson};
  cursor: pointer;
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
  &[data-disabled] {
    opacity: 0.55;
  }
`
const Sheet = styled(Popover)`
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.m};
  box-shadow: ${({ theme }) => theme.floats};
  padding: ${({ theme }) => theme.space.sm};
  [role='menu'] {
    outline: 0;
  }
  [role='menuitem'] {
    display: grid;
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.m}`};
    border-radius: ${({ theme }) => theme.radius.s};
    cursor: pointer;
    outline: 0;
    color: inherit;
    text-decoration: none;
  }
  [role='menuitem'] span {
    color: ${({ theme }) => theme.color.soft};
    font-size: ${({ theme }) => theme.size.small};
  }
  [role='menuitem'][data-focused] {
    background: ${({ theme }) => theme.color.damsonWash};
  }
`
