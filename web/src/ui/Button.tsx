import { Button as AriaButton, type ButtonProps } from 'react-aria-components'
import { Link } from 'react-router'
import styled, { css } from 'styled-components'
import { length } from '../theme/measures'

const look = css<{ $main?: boolean; $quiet?: boolean }>`
  display: inline-flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.sm};
  font: 500 ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  min-height: ${length.control};
  padding: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
  border-radius: ${({ theme }) => theme.radius.s};
  border: ${length.hair} solid
    ${({ theme, $main, $quiet }) => ($main ? theme.color.damson : $quiet ? 'transparent' : theme.color.line)};
  background: ${({ theme, $main, $quiet }) => ($main ? theme.color.damson : $quiet ? 'transparent' : theme.color.sheet)};
  color: ${({ theme, $main }) => ($main ? theme.color.onDamson : theme.color.ink)};
  cursor: pointer;
  text-decoration: none;
  white-space: nowrap;
  transition: border-color 120ms;
  &[data-hovered],
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
  &[aria-pressed='true'] {
    border-color: ${({ theme }) => theme.color.damson};
    background: ${({ theme }) => theme.color.damsonWash};
    color: ${({ theme }) => theme.color.ink};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
  &[data-disabled] {
    opacity: 0.55;
    cursor: default;
    border-color: ${({ theme, $quiet }) => ($quiet ? 'transparent' : theme.color.line)};
  }
`
const Styled = styled(AriaButton)<{ $main?: boolean; $quiet?: boolean; $flush?: boolean }>`
  ${look}
  ${({ theme, $flush }) => $flush && `margin-left: calc(-1 * (${theme.space.m} + ${length.hair}));`}
`

/**
 * `main` is the one action of a view; `quiet` has no frame, and where it is `flush` its words begin where the
 * fields above it do.
 */
export function Button({
  main,
  quiet,
  flush,
  ...props
}: ButtonProps & { main?: boolean; quiet?: boolean; flush?: boolean }) {
  return <Styled {...props} $main={main} $quiet={quiet} $flush={flush} />
}

/** A place to go that looks like a button. */
export const LinkButton = styled(Link)<{ $main?: boolean; $quiet?: boolean }>`
  ${look}
`
