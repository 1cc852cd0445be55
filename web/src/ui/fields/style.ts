import { css } from 'styled-components'
import { length } from '../../theme/measures'

/** A label above, a field, what is said of it below. */
export const column = css`
  display: grid;
  gap: ${({ theme }) => theme.space.xs};
  align-content: start;
  min-width: 0;
  label,
  .label,
  .react-aria-Label {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.soft};
  }
  [slot='description'] {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.soft};
  }
  [slot='errorMessage'] {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.wine};
  }
`
/** The frame of a field. */
export const box = css`
  font: ${({ theme }) => `${theme.size.body} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  min-height: ${length.control};
  padding: ${({ theme }) => `${theme.space.xs} ${theme.space.md}`};
  width: 100%;
  min-width: 0;
  &[data-focused],
  &[data-focus-visible],
  &[data-focus-within] {
    ${({ theme }) => theme.focus}
    outline-offset: 0;
  }
  &[data-invalid] {
    border-color: ${({ theme }) => theme.color.wine};
  }
`

/** What every field may say of itself. */
export type Said = { readonly label: string; readonly description?: string; readonly error?: string }
