import { NOTHING_NOTED, takeOffFile, WHOLE, type StoredTakeOff } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useRemove } from '../../api/useShelf'
import { AsideList } from '../../keep/AsideList'
import { One } from '../../frame/One'
import { counted, day, duration, gapMm, mm } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Circumstances, RecordColumns, Unsaved } from '../../ui/RecordColumns'
import { Num, Sheet, SheetTitle } from '../../ui/Sheet'
import { saveFile, slug } from '../../ui/saveFile'
import { useAddressState } from '../../ui/useAddressState'
import { Simulated, StandInButton } from '../printRuns/StandIns'
import { WatchLink } from '../printRuns/WatchLink'
import { Complaints } from './Complaints'
import { ContactsInput } from './ContactsInput'
import { Lessons } from './Lessons'
import { TakeOffDialog } from './TakeOffDialog'
import { useNotes } from './useNotes'
import { WholeInput } from './WholeInput'
import { contactName, noteInWords, recordSentence } from './words'

/** One print, taken off: its contacts to be read, and what that teaches. */
export function TakeOffPage() {
  const { id = '' } = useParams()
  return (
    <One name="takeOffs" id={id}>
      {(takeOff) => <Record key={takeOff.id} takeOff={takeOff} />}
    </One>
  )
}

function Record({ takeOff }: { takeOff: StoredTakeOff }) {
  const { rows: notes, change, unsaved, problem, aside, putMine, drop } = useNotes(takeOff)
  const [address, setAddress] = useAddressState()
  const [changing, setChanging] = useState(false)
  const navigate = useNavigate()
  const remove = useRemove('takeOffs')
  const { printed, document } = takeOff
  const { decisions, filaments, printer } = document
  const nameOf = (id: string) => filaments.find((one) => one.id === id)?.name ?? id
  const asNoted: StoredTakeOff = { ...takeOff, notes }
  const selected = printed.contacts.some(({ key }) => key === address.contact)
    ? address.contact!
    : (printed.contacts[0]?.key ?? '')
  const contactOf = (key: string) => printed.contacts.find((one) => one.key === key)
  const wrongAt = contactOf(selected) ?? null
  return (
    <Page
      over={
        <>
          {takeOff.planId ? <Link to={`/plans/${takeOff.planId}`}>{document.name}</Link> : document.name} of{' '}
          <Link to={`/parts/${takeOff.partId}`}>{takeOff.partName}</Link>, printed {day(takeOff.printedOn)}
        </>
      }
      title={takeOff.name}
      actions={
        <>
          <Circumstances>
            <Num>{gapMm(decisions.upperGapMm)}</Num> over {nameOf(decisions.interfaceFilament)}, part in{' '}
            {nameOf(decisions.partFilament)}
            <br />
            <Num>{mm(decisions.layerHeightMm)}</Num> layers on {printer.name}, planned{' '}
            <Num>{duration(printed.timeS)}</Num>
          </Circumstances>
          <Button
            onPress={() =>
              saveFile(
                `${slug(takeOff.name)}.take-off.json`,
                'application/json',
                JSON.stringify(takeOffFile(asNoted), null, 2),
              )
            }
          >
            Take it along
          </Button>
          <StandInButton
            of="takeOffs"
            item={asNoted}
            read={notes.length > 0}
            left={printed.contacts.length - notes.filter(({ at }) => at !== WHOLE).length}
          />
          <Button onPress={() => setChanging(true)}>Change</Button>
          <Button
            quiet
            onPress={() => {
              remove.mutate({ id: takeOff.id, name: takeOff.name })
              void navigate('/take-offs')
            }}
          >
            Remove
          </Button>
        </>
      }
    >
      <p>
        {takeOff.simulated && <Simulated />}
        {recordSentence(asNoted)}
        <WatchLink of={{ kind: 'takeOff', id: takeOff.id }} />
        {printed.moreContacts > 0 &&
          ` ${counted(printed.moreContacts, 'smaller contact')} are not told apart.`}
        {takeOff.bed && (
          <>
            {' '}
            {counted(takeOff.bed.dots, 'dot')} on its tag:{' '}
            <Link to={`/take-offs/bed/${takeOff.bed.id}`}>the whole bed side by side</Link>.
          </>
        )}
        {unsaved > 0 && (
          <Unsaved role="status">
            {' '}
            {counted(unsaved, 'note')} not with the server yet. {problem}
          </Unsaved>
        )}
      </p>
      <AsideList
        label="Notes that were not taken"
        entries={aside.map(({ id, key, changes, reason }) => {
          const contact = contactOf(key)
          return {
            id,
            title:
              key === WHOLE
                ? 'The whole print'
                : contact
                  ? contactName(contact)
                  : 'A contact that is not there',
            words: noteInWords(changes),
            reason,
            isThere: key === WHOLE || contact !== undefined,
          }
        })}
        onPut={putMine}
        onDrop={drop}
      />
      <RecordColumns>
        <ContactsInput
          takeOff={asNoted}
          selected={selected}
          nameOf={nameOf}
          onSelect={(contact) => setAddress({ contact })}
          onNote={change}
        />
        <div>
          <WholeInput
            takeOff={asNoted}
            note={notes.find(({ at }) => at === WHOLE) ?? { at: WHOLE, revision: 0, ...NOTHING_NOTED }}
            onNote={(changes) => change(WHOLE, changes)}
          />
          <Lessons takeOff={asNoted} />
          <Sheet aria-label="What went wrong">
            <SheetTitle>
              What went wrong{wrongAt ? ` under the ${contactName(wrongAt)}` : ''}? Point at it
            </SheetTitle>
            <Complaints
              print={{
                id: takeOff.id,
                partId: takeOff.partId,
                document: document as unknown as PlanDocument,
                reading: notes.find(({ at }) => at === wrongAt?.key) ?? null,
                damp: takeOff.damp,
              }}
              contact={wrongAt}
            />
          </Sheet>
        </div>
      </RecordColumns>
      {changing && <TakeOffDialog takeOff={takeOff} onClose={() => setChanging(false)} />}
    </Page>
  )
}
