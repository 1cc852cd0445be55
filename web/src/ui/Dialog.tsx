import { X } from 'lucide-react'
import type { ReactNode } from 'react'
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from './Button'
import { length } from '../theme/measures'

/** Something to settle before going on. Escape and a click beside it close it. */
export function Dialog({
  title,
  open,
  onClose,
  children,
  wide,
}: {
  title: string
  open: boolean
  onClose: () => void
  children: ReactNode
  wide?: boolean
}) {
  return (
    <Overlay isOpen={open} onOpenChange={(isOpen) => !isOpen && onClose()} isDismissable>
      <Frame data-wide={wide || undefined}>
        <AriaDialog>
          <Head>
            <Heading slot="title">{title}</Heading>
            <Button quiet aria-label="Close" onPress={onClose}>
              <X size={17} aria-hidden />
            </Button>
          </Head>
          {children}
        </AriaDialog>
      </Frame>
    </Overlay>
  )
}

const Overlay = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: ${({ theme }) => theme.color.shadow};
  display: grid;
  place-items: center;
  padding: ${({ theme }) => theme.space.xl};
  z-index: 40;
`
const Frame = styled(Modal)`
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.m};
  box-shadow: ${({ theme }) => theme.floats};
  width: min(${length.dialog}, 100%);
  max-height: calc(100vh - ${length.touch});
  overflow: auto;
  &[data-wide] {
    width: min(${length.wide}, 100%);
  }
  > section {
    padding: ${({ theme }) => `${theme.space.l} ${theme.space.xl} ${theme.space.xl}`};
    display: grid;
    gap: ${({ theme }) => theme.space.m};
    outline: 0;
  }
`
const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  h2 {
    font: 500 ${({ theme }) => `${theme.size.heading} ${theme.font.serif}`};
  }
`
export const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.s};
  align-items: center;
`
/**
 * The buttons of a long form: always in view and in place, whatever comes and goes above them while one is
 * pressed.
 */
export const FormFoot = styled(Buttons)`
  position: sticky;
  bottom: 0;
  margin: ${({ theme }) => `0 -${theme.space.s} -${theme.space.s}`};
  padding: ${({ theme }) => theme.space.s};
  background: ${({ theme }) => theme.color.sheet};
`
export const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${length.m}, 1fr));
  gap: ${({ theme }) => theme.space.m};
`
