import { Part } from '@tender/contract'
import { transfer } from 'comlink'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import styled from 'styled-components'
import { newId } from '../../keep/newId'
import { sendFile } from '../../api/client'
import { useList, useSave } from '../../api/useShelf'
import { counted, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Dialog, FormFoot } from '../../ui/Dialog'
import { Choice, Segments, TextInput } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { Num, Sentence, SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import type { Brought } from './BringIn'
import { inputOf } from './usePartDraft'
import { newestVersions } from './versions'
import { length, space } from '../../theme/measures'

const UNITS = { mm: 1, inch: 25.4, m: 1000 } as const
type Unit = keyof typeof UNITS
type Wish = {
  readonly id: string
  readonly name: string
  readonly drawnIn: Unit
  readonly olderId: string | null
}

const nameOf = (fileName: string) =>
  (
    fileName
      .replace(/\.[^.]*$/, '')
      .replace(/[-_]+/g, ' ')
      .trim() || 'Part'
  ).slice(0, 80)

/** What the files hold, what they are to be called and what becomes of them. */
export function BringInDialog({
  files,
  refused,
  onClose,
}: {
  files: readonly Brought[]
  refused: readonly string[]
  onClose: () => void
}) {
  const parts = useList('parts')
  const known = parts.data?.items ?? []
  const [wishes, setWishes] = useState<readonly Wish[]>(() =>
    files.map(({ file, report }) => ({
      id: newId(),
      name: nameOf(file.name),
      drawnIn: report.unit.unit,
      olderId: null,
    })),
  )
  const [how, setHow] = useState<'apart' | 'together'>('apart')
  const navigate = useNavigate()
  const client = useQueryClient()
  const save = useSave('parts')
  const wish = (index: number, changes: Partial<Wish>) =>
    setWishes((before) => before.map((one, i) => (i === index ? { ...one, ...changes } : one)))
  const send = (
    id: string,
    name: string,
    fileName: string,
    olderId: string | null,
    bytes: Blob | Uint8Array,
  ) =>
    sendFile(
      `/parts/${id}/file?name=${encodeURIComponent(name)}&fileName=${encodeURIComponent(fileName.slice(0, 200))}${olderId ? `&olderId=${olderId}` : ''}`,
      bytes,
      Part,
    )
  const store = useMutation({
    mutationFn: async () => {
      if (how === 'together') {
        const loaded = await Promise.all(
          files.map(async ({ file }, i) => ({
            name: wishes[i].name,
            bytes: new Uint8Array(await file.arrayBuffer()),
            scale: UNITS[wishes[i].drawnIn],
          })),
        )
        const packed = await unwrap(
          filing().together(
            wishes[0].name,
            transfer(
              loaded,
              loaded.map(({ bytes }) => bytes.buffer),
            ),
          ),
        )
        return send(wishes[0].id, wishes[0].name, `${wishes[0].name}.3mf`, wishes[0].olderId, packed)
      }
      let last: Part | null = null
      for (const [i, { file }] of files.entries()) {
        const { id, name, drawnIn, olderId } = wishes[i]
        const part = await send(id, name, file.name, olderId, file)
        const scale = UNITS[drawnIn]
        last =
          part.pose.scale === scale || olderId
            ? part
            : await save.mutateAsync({
                id,
                revision: part.revision,
                input: { ...inputOf(part), pose: { ...part.pose, scale } },
              })
      }
      return last!
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['parts', 'list'] }),
    onSuccess: (part) => {
      onClose()
      return navigate(files.length === 1 || how === 'together' ? `/parts/${part.id}` : '/parts')
    },
  })
  const unnamed = wishes.some(({ name }) => name.trim() === '' || name.length > 80)
  // It comes up whole: a row that came later would move its buttons from under the pointer.
  if (parts.isLoading) return null
  return (
    <Dialog title={files.length === 1 ? files[0].file.name : `${files.length} files`} open onClose={onClose}>
      {refused.map((sentence) => (
        <p key={sentence} role="alert">
          {sentence}
        </p>
      ))}
      {files.length > 1 && (
        <Segments
          label="Bring them in as"
          value={how}
          onChange={setHow}
          options={[
            { value: 'apart', label: `${files.length} parts` },
            { value: 'together', label: `one part of ${files.length} bodies` },
          ]}
        />
      )}
      {files.map((brought, i) => (
        <OneFile
          key={wishes[i].id}
          brought={brought}
          wish={wishes[i]}
          known={known}
          many={files.length > 1}
          onChange={(changes) => wish(i, changes)}
        />
      ))}
      <FormProblem error={store.error} />
      <FormFoot>
        <Button main isDisabled={store.isPending || unnamed} onPress={() => store.mutate()}>
          {store.isPending
            ? 'Bringing it in ...'
            : files.length === 1 || how === 'together'
              ? 'Bring it in'
              : 'Bring them in'}
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </FormFoot>
    </Dialog>
  )
}

