import { readFilamentCsv, writeFilamentCsv, type FilamentCsv, type StoredFilament } from '@tender/contract'
import { useState } from 'react'
import { newId } from '../../keep/newId'
import { useSave } from '../../api/useShelf'
import { counted } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons, Dialog } from '../../ui/Dialog'
import { pickText, saveFile } from '../../ui/saveFile'
import { Sentence, SoftLine } from '../../ui/Sheet'

/**
 * Filaments and spools as a table file, out and in. What is in the file is shown before anything is saved.
 */
export function FilamentFiles({ filaments }: { filaments: readonly StoredFilament[] }) {
  const save = useSave('filaments')
  const [found, setFound] = useState<FilamentCsv | null>(null)
  const [problems, setProblems] = useState<string[]>([])
  const takeIn = async () => {
    const failed: string[] = []
    for (const { known, input } of found?.filaments ?? []) {
      try {
        await save.mutateAsync({
          id: known?.id ?? newId(),
          revision: known?.revision ?? null,
          input,
        })
      } catch (error) {
        failed.push(`${input.name}: ${(error as Error).message}`)
      }
    }
    setProblems(failed)
    if (failed.length === 0) setFound(null)
  }
  return (
    <Buttons>
      <Button
        isDisabled={filaments.length === 0}
        onPress={() => saveFile('filaments.csv', 'text/csv', writeFilamentCsv(filaments))}
      >
        Filaments as CSV
      </Button>
      <Button
        onPress={() =>
          void pickText('.csv,text/csv').then((text) => {
            setProblems([])
            if (text !== null) setFound(readFilamentCsv(text, filaments, newId))
          })
        }
      >
        Bring in CSV
      </Button>
      {found && (
        <Dialog title="Filaments from a file" open onClose={() => setFound(null)}>
          <Sentence>
            {found.filaments.length === 0
              ? 'Nothing in the file can be used; the shelf stays as it is.'
              : `${counted(found.filaments.filter((one) => !one.known).length, 'new filament')}, ${found.filaments.filter((one) => one.known).length} to change. Nothing is taken off the shelf.`}
          </Sentence>
          {found.refused.slice(0, 10).map((row) => (
            <SoftLine key={row.line}>{row.message}</SoftLine>
          ))}
          {problems.map((problem) => (
            <SoftLine key={problem} role="alert">
              {problem}
            </SoftLine>
          ))}
          <Buttons>
            <Button
              main
              isDisabled={found.filaments.length === 0 || save.isPending}
              onPress={() => void takeIn()}
            >
              Take them in
            </Button>
            <Button onPress={() => setFound(null)}>Cancel</Button>
          </Buttons>
        </Dialog>
      )}
    </Buttons>
  )
}
