import { ChevronLeft, ChevronRight } from 'lucide-react'
import { UNHELD_WORDS, type Contact, type Recut } from '@tender/core/plan'
import type { UnheldReason } from '@tender/core/stand'
import type { PlanDocument } from '@tender/core/decide'
import styled from 'styled-components'
import { StackLoupe } from '../../drawings/StackLoupe'
import { gapMm, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { length } from '../../theme/measures'

/** What an underside is like, and what suits it. */
const KIND_WORDS = { flat: 'Flat', sloped: 'Sloped', rounded: 'Rounded', tip: 'Tip-like' } as const

/** The contact that is looked at, magnified, and the way to its neighbours. */
export function ContactSheet({
  contacts,
  recuts,
  selected,
  onSelect,
  document,
}: {
  contacts: readonly Contact[]
  recuts: readonly Recut[]
  selected: number
  onSelect: (index: number) => void
  document: PlanDocument
}) {
  const contact = contacts[selected]
  const { layerHeightMm, lineWidthMm, interfaceSpacingMm, standDensity } = document.decisions
  const left = (Object.entries(contact.unheldMm2) as [UnheldReason, number][])
    .filter(([, mm2]) => mm2 >= 0.5)
    .map(([why, mm2]) => `${three(mm2)} mm² ${UNHELD_WORDS[why]}`)
  const recut = recuts.find((one) => one.gapMm === contact.achievedGapMm)
  return (
    <Sheet aria-label="Contact">
      <Row>
        <SheetTitle>
          {KIND_WORDS[contact.kind]} underside {selected + 1} of {contacts.length}
        </SheetTitle>
        <span>
          <Button
            quiet
            aria-label="Underside before"
            isDisabled={selected === 0}
            onPress={() => onSelect(selected - 1)}
          >
            <ChevronLeft size={16} aria-hidden />
          </Button>
          <Button
            quiet
            aria-label="Next underside"
            isDisabled={selected === contacts.length - 1}
            onPress={() => onSelect(selected + 1)}
          >
            <ChevronRight size={16} aria-hidden />
          </Button>
        </span>
      </Row>
      <StackLoupe
        contact={contact}
        layerHeightMm={layerHeightMm}
        lineWidthMm={lineWidthMm}
        spacingMm={interfaceSpacingMm}
        standDensity={standDensity}
      />
      <SoftLine>
        <Num>
          {contact.zMm === contact.topMm
            ? contact.zMm.toFixed(2)
            : `${contact.zMm.toFixed(2)} to ${contact.topMm.toFixed(2)}`}
        </Num>{' '}
        mm up, <Num>{three(contact.areaMm2)}</Num> of <Num>{three(contact.wantedMm2)}</Num> mm² held.{' '}
        {contact.why}
      </SoftLine>
      {left.length > 0 && <SoftLine>Free: {left.join('; ')}.</SoftLine>}
      {recut && (
        <SoftLine>
          Cut again in plain <Num>{gapMm(recut.layerMm)}</Num> layers, the gap of{' '}
          <Num>{gapMm(recut.gapMm)}</Num> becomes <Num>{gapMm(recut.becomesMm)}</Num>
          {recut.orMm !== null && (
            <>
              {' '}
              or <Num>{gapMm(recut.orMm)}</Num>
            </>
          )}
          .
        </SoftLine>
      )}
    </Sheet>
  )
}

const Row = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: ${({ theme }) => theme.space.xs};
  button {
    padding: ${({ theme }) => `0 ${theme.space.s}`};
    min-height: ${length.small};
    font-size: ${({ theme }) => theme.size.sentence};
  }
`
