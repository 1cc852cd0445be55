import type { Plan } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useState } from 'react'
import { Button as AriaButton, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components'
import { Link, useNavigate } from 'react-router'
import styled from 'styled-components'
import { useList, useRemove } from '../../api/useShelf'
import { duration, grams } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons, Dialog } from '../../ui/Dialog'
import { TextInput } from '../../ui/fields'
import { FormProblem } from '../../ui/FormProblem'
import { useCopyPlan } from './useNewPlan'
import { length } from '../../theme/measures'

type Props = {
  planId: string
  partId: string
  draft: PlanDocument
  figures: Plan['figures']
  onRename: (name: string) => void
}

/** The plans for the same part, one press apart; what can be done with the whole of one. */
export function Variants({ planId, partId, draft, figures, onRename }: Props) {
  const plans = useList('plans', { part: partId })
  const navigate = useNavigate()
  const copy = useCopyPlan(partId)
  const remove = useRemove('plans')
  const [name, setName] = useState<string | null>(null)
  const mine = plans.data?.items ?? []
  return (
    <Chips role="group" aria-label="Plans for this part">
      {mine.map((one) => (
        <Link
          key={one.id}
          to={`/plans/${one.id}`}
          aria-current={one.id === planId ? 'page' : undefined}
          title={one.figures ? `${grams(one.figures.massG)}, ${duration(one.figures.timeS)}` : undefined}
        >
          {one.id === planId ? draft.name : one.document.name}
        </Link>
      ))}
      <MenuTrigger>
        <More aria-label="More for this plan">···</More>
        <List>
          <Menu
            onAction={(key) => {
              if (key === 'copy') copy.mutate({ document: draft, figures })
              else if (key === 'rename') setName(draft.name)
              else if (key === 'remove') {
                remove.mutate({ id: planId, name: draft.name })
                void navigate(`/parts/${partId}`)
              }
            }}
          >
            {mine.length > 1 && <MenuItem href={`/parts/${partId}/plans`}>Side by side</MenuItem>}
            <MenuItem href={`/plans/${planId}/better`}>Find a better plan</MenuItem>
            <MenuItem id="copy">Copy as a variant</MenuItem>
            <MenuItem id="rename">Rename</MenuItem>
            <MenuItem id="remove">Remove</MenuItem>
          </Menu>
        </List>
      </MenuTrigger>
      <FormProblem error={copy.error} />
      {name !== null && (
        <Dialog title="Rename the plan" open onClose={() => setName(null)}>
          <TextInput
            label="Name"
            value={name}
            onChange={(next) => setName(next.slice(0, 80))}
            autoFocus
            error={name.trim() === '' ? 'A plan needs a name.' : undefined}
          />
          <Buttons>
            <Button
              main
              isDisabled={name.trim() === ''}
              onPress={() => {
                onRename(name.trim())
                setName(null)
              }}
            >
              Rename
            </Button>
            <Button onPress={() => setName(null)}>Cancel</Button>
          </Buttons>
        </Dialog>
      )}
    </Chips>
  )
}

const Chips = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.sm};
  a {
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.round};
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.m}`};
    font-size: ${({ theme }) => theme.size.note};
    background: ${({ theme }) => theme.color.sheet};
    color: ${({ theme }) => theme.color.soft};
    text-decoration: none;
    max-width: ${length.m};
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  a[aria-current] {
    border-color: ${({ theme }) => theme.color.damson};
    color: ${({ theme }) => theme.color.damson};
    font-weight: 600;
  }
`
const More = styled(AriaButton)`
  border: ${length.hair} solid transparent;
  background: none;
  color: ${({ theme }) => theme.color.soft};
  border-radius: ${({ theme }) => theme.radius.round};
  padding: ${({ theme }) => `${theme.space.hair} ${theme.space.md}`};
  cursor: pointer;
  &[data-hovered] {
    border-color: ${({ theme }) => theme.color.line};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
`
const List = styled(Popover)`
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  box-shadow: ${({ theme }) => theme.floats};
  padding: ${({ theme }) => theme.space.xs};
  [role='menu'] {
    outline: 0;
  }
  [role='menuitem'] {
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.m}`};
    border-radius: ${({ theme }) => theme.radius.xs};
    cursor: pointer;
    outline: 0;
  }
  [role='menuitem'][data-focused] {
    background: ${({ theme }) => theme.color.damsonWash};
  }
`
