import {
  NOTHING_NOTED,
  TakeOffPhoto,
  type StoredNote,
  type StoredTakeOff,
  type TakeOffNote,
} from '@tender/contract'
import { DAMAGES, SPECKS, STAYED } from '@tender/core/takeOff'
import { FINISH_GRADES, RELEASE_GRADES, type Grade } from '@tender/core/trial'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, type KeyboardEvent } from 'react'
import styled from 'styled-components'
import { shelfKeys } from '../../api/shelves'
import { ContactMap } from '../../drawings/ContactMap'
import { gradeColour } from '../../drawings/grades'
import { counted } from '../../format/numbers'
import { Photos } from '../../keep/Photos'
import { Button } from '../../ui/Button'
import { Chips } from '../../ui/Chips'
import { TextInput, Toggle } from '../../ui/fields'
import { GradeRow } from '../../ui/GradeRow'
import { Key, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { contactFacts, contactName, NOTHING_ON_CONTACT } from './words'
import { length, space } from '../../theme/measures'

const FINISH_KEYS = ['q', 'w', 'e', 'r', 't']
const STAYED_KEYS = ['a', 's', 'd']

type Props = {
  takeOff: StoredTakeOff
  selected: string
  nameOf: (filament: string) => string
  onSelect: (contact: string) => void
  onNote: (at: string, changes: Partial<StoredNote>) => void
}

/** The print from below. Arrow keys go from contact to contact, one key gives a grade. */
export function ContactsInput({ takeOff, selected, nameOf, onSelect, onNote }: Props) {
  const { printed, notes, photos } = takeOff
  const { contacts } = printed
  const buttons = useRef(new Map<string, HTMLButtonElement>())
  const byKey = new Map(notes.map((note) => [note.at, note]))
  const at = contacts.findIndex(({ key }) => key === selected)
  if (at < 0)
    return (
      <Frame aria-label="Contacts">
        <SheetTitle>Contacts</SheetTitle>
        <SoftLine>Nothing of this print was held, so nothing was to come off.</SoftLine>
      </Frame>
    )
  const contact = contacts[at]
  const note: StoredNote = byKey.get(contact.key) ?? { at: contact.key, revision: 0, ...NOTHING_NOTED }
  const say = (changes: Partial<TakeOffNote>) => onNote(contact.key, changes)
  const go = (to: number) => {
    const { key } = contacts[Math.max(0, Math.min(contacts.length - 1, to))]
    onSelect(key)
    buttons.current.get(key)?.focus()
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return
    const key = event.key.toLowerCase()
    const figure = Number(key)
    const [finish, stayed] = [FINISH_KEYS.indexOf(key), STAYED_KEYS.indexOf(key)]
    if (key === 'arrowleft' || key === 'arrowup') go(at - 1)
    else if (key === 'arrowright' || key === 'arrowdown') go(at + 1)
    else if (key === 'home') go(0)
    else if (key === 'end') go(contacts.length - 1)
    else if (figure >= 1 && figure <= 5) say({ release: figure as Grade })
    else if (finish >= 0) say({ finish: (finish + 1) as Grade })
    else if (stayed >= 0) say({ stayed: STAYED[stayed] })
    else if (key === 'x') say({ leftOut: !note.leftOut })
    else if (key === 'backspace' || key === 'delete') say(NOTHING_ON_CONTACT)
    else return
    event.preventDefault()
  }
  return (
    <Frame aria-label="Contacts">
      <SheetTitle>The print from below. How did each contact come off?</SheetTitle>
      <Below>
        <ContactMap
          printed={printed}
          markOf={(key) => byKey.get(key)}
          selected={contact.key}
          onSelect={onSelect}
          label={`The print from below, with ${counted(contacts.length, 'contact')}`}
        />
      </Below>
      <Picks role="group" aria-label="Contacts, lowest first" onKeyDown={onKeyDown}>
        {contacts.map((one, n) => {
          const own = byKey.get(one.key)
          const release = own?.release ?? null
          return (
            <button
              key={one.key}
              ref={(element) =>
                void (element ? buttons.current.set(one.key, element) : buttons.current.delete(one.key))
              }
              type="button"
              aria-pressed={one.key === contact.key}
              aria-label={`${n + 1}, ${contactName(one)}, ${release === null ? 'not read' : RELEASE_GRADES[release - 1]}`}
              tabIndex={one.key === contact.key ? 0 : -1}
              onClick={() => onSelect(one.key)}
            >
              <i style={release === null ? undefined : { background: gradeColour(release) }} />
              {n + 1}
            </button>
          )
        })}
      </Picks>
      <Grading onKeyDown={onKeyDown}>
        <div>
          <b>{contactName(contact)}</b>
          <SoftLine>{contactFacts(contact, nameOf)}</SoftLine>
        </div>
        <GradeRow
          label="How it came off"
          words={RELEASE_GRADES}
          keys={['1', '2', '3', '4', '5']}
          value={note.release}
          onChange={(release) => say({ release })}
        />
        <GradeRow
          label="How the face looks"
          words={FINISH_GRADES}
          keys={FINISH_KEYS.map((key) => key.toUpperCase())}
          value={note.finish}
          onChange={(finish) => say({ finish })}
        />
        <Row>
          <Chips
            label="Of the interface stayed on the part"
            value={note.stayed}
            options={STAYED}
            onChange={(stayed) => say({ stayed })}
          />
          <Chips
            label="Specks in the face"
            value={note.specks}
            options={SPECKS}
            onChange={(specks) => say({ specks })}
          />
          <Chips
            label="Damage"
            value={note.damage}
            options={DAMAGES}
            onChange={(damage) => say({ damage })}
          />
        </Row>
        <Row
          onKeyDown={(event) => (event.target as HTMLElement).tagName === 'INPUT' && event.stopPropagation()}
        >
          {note.damage !== null && note.damage !== 'none' && (
            <Grow>
              <TextInput
                key={`where ${contact.key}`}
                label="Where"
                value={note.damageWhere}
                onChange={(damageWhere) => say({ damageWhere: damageWhere.slice(0, 200) })}
              />
            </Grow>
          )}
          <Grow>
            <TextInput
              key={`note ${contact.key}`}
              label="Note"
              value={note.note}
              onChange={(text) => say({ note: text.slice(0, 1000) })}
            />
          </Grow>
        </Row>
        <Row>
          <Toggle value={note.leftOut} onChange={(leftOut) => say({ leftOut })}>
            Leave it out of what it teaches
          </Toggle>
          <Button quiet onPress={() => say(NOTHING_ON_CONTACT)}>
            Take it back
          </Button>
          <span className="gap" />
          <Button aria-label="Contact before" isDisabled={at === 0} onPress={() => go(at - 1)}>
            ←
          </Button>
          <Button
            aria-label="Next contact"
            isDisabled={at === contacts.length - 1}
            onPress={() => go(at + 1)}
          >
            →
          </Button>
        </Row>
        <ContactPhotos takeOff={takeOff} at={contact.key} photos={photos} called={contactName(contact)} />
        <SoftLine>
          <Key>←</Key> <Key>→</Key> go on, <Key>A</Key> <Key>S</Key> <Key>D</Key> say how much stayed,{' '}
          <Key>X</Key> leaves it out, <Key>⌫</Key> takes it back.
        </SoftLine>
      </Grading>
    </Frame>
  )
}

/** Pictures of a contact, or of the whole. */
export function ContactPhotos({
  takeOff,
  at,
  photos,
  called,
}: {
  takeOff: Pick<StoredTakeOff, 'id'>
  at: string
  photos: readonly TakeOffPhoto[]
  called: string
}) {
  const client = useQueryClient()
  return (
    <Photos
      path={`/take-offs/${takeOff.id}/photos/${encodeURIComponent(at)}`}
      schema={TakeOffPhoto}
      photos={photos.filter((photo) => photo.at === at)}
      called={called}
      onPhotos={(photosOf) =>
        client.setQueryData<StoredTakeOff>(
          shelfKeys.one('takeOffs', takeOff.id),
          (before) => before && { ...before, photos: photosOf(before.photos) },
        )
      }
    />
  )
}

const Frame = styled(Sheet)`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
`
const Below = styled.div`
  height: clamp(${length.m}, 42vh, ${length.xxl});
`
const Picks = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.xs};
  button {
    display: inline-flex;
    align-items: center;
    gap: ${({ theme }) => theme.space.xs};
    min-width: ${length.touch};
    min-height: ${length.control};
    justify-content: center;
    font: ${({ theme }) => `${theme.size.note} ${theme.font.mono}`};
    color: ${({ theme }) => theme.color.ink};
    background: ${({ theme }) => theme.color.sheet};
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.s};
    cursor: pointer;
  }
  button[aria-pressed='true'] {
    border-color: ${({ theme }) => theme.color.damson};
    background: ${({ theme }) => theme.color.damsonWash};
  }
  i {
    width: ${space.s};
    height: ${space.s};
    border-radius: ${({ theme }) => theme.radius.round};
    border: ${({ theme }) => theme.border.line};
    forced-color-adjust: none;
  }
`
const Grading = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  border-top: ${({ theme }) => theme.border.faint};
  padding-top: ${({ theme }) => theme.space.m};
  b {
    display: block;
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.serif}`};
  }
  b::first-letter {
    text-transform: uppercase;
  }
`
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => `${theme.space.m} ${theme.space.xl}`};
  align-items: end;
  .gap {
    flex: 1;
  }
`
const Grow = styled.div`
  flex: 1 1 ${length.m};
`
