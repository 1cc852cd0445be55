import styled from 'styled-components'
import { Sheet } from '../../ui/Sheet'
import { MoneyChoice } from './MoneyChoice'
import { ShareWorkshop } from './ShareWorkshop'
import { WorkshopFile } from './WorkshopFile'
import { length } from '../../theme/measures'

/** What concerns the workshop as a whole: one file of it, and who may come in. */
export function Workshop() {
  return (
    <Frame aria-label="The whole workshop">
      <WorkshopFile />
      <MoneyChoice />
      <ShareWorkshop />
    </Frame>
  )
}

const Frame = styled(Sheet)`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(${length.l}, 1fr));
  gap: ${({ theme }) => theme.space.xl};
  > div {
    display: grid;
    gap: ${({ theme }) => theme.space.s};
    align-content: start;
    min-width: 0;
  }
`
