import styled from 'styled-components'
import { Button } from '../ui/Button'
import { Buttons } from '../ui/Dialog'
import { length } from '../theme/measures'

export type AsideEntry = {
  readonly id: string
  readonly title: string
  readonly words: string
  readonly reason: string
  /** Whether what it is about is still there, so that it can be put over what stands now. */
  readonly isThere: boolean
}

type Props = {
  readonly label: string
  readonly entries: readonly AsideEntry[]
  readonly onPut: (id: string) => void
  readonly onDrop: (id: string) => void
}

/** What the server would not have. It stays here until the maker has chosen; the rest went on. */
export function AsideList({ label, entries, onPut, onDrop }: Props) {
  if (entries.length === 0) return null
  return (
    <List aria-label={label} role="alert">
      {entries.map(({ id, title, words, reason, isThere }) => (
        <li key={id}>
          <p>
            <b>{title}</b>: {words}. {reason}
          </p>
          <Buttons>
            {isThere && <Button onPress={() => onPut(id)}>Use mine</Button>}
            <Button quiet onPress={() => onDrop(id)}>
              {isThere ? 'Leave what stands there' : 'Let it go'}
            </Button>
          </Buttons>
        </li>
      ))}
    </List>
  )
}

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  li {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: ${({ theme }) => theme.space.s};
    padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
    border-left: ${length.edge} solid ${({ theme }) => theme.color.clay};
    background: ${({ theme }) => theme.color.damsonWash};
    border-radius: ${({ theme }) => theme.radius.s};
  }
  p {
    flex: 1 1 20em;
  }
`
