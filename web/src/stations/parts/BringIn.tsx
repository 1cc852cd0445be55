import { MOST_UPLOAD_BYTES, Part } from '@tender/contract'
import { MESH_ENDINGS } from '@tender/core/mesh'
import { transfer } from 'comlink'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { DropZone, FileTrigger, isFileDropItem } from 'react-aria-components'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { sendFile } from '../../api/client'
import { counted, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons, Dialog } from '../../ui/Dialog'
import { Segments, TextInput } from '../../ui/Fields'
import { FormProblem } from '../../ui/FormProblem'
import { Num, Sentence, SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import type { ReadReport } from '../../workers/geometry.worker'
import { useSave } from '../../api/useShelf'

type Brought = { file: File; report: ReadReport }

/** The door for mesh files: read first, shown what is in them, stored when the maker agrees. */
export function BringIn() {
  const [brought, setBrought] = useState<Brought | null>(null)
  const look = useMutation({
    mutationFn: async (file: File): Promise<Brought> => {
      if (file.size > MOST_UPLOAD_BYTES) throw new Error(`“${file.name}” is ${Math.round(file.size / 1e6)} MB; up to ${Math.round(MOST_UPLOAD_BYTES / 1e6)} MB can be taken in.`)
      const bytes = new Uint8Array(await file.arrayBuffer())
      try {
        return { file, report: await unwrap(filing().read(transfer(bytes, [bytes.buffer]))) }
      } catch (error) {
        throw new Error(`“${file.name}” was not taken in. ${(error as Error).message}`, { cause: error })
      }
    },
    onSuccess: setBrought,
  })
  return (
    <>
      <Zone
        aria-label="Drop an STL, OBJ or 3MF file"
        onDrop={(event) => {
          const item = event.items.find(isFileDropItem)
          if (item) void item.getFile().then((file) => look.mutate(file))
        }}
      >
        <Sentence>Drop an STL, OBJ or 3MF file here, or</Sentence>
        <FileTrigger acceptedFileTypes={[...MESH_ENDINGS, 'model/stl', 'model/obj', 'model/3mf']} onSelect={(files) => files?.[0] && look.mutate(files[0])}>
          <Button main isDisabled={look.isPending}>
            {look.isPending ? 'Reading ...' : 'Pick a file'}
          </Button>
        </FileTrigger>
        <FormProblem error={look.error} />
      </Zone>
      {brought && <Report brought={brought} onClose={() => setBrought(null)} />}
    </>
  )
}

const UNITS = { mm: 1, inch: 25.4, m: 1000 } as const

function Report({ brought: { file, report }, onClose }: { brought: Brought; onClose: () => void }) {
  const { facts, notes, unit, unitKnown } = report
  const [name, setName] = useState(file.name.replace(/\.[^.]*$/, '').replace(/[-_]+/g, ' ').trim() || 'Part') // prettier-ignore
  const [id] = useState(() => crypto.randomUUID())
  const [drawnIn, setDrawnIn] = useState<keyof typeof UNITS>(unit.unit)
  const navigate = useNavigate()
  const client = useQueryClient()
  const save = useSave('parts')
  const scale = UNITS[drawnIn]
  const store = useMutation({
    mutationFn: async () => {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const part = await sendFile(`/parts/${id}/file?name=${encodeURIComponent(name)}&fileName=${encodeURIComponent(file.name.slice(0, 200))}`, bytes, Part)
      if (part.pose.scale !== scale) await save.mutateAsync({ id, revision: part.revision, input: { name, pose: { ...part.pose, scale } } })
      await client.invalidateQueries({ queryKey: ['parts', 'list'] })
    },
    onSuccess: () => navigate(`/parts/${id}`),
  })
  return (
    <Dialog title={file.name} open onClose={onClose}>
      <Sentence>
        {counted(facts.triangles, 'triangle')} in {counted(facts.shells, 'shell')}, <Num>{facts.sizeMm.map((side) => three(side * scale)).join(' × ')}</Num> mm.{' '}
        {facts.watertight
          ? `Closed, ${three((facts.volumeMm3 * scale ** 3) / 1000)} cm³.`
          : `Not closed: ${counted(facts.openEdges, 'open edge')}. It can be sliced all the same; look through the layers then.`}
      </Sentence>
      {notes.map((note) => (
        <p key={note}>{note}</p>
      ))}
      {unit.sentence && <p>{unit.sentence} Which one is it?</p>}
      {unitKnown ? (
        <SoftLine>The file says its unit; sizes are in millimetres.</SoftLine>
      ) : (
        <Segments
          label="Drawn in"
          value={drawnIn}
          onChange={setDrawnIn}
          options={[
            { value: 'mm', label: 'millimetres' },
            { value: 'inch', label: 'inches' },
            { value: 'm', label: 'metres' },
          ]}
        />
      )}
      <TextInput label="Name of the part" value={name} onChange={setName} />
      {name.trim() === '' && <SoftLine>A part needs a name.</SoftLine>}
      <FormProblem error={store.error ?? save.error} />
      <Buttons>
        <Button main isDisabled={store.isPending || name.trim() === '' || name.length > 80} onPress={() => store.mutate()}>
          {store.isPending ? 'Bringing it in ...' : 'Bring it in'}
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </Buttons>
    </Dialog>
  )
}

const Zone = styled(DropZone)`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => theme.space.m};
  padding: ${({ theme }) => `${theme.space.l} ${theme.space.xl}`};
  border: 1.5px dashed ${({ theme }) => theme.color.line};
  border-radius: ${({ theme }) => theme.radius.m};
  &[data-drop-target] {
    border-color: ${({ theme }) => theme.color.damson};
    background: ${({ theme }) => theme.color.damsonWash};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
`
