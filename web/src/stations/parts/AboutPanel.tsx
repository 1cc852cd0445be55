import { X } from 'lucide-react'
import { BODY_ROLES, type BodyRole } from '@tender/core/decide'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { counted, duration, grams, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Choice, TextInput } from '../../ui/fields'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { usePartSetting } from './PartContext'
import { versionsOf } from './versions'

/** What the part is: its file, its bodies, its tags and versions, the plans for it. */
export function AboutPanel() {
  const { part, draft, drawing, needs, change } = usePartSetting()
  const { facts } = part
  const scale = draft.pose.scale ** 3
  return (
    <>
      <Sheet aria-label="Facts">
        <SheetTitle>What it is</SheetTitle>
        <TextInput
          label="Name"
          value={draft.name}
          onChange={(name) => name.trim() !== '' && change({ name: name.slice(0, 80) })}
        />
        <p>
          {drawing ? (
            <>
              <Num>{drawing.sizeMm.map(three).join(' × ')}</Num> mm as it lies
            </>
          ) : (
            'Measuring ...'
          )}
        </p>
        <p>
          {facts.watertight ? (
            <>
              <Num>{three((facts.volumeMm3 * scale) / 1000)}</Num> cm³, closed
            </>
          ) : (
            `Not closed: ${counted(facts.openEdges, 'open edge')}. It is sliced as well as can be; look through its layers.`
          )}
        </p>
        <SoftLine>
          {counted(facts.triangles, 'triangle')} in {counted(facts.shells, 'shell')}
          {needs.needs && <>; sliced it comes to {three(needs.needs.slicedMm3 / 1000)} cm³</>}
        </SoftLine>
        {needs.needs?.overlap && <SoftLine>{needs.needs.overlap.sentence} Outlined in the picture.</SoftLine>}
        {part.notes.map((note) => (
          <SoftLine key={note}>{note}</SoftLine>
        ))}
      </Sheet>
      {part.meshBodies.length > 1 && <Bodies />}
      <Tags />
      <Versions />
      <Plans partId={part.id} />
    </>
  )
}

const ROLES: Record<BodyRole, string> = {
  part: 'is part',
  stand: 'is a stand already',
  hold: 'says where to hold',
  keepOff: 'says where not to',
}

function Bodies() {
  const { part, draft, change } = usePartSetting()
  const set = (body: number, role: BodyRole) =>
    change({ bodies: part.meshBodies.map((_, i) => (i === body ? role : (draft.bodies[i] ?? 'part'))) })
  return (
    <Sheet aria-label="Bodies">
      <SheetTitle>{counted(part.meshBodies.length, 'body', 'bodies')}</SheetTitle>
      {part.meshBodies.slice(0, 40).map(({ name, triangles }, i) => (
        <Choice
          key={i}
          label={`${name || `Body ${i + 1}`}, ${counted(triangles, 'triangle')}`}
          value={draft.bodies[i] ?? 'part'}
          onChange={(role) => set(i, role)}
          options={BODY_ROLES.map((value) => ({ value, label: ROLES[value] }))}
        />
      ))}
    </Sheet>
  )
}

function Tags() {
  const { draft, change } = usePartSetting()
  const [text, setText] = useState('')
  const add = () => {
    const tag = text.trim().slice(0, 30)
    if (tag !== '' && !draft.tags.includes(tag) && draft.tags.length < 12)
      change({ tags: [...draft.tags, tag] })
    setText('')
  }
  return (
    <Sheet aria-label="Tags">
      <SheetTitle>Tags</SheetTitle>
      {draft.tags.length > 0 && (
        <TagRow>
          {draft.tags.map((tag) => (
            <Button
              key={tag}
              aria-label={`Take off the tag ${tag}`}
              onPress={() => change({ tags: draft.tags.filter((other) => other !== tag) })}
            >
              {tag} <X size={13} aria-hidden />
            </Button>
          ))}
        </TagRow>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault()
          add()
        }}
      >
        <TagRow>
          <TextInput label="New tag" value={text} onChange={setText} />
          <Button type="submit">Add</Button>
        </TagRow>
      </form>
    </Sheet>
  )
}

function Versions() {
  const { part } = usePartSetting()
  const parts = useList('parts')
  const line = versionsOf(part, parts.data?.items ?? [])
  if (line.length < 2) return null
  return (
    <Sheet aria-label="Versions">
      <SheetTitle>Versions, newest first</SheetTitle>
      {line.map((one, i) => (
        <p key={one.id}>
          {one.id === part.id ? <b>{one.name}</b> : <Link to={`/parts/${one.id}?tab=about`}>{one.name}</Link>}{' '}
          <SoftLine as="span">{`${line.length - i}: ${one.fileName}, ${three((one.facts.volumeMm3 * one.pose.scale ** 3) / 1000)} cm³`}</SoftLine>
        </p>
      ))}
    </Sheet>
  )
}

function Plans({ partId }: { partId: string }) {
  const mine = useList('plans', { part: partId }).data?.items ?? []
  if (mine.length === 0) return null
  return (
    <Sheet aria-label="Plans">
      <SheetTitle>Plans for it</SheetTitle>
      {mine.map((plan) => (
        <p key={plan.id}>
          <Link to={`/plans/${plan.id}`}>{plan.document.name}</Link>{' '}
          {plan.figures && (
            <SoftLine as="span">
              {grams(plan.figures.massG)}, {duration(plan.figures.timeS)}
            </SoftLine>
          )}
        </p>
      ))}
    </Sheet>
  )
}

const TagRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.sm};
  align-items: end;
`
