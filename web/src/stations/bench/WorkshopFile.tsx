import { RestoreReport } from '@tender/contract'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import styled from 'styled-components'
import { sendFile } from '../../api/client'
import { counted } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons, Dialog } from '../../ui/Dialog'
import { FormProblem } from '../../ui/FormProblem'
import { pickFile } from '../../ui/saveFile'
import { Sentence, SheetTitle, SoftLine } from '../../ui/Sheet'
import { useToasts } from '../../ui/Toasts'
import { length } from '../../theme/measures'

/** What the tables of a copy are to a maker; what is not named goes with what is. */
const CALLED: readonly (readonly [table: string, one: string])[] = [
  ['printer', 'printer'],
  ['filament', 'filament'],
  ['trial', 'trial'],
  ['step_reading', 'reading'],
  ['part', 'part'],
  ['plan', 'plan'],
  ['take_off', 'take-off'],
  ['take_off_note', 'note'],
]

/** The whole workshop as one file: out, and in again. What a copy would change is told before anything is. */
export function WorkshopFile() {
  const client = useQueryClient()
  const toasts = useToasts()
  const [file, setFile] = useState<File | null>(null)
  const trial = useMutation({
    mutationFn: (copy: File) => sendFile('/backup?trial', copy, RestoreReport, 'POST'),
  })
  const bring = useMutation({
    mutationFn: (copy: File) => sendFile('/backup', copy, RestoreReport, 'POST'),
    onSuccess: () => {
      setFile(null)
      toasts.show({ text: 'The copy is in.' })
      return client.invalidateQueries()
    },
  })
  const choose = async () => {
    const copy = await pickFile('.gz,application/gzip')
    if (!copy) return
    bring.reset()
    setFile(copy)
    trial.mutate(copy)
  }
  const isNews =
    trial.data && Object.values(trial.data.tables).some(({ added, replaced }) => added + replaced > 0)
  return (
    <div>
      <SheetTitle>All of it as one file</SheetTitle>
      <SoftLine>
        Parts, plans, trials, take-offs and pictures, for another machine or a bad day. A copy is also made
        every day beside the database; the last seven stay.
      </SoftLine>
      <Buttons>
        <Download href="/api/backup" download>
          Take it along
        </Download>
        <Button onPress={() => void choose()}>Bring a copy in</Button>
      </Buttons>
      {file && (
        <Dialog title="A copy of a workshop" open onClose={() => setFile(null)}>
          {trial.isPending && <SoftLine role="status">Reading {file.name} …</SoftLine>}
          {trial.data && (
            <>
              <Sentence>
                {isNews
                  ? `Made ${new Date(trial.data.madeAt).toLocaleString('en-GB')}. Brought in, it changes this:`
                  : 'Everything in this copy is here already, or newer here.'}
              </Sentence>
              <List>
                {CALLED.flatMap(([table, one]) => {
                  const of = trial.data.tables[table]
                  if (!of || of.added + of.replaced + of.kept === 0) return []
                  const says = [
                    of.added > 0 && `${counted(of.added, one)} added`,
                    of.replaced > 0 && `${counted(of.replaced, one)} replaced by what was changed later`,
                    of.kept > 0 && `${counted(of.kept, one)} kept, since changed later here`,
                  ].filter(Boolean)
                  return [<li key={table}>{says.join(', ')}</li>]
                })}
                {trial.data.renamed.map((sentence) => (
                  <li key={sentence}>{sentence}</li>
                ))}
              </List>
            </>
          )}
          <FormProblem error={trial.error ?? bring.error} />
          <Buttons>
            {isNews && (
              <Button main isDisabled={bring.isPending} onPress={() => bring.mutate(file)}>
                {bring.isPending ? 'Bringing it in …' : 'Bring it in'}
              </Button>
            )}
            <Button onPress={() => setFile(null)}>{isNews ? 'Leave all as it is' : 'Close'}</Button>
          </Buttons>
        </Dialog>
      )}
    </div>
  )
}

const List = styled.ul`
  margin: 0;
  padding-left: ${({ theme }) => theme.space.l};
`
const Download = styled.a`
  display: inline-flex;
  align-items: center;
  min-height: ${length.control};
  padding: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
  font: 500 ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  text-decoration: none;
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
`
