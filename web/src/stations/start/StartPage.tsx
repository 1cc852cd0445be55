import { useTotal } from '../../api/useShelf'
import { LinkButton } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Sentence, Sheet, SoftLine } from '../../ui/Sheet'
import styled from 'styled-components'
import { BridgePicture } from './BridgePicture'
import { counted } from '../../format/numbers'
import { at, length } from '../../theme/measures'

/** What this is for, in one picture, and what to do next. */
export function StartPage() {
  const counts = {
    printers: useTotal('printers'),
    filaments: useTotal('filaments'),
    trials: useTotal('trials', { read: 'yes' }),
    parts: useTotal('parts'),
    plans: useTotal('plans'),
    takeOffs: useTotal('takeOffs'),
  }
  const steps = [
    {
      done: counts.printers > 0 && counts.filaments > 0,
      to: '/bench',
      title: 'Set the bench',
      text: 'The printer, and what is on the spools.',
      have: `${counted(counts.printers, 'printer')}, ${counted(counts.filaments, 'filament')}`,
    },
    {
      done: counts.trials > 0,
      to: '/trials',
      title: 'Read a trial',
      text: 'A printed fan gives the free angle, a gap ladder the release window.',
      have: counted(counts.trials, 'trial read', 'trials read'),
    },
    {
      done: counts.parts > 0,
      to: '/parts',
      title: 'Bring in a part',
      text: 'Lay it on the bed, see what leans too far.',
      have: counted(counts.parts, 'part'),
    },
    {
      done: counts.plans > 0,
      to: counts.parts > 0 && counts.plans === 0 ? '/parts' : '/plans',
      title: 'Plan how it is held',
      text: 'Every number with its reason and its price. Then take it to the printer.',
      have: counted(counts.plans, 'plan'),
    },
    {
      done: counts.takeOffs > 0,
      to: counts.plans > 0 && counts.takeOffs === 0 ? '/plans' : '/take-offs',
      title: 'Take it off',
      text: 'Note how each contact came off: the next plan is the better for it.',
      have: counted(counts.takeOffs, 'take-off'),
    },
  ]
  const next = steps.find((step) => !step.done) ?? steps.at(-1)!
  return (
    <Page title="Supports that hold while printing, and let go cleanly afterwards">
      <Hero>
        <BridgePicture />
        <Sentence>
          Print small tests, read them, and let the readings say how far this bench reaches unsupported, how
          much gap lets a support come off without scarring the face, and what holding a part costs in
          filament, money and time.
        </Sentence>
      </Hero>
      <Steps>
        {steps.map((step, i) => (
          <Sheet key={step.title} as="article">
            <Order>
              {i + 1}
              {step.done && <span> · {step.have}</span>}
            </Order>
            <h2>{step.title}</h2>
            <SoftLine>{step.text}</SoftLine>
            <LinkButton to={step.to} $main={step === next}>
              {step.done ? 'Open' : step.title}
            </LinkButton>
          </Sheet>
        ))}
      </Steps>
    </Page>
  )
}

const Hero = styled(Sheet)`
  display: grid;
  grid-template-columns: minmax(${length.xl}, 7fr) minmax(${length.l}, 5fr);
  gap: ${length.control};
  align-items: center;
  padding: ${({ theme }) => `${theme.space.xl} ${theme.space.xxl}`};
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Steps = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(${length.m}, 1fr));
  gap: ${({ theme }) => theme.space.m};
  h2 {
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.serif}`};
    margin: ${({ theme }) => `${theme.space.xs} 0 ${theme.space.hair}`};
  }
  a {
    margin-top: ${({ theme }) => theme.space.m};
  }
`
const Order = styled.div`
  font: ${({ theme }) => `${theme.size.small} ${theme.font.mono}`};
  color: ${({ theme }) => theme.color.damson};
`
