import { useMutation } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useRef, useState } from 'react'
import { meshBytes } from '../../api/client'
import { counted, degrees, grams, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { Segments } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { saveFile } from '../../ui/saveFile'
import { Sentence, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing, planning, proxy } from '../../workers/geometry'
import { nextTicket } from '../../workers/tickets'
import { usePartSetting } from './PartContext'

type Mode = 'add' | 'cut'

/** Changes the shape so that nothing leans past the limit; the part as it was brought in stays as it is. */
export function ReliefPanel() {
  const { part, draft, limits, meshKey, relief, setRelief } = usePartSetting()
  const [mode, setMode] = useState<Mode>('add')
  const [share, setShare] = useState<number | null>(null)
  const { document } = limits
  const givenUp = useRef(false)
  const look = useMutation({
    mutationFn: async (asked: Mode) => {
      setShare(0)
      return unwrap(
        planning().relief(
          nextTicket(),
          meshKey!,
          document,
          asked,
          proxy((_: string, done: number) => setShare(done)),
        ),
      )
    },
    // What needs holding may be asked anew meanwhile, which stops this: then it goes on after that.
    retry: (count, error) => count < 3 && stopped(error) && !givenUp.current,
    retryDelay: 300,
    onSuccess: setRelief,
    onSettled: () => setShare(null),
  })
  const save = useMutation({
    mutationFn: async (form: 'stl' | '3mf') => {
      const bytes = await meshBytes(part.meshSha256)
      setShare(0)
      const title = `${draft.name}, ${mode === 'add' ? 'filled' : 'cut'}`
      const file = await unwrap(
        filing().reliefFile(
          nextTicket(),
          part.meshSha256,
          transfer(bytes, [bytes.buffer]),
          document,
          mode,
          form,
          title,
          proxy((done: number) => setShare(done)),
        ),
      )
      saveFile(`${title}.${form}`, form === 'stl' ? 'model/stl' : 'model/3mf', file)
    },
    onSettled: () => setShare(null),
  })
  const show = () => {
    givenUp.current = false
    look.mutate(mode)
  }
  const busy = look.isPending || save.isPending
  return (
    <Sheet aria-label="Reshape">
      <Sentence>
        Change the shape instead of holding it: no face past {degrees(document.decisions.freeAngleDeg)} is
        left.
      </Sentence>
      <Segments
        label="How"
        value={mode}
        onChange={(next) => {
          setMode(next)
          setRelief(null)
        }}
        options={[
          { value: 'add', label: 'add below' },
          { value: 'cut', label: 'cut away' },
        ]}
      />
      <SoftLine>
        {mode === 'add'
          ? 'Wedges grow under ledges, and ceilings with walls all round become vaults; bridges up to the free span stay.'
          : 'Whatever leans too far goes, and all that stood on it. Islands go whole.'}
      </SoftLine>
      <Buttons>
        <Button main isDisabled={!meshKey || !limits.ready || busy} onPress={() => show()}>
          {look.isPending ? 'Working ...' : 'Show what changes'}
        </Button>
        {busy && (
          <Button
            onPress={() => {
              givenUp.current = true
              void (look.isPending ? planning().cancel() : filing().cancel())
            }}
          >
            Stop
          </Button>
        )}
      </Buttons>
      {share !== null && busy && <progress value={share} aria-label="Reshaping" />}
      {relief && relief.mode === mode && (
        <>
          <SheetTitle>What changes</SheetTitle>
          <Sentence>
            {relief.layers === 0
              ? 'Nothing: no face leans past the limit.'
              : `${grams(relief.grams)} (${three((mode === 'add' ? relief.addedMm3 : relief.cutMm3) / 1000)} cm³) ${mode === 'add' ? 'more' : 'less'}, on ${counted(relief.layers, 'layer')}. It is drawn on the part.`}
          </Sentence>
          {relief.layers > 0 && (
            <Buttons>
              <Button isDisabled={busy} onPress={() => save.mutate('stl')}>
                Save as STL
              </Button>
              <Button isDisabled={busy} onPress={() => save.mutate('3mf')}>
                Save as 3MF
              </Button>
            </Buttons>
          )}
          <SoftLine>
            Built from layers of {document.decisions.layerHeightMm} mm: meant to be printed with those.
          </SoftLine>
        </>
      )}
      <FormProblem error={stopped(look.error) ? null : look.error} />
      <FormProblem error={stopped(save.error) ? null : save.error} />
    </Sheet>
  )
}

const stopped = (error: unknown) => (error as { code?: string } | null)?.code === 'STOPPED'
