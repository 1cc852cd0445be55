import type { ReactNode } from 'react'
import { Switch } from 'react-aria-components'
import styled from 'styled-components'
import { at, length, space } from '../../theme/measures'

/** On or off. */
export function Toggle({
  children,
  value,
  onChange,
  isDisabled,
}: {
  children: ReactNode
  value: boolean
  onChange: (value: boolean) => void
  isDisabled?: boolean
}) {
  return (
    <StyledSwitch isSelected={value} onChange={onChange} isDisabled={isDisabled}>
      <span className="track" aria-hidden />
      {children}
    </StyledSwitch>
  )
}

const StyledSwitch = styled(Switch)`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  cursor: pointer;
  .track {
    width: ${length.control};
    height: ${space.xl};
    flex: none;
    border-radius: ${({ theme }) => theme.radius.round};
    border: ${length.hair} solid ${({ theme }) => theme.color.soft};
    position: relative;
  }
  .track::after {
    content: '';
    position: absolute;
    left: ${length.edge};
    top: ${length.edge};
    width: ${space.m};
    height: ${space.m};
    border-radius: ${({ theme }) => theme.radius.round};
    background: ${({ theme }) => theme.color.soft};
    transition: left 120ms;
  }
  &[data-disabled] {
    color: ${({ theme }) => theme.color.soft};
    cursor: default;
  }
  &[data-selected] .track {
    background: ${({ theme }) => theme.color.damson};
    border-color: ${({ theme }) => theme.color.damson};
  }
  &[data-selected] .track::after {
    left: calc(100% - ${space.m} - ${length.edge});
    background: ${({ theme }) => theme.color.onDamson};
  }
  &[data-focus-visible] .track {
    ${({ theme }) => theme.focus}
  }
  @media ${at.forcedColors} {
    .track::after {
      background: CanvasText;
    }
    &[data-selected] .track {
      background: Highlight;
    }
    &[data-selected] .track::after {
      background: HighlightText;
    }
  }
`