function OneFile({
  brought: { file, report },
  wish,
  known,
  many,
  onChange,
}: {
  brought: Brought
  wish: Wish
  known: readonly Part[]
  many: boolean
  onChange: (changes: Partial<Wish>) => void
}) {
  const { facts, notes, unit, unitKnown, bodies, picture, sha256 } = report
  const scale = UNITS[wish.drawnIn]
  const same = known.find((part) => part.meshSha256 === sha256)
  const newest = newestVersions(known).map(({ part }) => part)
  const namesake = newest.find((part) => part.fileName === file.name && part.meshSha256 !== sha256)
  return (
    <One data-many={many || undefined}>
      <img src={picture} alt="" />
      <div>
        {many && <b>{file.name}</b>}
        <Sentence>
          {counted(facts.triangles, 'triangle')} in {counted(facts.shells, 'shell')},{' '}
          <Num>{facts.sizeMm.map((side) => three(side * scale)).join(' × ')}</Num> mm.{' '}
          {facts.watertight
            ? `Closed, ${three((facts.volumeMm3 * scale ** 3) / 1000)} cm³.`
            : `Not closed: ${counted(facts.openEdges, 'open edge')}. It can be sliced all the same; look through the layers then.`}
        </Sentence>
        {same && (
          <p>
            This very file is here already, as <Link to={`/parts/${same.id}`}>{same.name}</Link>. It would
            share its mesh.
          </p>
        )}
        {bodies.length > 1 && (
          <SoftLine>
            {counted(bodies.length, 'body', 'bodies')}:{' '}
            {bodies
              .slice(0, 6)
              .map((name, i) => name || `Body ${i + 1}`)
              .join(', ')}
            {bodies.length > 6 ? ' ...' : ''}. What each is for can be said afterwards.
          </SoftLine>
        )}
        {notes.map((note) => (
          <p key={note}>{note}</p>
        ))}
      </div>
      <Fields>
        {unit.sentence && <p>{unit.sentence} Which one is it?</p>}
        {unitKnown ? (
          <SoftLine>The file says its unit; sizes are in millimetres.</SoftLine>
        ) : (
          <Segments
            label="Drawn in"
            value={wish.drawnIn}
            onChange={(drawnIn) => onChange({ drawnIn })}
            options={[
              { value: 'mm', label: 'millimetres' },
              { value: 'inch', label: 'inches' },
              { value: 'm', label: 'metres' },
            ]}
          />
        )}
        <TextInput label="Name of the part" value={wish.name} onChange={(name) => onChange({ name })} />
        {wish.name.trim() === '' && <SoftLine>A part needs a name.</SoftLine>}
        {newest.length > 0 && (
          <Choice
            label="A newer version of"
            value={wish.olderId ?? NO_OLDER}
            onChange={(olderId) => onChange({ olderId: olderId === NO_OLDER ? null : olderId })}
            options={[
              { value: NO_OLDER, label: 'nothing here' },
              ...newest.map(({ id, name }) => ({ value: id, label: name })),
            ]}
          />
        )}
        {namesake && wish.olderId === null && (
          <SoftLine>
            “{namesake.name}” came from a file of this name.{' '}
            <Button onPress={() => onChange({ olderId: namesake.id, name: namesake.name })}>
              It is a newer version
            </Button>
          </SoftLine>
        )}
      </Fields>
    </One>
  )
}

const NO_OLDER = 'none'

const One = styled.div`
  display: grid;
  grid-template-columns: ${length.s} minmax(0, 1fr);
  gap: ${({ theme }) => `${space.sm} ${theme.space.m}`};
  align-items: start;
  &[data-many] {
    border-top: ${({ theme }) => theme.border.faint};
    padding-top: ${({ theme }) => theme.space.s};
  }
  img {
    width: ${length.s};
  }
  p {
    margin: ${({ theme }) => `${theme.space.hair} 0`};
  }
`
const Fields = styled.div`
  grid-column: 1 / -1;
  display: grid;
  gap: ${({ theme }) => theme.space.s};
`
