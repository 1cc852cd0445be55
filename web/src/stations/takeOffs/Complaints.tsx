import { changePlan } from '@tender/core/decide'
import {
  changeOf,
  COMPLAINTS,
  type Cause,
  type Complaint,
  type ComplaintInput,
  type PrintedContact,
} from '@tender/core/takeOff'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { percent } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { FormProblem } from '../../ui/FormProblem'
import { SoftLine } from '../../ui/Sheet'
import { useFit } from '../../workers/useFit'
import { useKnownTrials } from '../../workers/useKnownTrials'
import { useCopyPlan } from '../plans/useNewPlan'
import { ComplaintPicture } from './ComplaintPicture'
import { length, space } from '../../theme/measures'

/** Causes that are told; the rest is hardly to blame. */
const TOLD = 4
const TESTS = {
  fan: 'An overhang fan',
  span: 'A bridge ladder',
  gap: 'A gap ladder',
  purge: 'A purge ladder',
  offset: 'An offset comb',
} as const

/** A print that something went wrong with: its plan, and what else is known of it. */
export type WrongPrint = Pick<ComplaintInput, 'document' | 'reading' | 'damp'> & {
  /** By what it is told apart from others. */
  readonly id: string
  readonly partId: string
}

/** Pointing at what went wrong: why that may be, and what to change next, one thing at a time. */
export function Complaints({ print, contact }: { print: WrongPrint; contact: PrintedContact | null }) {
  const [complaint, setComplaint] = useState<Complaint | null>(null)
  const known = useKnownTrials()
  const copy = useCopyPlan(print.partId)
  const { document, reading, damp } = print
  const asked = complaint && {
    complaint,
    document: { ...document, learnt: known?.learnt },
    contact,
    reading,
    damp,
  }
  const causes = useFit(
    ['causes', print.id, document, complaint, contact?.key, reading, damp, known?.version],
    async (api) => (asked && known ? api.causes({ ...asked, trials: known.trials }) : null),
  )
  const vary = (cause: Cause) => {
    if (!known || !cause.change) return
    const changed = changePlan(document, changeOf(document, cause.change, contact), {
      trials: known.trials,
      book: known.book,
    })
    copy.mutate({ document: changed, figures: null })
  }
  const { partFilament, interfaceFilament } = document.decisions
  return (
    <>
      <Pictures role="group" aria-label="What went wrong">
        {COMPLAINTS.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === complaint}
            onClick={() => setComplaint(one === complaint ? null : one)}
          >
            <ComplaintPicture of={one} />
            {one}
          </button>
        ))}
      </Pictures>
      {complaint && causes && (
        <Causes>
          {causes.slice(0, TOLD).map((cause) => (
            <li key={cause.name}>
              <Share aria-hidden>
                <i style={{ width: `${Math.max(2, 100 * cause.chance)}%` }} />
              </Share>
              <b>
                {cause.name}, {percent(cause.chance)}
              </b>
              <SoftLine>{cause.why}</SoftLine>
              <p>
                {cause.changeInWords} <SoftLine as="span">Price: {cause.price}.</SoftLine>
              </p>
              <Buttons>
                {cause.change && (
                  <Button isDisabled={copy.isPending} onPress={() => vary(cause)}>
                    Make this variant
                  </Button>
                )}
                {cause.test && (
                  <Link to={`/trials/new/${cause.test}?part=${partFilament}&touching=${interfaceFilament}`}>
                    {TESTS[cause.test]} would settle it
                  </Link>
                )}
              </Buttons>
            </li>
          ))}
        </Causes>
      )}
      {complaint && causes && (
        <SoftLine>
          Shares of the blame, from this plan, these readings and how often each cause shows so, which is a
          guess.
        </SoftLine>
      )}
      <FormProblem error={copy.error} />
    </>
  )
}

const Pictures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${length.xs}, 1fr));
  gap: ${({ theme }) => theme.space.sm};
  button {
    display: grid;
    justify-items: center;
    align-content: start;
    gap: ${({ theme }) => theme.space.xs};
    font: ${({ theme }) => `${theme.size.small}/1.2 ${theme.font.sans}`};
    color: ${({ theme }) => theme.color.ink};
    background: ${({ theme }) => theme.color.sheet};
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.s};
    padding: ${({ theme }) => theme.space.s};
    cursor: pointer;
  }
  button[aria-pressed='true'] {
    background: ${({ theme }) => theme.color.damsonWash};
    border-color: ${({ theme }) => theme.color.damson};
  }
`
const Causes = styled.ol`
  list-style: none;
  margin: ${({ theme }) => `${theme.space.m} 0 ${theme.space.s}`};
  padding: 0;
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  li {
    display: grid;
    gap: ${({ theme }) => theme.space.hair};
  }
  b {
    display: block;
  }
  b::first-letter {
    text-transform: uppercase;
  }
`
const Share = styled.div`
  height: ${space.sm};
  border-radius: ${({ theme }) => theme.radius.round};
  background: ${({ theme }) => theme.color.faint};
  forced-color-adjust: none;
  i {
    display: block;
    height: 100%;
    border-radius: ${({ theme }) => theme.radius.round};
    background: ${({ theme }) => theme.color.damson};
  }
`
