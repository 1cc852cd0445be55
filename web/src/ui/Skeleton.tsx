import styled from 'styled-components'
import { space } from '../theme/measures'

/**
 * A grey shape where something is about to be. It stays still: what moves while a plan is worked out takes
 * its time from that.
 */
export const Skeleton = styled.div`
  background: ${({ theme }) => theme.color.faint};
  border-radius: ${({ theme }) => theme.radius.s};
  min-height: ${space.xl};
`
