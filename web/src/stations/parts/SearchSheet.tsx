import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { FormProblem } from '../../ui/FormProblem'
import { Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { usePartSetting } from './PartContext'
import { usePoseSearch } from './usePoseSearch'
import { length } from '../../theme/measures'

/** Starts a search for better poses, and says how far it is. */
export function SearchSheet() {
  const { part, limits } = usePartSetting()
  const { search, start, stop, error, starting } = usePoseSearch(part.id)
  const working = search?.state === 'working'
  return (
    <Sheet aria-label="Better poses">
      <SheetTitle>Find a better pose</SheetTitle>
      {working ? (
        <Row role="status">
          <progress value={search.progress} aria-label="Searching for poses" />
          <span>{search.judged} poses judged</span>
          <Button onPress={stop}>Stop</Button>
        </Row>
      ) : (
        <>
          <SoftLine>{says(search?.state ?? null, search?.message ?? null)}</SoftLine>
          <Button isDisabled={!limits.ready || starting} onPress={() => start(limits.document)}>
            {search ? 'Search again' : 'Search'}
          </Button>
        </>
      )}
      <FormProblem error={error} />
    </Sheet>
  )
}

function says(state: 'working' | 'done' | 'stopped' | 'failed' | null, message: string | null): string {
  switch (state) {
    case 'done':
      return 'The poses found stand below, judged with the limits of the search.'
    case 'stopped':
      return 'The search was stopped.'
    case 'failed':
      return message ?? 'The search could not be ended.'
    default:
      return 'Some hundred poses are judged by what they would need holding; the best are planned for real. It goes on when this page is left.'
  }
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  progress {
    flex: 1;
    min-width: ${length.xs};
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
