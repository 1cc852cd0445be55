import { DropZone } from 'react-aria-components'
import styled from 'styled-components'
import { length } from '../theme/measures'

/** Where files are dropped; a picker beside it does the same by keys. */
export const FileZone = styled(DropZone)`
  /* Its hidden button stays within it. */
  position: relative;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => theme.space.m};
  padding: ${({ theme }) => `${theme.space.l} ${theme.space.xl}`};
  border: ${length.rule} dashed ${({ theme }) => theme.color.line};
  border-radius: ${({ theme }) => theme.radius.m};
  &[data-drop-target] {
    border-color: ${({ theme }) => theme.color.damson};
    background: ${({ theme }) => theme.color.damsonWash};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
  progress {
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
