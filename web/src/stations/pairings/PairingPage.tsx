import type { StoredFilament } from '@tender/contract'
import { planFilament } from '@tender/contract'
import { colourAdvice, livesTogether, pairingSentence, type Verdict } from '@tender/core/pairing'
import { useMemo } from 'react'
import { Link, useParams } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { chance, day } from '../../format/numbers'
import { LinkButton } from '../../ui/Button'
import { Swatch } from '../../ui/fields'
import { EvidenceLink } from '../../ui/EvidenceLink'
import { Page, WaitingPage } from '../../ui/Page'
import { Num, Sentence, Sheet, SheetTitle, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { GapChart } from '../trials/answers/GapChart'
import { BridgeDrawing } from './BridgeDrawing'
import { Remedies } from './Remedies'
import { Story } from './Story'
import { usePairings, type Pairings } from './usePairings'
import { WithPairings } from './WithPairings'
import { usualPrinter } from '../bench/usualPrinter'
import { Ways } from './Ways'
import { at, length } from '../../theme/measures'

/**
 * One filament touched by another: whether they can live together, what was measured, and what it would cost.
 */
export function PairingPage() {
  const { part: partId, touching: touchingId } = useParams()
  const filaments = useList('filaments')
  return (
    <Loaded query={filaments} skeleton={<WaitingPage />}>
      {({ items }) => {
        const [part, touching] = [partId, touchingId].map((id) => items.find((one) => one.id === id))
        return part && touching ? (
          <WithPairings key={part.id + touching.id} isPage>
            <Pairing part={part} touching={touching} />
          </WithPairings>
        ) : (
          <Page over={<Link to="/pairings">Pairings</Link>} title="A pairing that is not here">
            <Empty>One of the two filaments is not on the bench.</Empty>
          </Page>
        )
      }}
    </Loaded>
  )
}

function Pairing({ part, touching }: { part: StoredFilament; touching: StoredFilament }) {
  const pairings = usePairings()
  const { knownOf, chainOf, bondInWords, book } = pairings
  const printer = usualPrinter(useList('printers').data?.items ?? [])
  const itself = part.id === touching.id
  const known = knownOf(part, touching)
  const back = knownOf(touching, part)
  const chain = chainOf(part, touching, part)
  const verdicts = useMemo(
    () => (printer ? livesTogether(planFilament(part), planFilament(touching), printer, book) : []),
    [part, touching, printer, book],
  )
  const colours = colourAdvice(part.colour, touching.colour)
  const says = pairingSentence(known)
  return (
    <Page
      over={<Link to={`/pairings?part=${part.id}&touching=${touching.id}`}>Pairings</Link>}
      title={itself ? `${part.name} on itself` : `${part.name} touched by ${touching.name}`}
      actions={
        <>
          {!itself && <LinkButton to={`/pairings/${touching.id}/${part.id}`}>The other way round</LinkButton>}
          <LinkButton
            $main={known.source === 'guess'}
            to={`/trials/new/gap?part=${part.id}&touching=${touching.id}`}
          >
            Print a gap ladder of it
          </LinkButton>
        </>
      }
    >
      <Columns>
        <div>
          <Sheet aria-label="The bridge">
            <SheetTitle>Which bond lets go</SheetTitle>
            <BridgeDrawing
              chain={chain}
              colours={{ part: part.colour, touching: touching.colour, bulk: part.colour }}
            />
            <Sentence>{bondInWords(part, touching, part)}</Sentence>
            <Remedies chain={chain} />
          </Sheet>
          <Ways part={part} touching={touching} />
        </div>
        <div>
          <Sheet aria-label="What is known">
            <SheetTitle>What is known</SheetTitle>
            <Sentence>{says}</Sentence>
            <GapChart fit={known.fit} says={says} height={180} />
            {known.ladders.length > 0 ? (
              <SoftLine>
                From{' '}
                {known.ladders.map(({ id, name, printedOn }, i) => (
                  <span key={id}>
                    {i > 0 && ', '}
                    <EvidenceLink id={id} name={name} /> of {day(printedOn)}
                  </span>
                ))}
                .
              </SoftLine>
            ) : (
              <SoftLine>
                One gap ladder of these two would settle it; around {known.fit.suggestedGapMm.toFixed(2)} mm
                it tells most.
              </SoftLine>
            )}
            {!itself && <SoftLine>{whichWay(part, touching, known, back)}</SoftLine>}
          </Sheet>
          <Story part={part.id} touching={touching.id} of={pairings} />
          {!itself && (
            <Sheet aria-label="Can they live together">
              <SheetTitle>Can they live together{printer ? ` on ${printer.name}` : ''}</SheetTitle>
              <Verdicts verdicts={verdicts} />
              <p style={{ display: 'flex', gap: 8, alignItems: 'center', marginTop: 8 }}>
                <Swatch style={{ background: part.colour, width: 34 }} />
                <Swatch style={{ background: touching.colour, width: 34 }} />
                <Num>{Math.round(colours.difference)}</Num> <SoftLine as="span">apart</SoftLine>
              </p>
              <SoftLine>{colours.sentence}</SoftLine>
            </Sheet>
          )}
        </div>
      </Columns>
    </Page>
  )
}

/** Which of the two is better off as the part. */
function whichWay(
  part: StoredFilament,
  touching: StoredFilament,
  known: ReturnType<Pairings['knownOf']>,
  back: typeof known,
): string {
  const other = `${touching.name} touched by ${part.name}`
  if (known.source === 'guess' && back.source === 'guess')
    return `Neither way round has been measured; the guess is the same for ${other}.`
  if (back.source === 'guess') return `The other way round, ${other}, has not been measured.`
  if (known.source === 'guess')
    return `The other way round, ${other}, was measured: ${chance(back.fit.pTender)} come off clean. That need not hold here.`
  const apart = known.fit.pTender - back.fit.pTender
  if (Math.abs(apart) < 0.05)
    return `Either way round is as good: ${chance(known.fit.pTender)} here, ${chance(back.fit.pTender)} with ${other}.`
  return apart > 0
    ? `This way round is the better one: ${chance(known.fit.pTender)} against ${chance(back.fit.pTender)}.`
    : `The other way round, ${other}, comes off cleaner: ${chance(back.fit.pTender)} against ${chance(known.fit.pTender)}.`
}

const ABOUT: Record<Verdict['about'], string> = {
  bed: 'Bed',
  softening: 'Softening',
  heat: 'Heat',
  damp: 'Damp',
  solvent: 'Taking off',
}
const GRADES = { good: 'fine', mind: 'mind', bad: 'trouble' } as const

function Verdicts({ verdicts }: { verdicts: readonly Verdict[] }) {
  if (verdicts.length === 0)
    return <SoftLine>Put a printer on the bench to see whether they get along on it.</SoftLine>
  return (
    <Table>
      <thead>
        <tr>
          <th>
            <Unseen>About</Unseen>
          </th>
          <th>
            <Unseen>Verdict</Unseen>
          </th>
        </tr>
      </thead>
      <tbody>
        {verdicts.map(({ about, grade, sentence }) => (
          <tr key={about}>
            <Subject>
              <Mark grade={grade} /> {ABOUT[about]}
            </Subject>
            <td>
              <Unseen>{GRADES[grade]}: </Unseen>
              {sentence}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  )
}

function Mark({ grade }: { grade: Verdict['grade'] }) {
  return (
    <svg width="14" height="14" aria-hidden data-grade={grade}>
      {grade === 'good' ? (
        <circle cx="7" cy="7" r="5" />
      ) : grade === 'mind' ? (
        <path d="M7 1l6 12H1z" />
      ) : (
        <path d="M4.5 1h5l3.5 3.5v5L9.5 13h-5L1 9.5v-5z" />
      )}
    </svg>
  )
}

const Subject = styled.td`
  white-space: nowrap;
  color: ${({ theme }) => theme.color.soft};
  svg {
    vertical-align: -${length.rule};
    margin-right: ${({ theme }) => theme.space.xs};
    fill: ${({ theme }) => theme.color.pine};
  }
  svg[data-grade='mind'] {
    fill: ${({ theme }) => theme.color.clay};
  }
  svg[data-grade='bad'] {
    fill: ${({ theme }) => theme.color.wine};
  }
`
const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  > div {
    display: grid;
    gap: ${({ theme }) => theme.space.m};
    min-width: 0;
  }
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
`
