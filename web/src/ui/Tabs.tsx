import type { ReactNode } from 'react'
import { Tab, TabList, TabPanel, Tabs as Group } from 'react-aria-components'
import styled from 'styled-components'
import { length } from '../theme/measures'

export type TabItem<T extends string> = {
  readonly value: T
  readonly label: string
  readonly content: ReactNode
}

/** A few sheets in one place, one of them in view. */
export function Tabs<T extends string>({
  label,
  value,
  onChange,
  items,
}: {
  label: string
  value: T
  onChange: (value: T) => void
  items: readonly TabItem<T>[]
}) {
  return (
    <Holder selectedKey={value} onSelectionChange={(key) => onChange(key as T)}>
      <List aria-label={label}>
        {items.map((item) => (
          <One key={item.value} id={item.value}>
            {item.label}
          </One>
        ))}
      </List>
      {items.map((item) => (
        <Panel key={item.value} id={item.value}>
          {item.content}
        </Panel>
      ))}
    </Holder>
  )
}

const Holder = styled(Group)`
  display: flex;
  flex-direction: column;
  gap: ${({ theme }) => theme.space.m};
  min-width: 0;
`
const List = styled(TabList)`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => `${theme.space.hair} ${theme.space.m}`};
  border-bottom: ${({ theme }) => theme.border.line};
`
const One = styled(Tab)`
  padding: ${({ theme }) => `${theme.space.xs} ${theme.space.hair} ${theme.space.sm}`};
  margin-bottom: -${length.hair};
  cursor: pointer;
  color: ${({ theme }) => theme.color.soft};
  border-bottom: ${length.rule} solid transparent;
  outline: none;
  &[data-selected] {
    color: ${({ theme }) => theme.color.ink};
    border-color: ${({ theme }) => theme.color.damson};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
`
const Panel = styled(TabPanel)`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  align-content: start;
  outline: none;
  min-width: 0;
  > section {
    display: grid;
    gap: ${({ theme }) => theme.space.s};
  }
`
