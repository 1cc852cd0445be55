import { takeOffOf, type StoredTakeOff } from '@tender/contract'
import type { LessonKind } from '@tender/core/takeOff'
import styled from 'styled-components'
import { useSave } from '../../api/useShelf'
import { counted } from '../../format/numbers'
import { ConflictNote } from '../../ui/ConflictNote'
import { Toggle } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { useFit } from '../../workers/useFit'
import { useKnownTrials } from '../../workers/useKnownTrials'
import { takeOffInput } from './takeOffInput'
import { length } from '../../theme/measures'

/** What this take-off moved; each lesson can be left out. */
export function Lessons({ takeOff }: { takeOff: StoredTakeOff }) {
  const known = useKnownTrials()
  const save = useSave('takeOffs')
  const own = takeOffOf(takeOff)
  // A print may be in a filament that is not on the bench, or no more.
  const printedIn = Object.fromEntries(takeOff.document.filaments.map(({ id, family }) => [id, family]))
  const lessons = useFit(
    ['lessons', takeOff.id, takeOff.notes, takeOff.lessonsLeftOut, known?.version],
    async (api) =>
      known
        ? api.lessons(own, known.trials, known.takeOffs, { ...printedIn, ...known.families }, known.book)
        : null,
  )
  const heed = (kind: LessonKind, heeded: boolean) =>
    save.mutate({
      id: takeOff.id,
      revision: takeOff.revision,
      input: {
        ...takeOffInput(takeOff),
        lessonsLeftOut: heeded
          ? takeOff.lessonsLeftOut.filter((one) => one !== kind)
          : [...takeOff.lessonsLeftOut, kind],
      },
    })
  return (
    <Sheet aria-label="What it teaches">
      <SheetTitle>What it teaches</SheetTitle>
      {!lessons || lessons.length === 0 ? (
        <SoftLine>
          {lessons ? 'Nothing yet: read a contact, or note minutes and weights.' : 'Working it out …'}
        </SoftLine>
      ) : (
        <List>
          {lessons.map(({ kind, about, before, after, readings, leftOut }) => (
            <li key={about} data-out={leftOut || undefined}>
              <div>
                <b>{about}</b>
                <span>
                  <Num>{before}</Num> → <Num>{after}</Num>
                </span>
                <SoftLine>
                  by {counted(readings, 'reading')}
                  {leftOut && ', left out: it would move this'}
                </SoftLine>
              </div>
              <Toggle value={!leftOut} onChange={(heeded) => heed(kind, heeded)}>
                <span className="unseen">Heed “{about}”</span>
              </Toggle>
            </li>
          ))}
        </List>
      )}
      <FormProblem error={save.error} />
      <ConflictNote error={save.error} />
    </Sheet>
  )
}

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: ${({ theme }) => theme.space.m};
    padding: ${({ theme }) => `${theme.space.s} 0`};
    border-top: ${({ theme }) => theme.border.faint};
  }
  li:first-child {
    border: 0;
  }
  li > div {
    display: grid;
  }
  b {
    font-weight: 600;
  }
  [data-out] > div {
    opacity: 0.65;
  }
  .unseen {
    position: absolute;
    width: ${length.hair};
    height: ${length.hair};
    overflow: hidden;
    clip-path: inset(50%);
  }
`
