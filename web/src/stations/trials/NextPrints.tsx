import { knownTrials, type Trial } from '@tender/contract'
import { clingGuess } from '@tender/core/bench'
import { adviseNext, gapPriorOf, WEAK_GAP_PRIOR, type NextPrint } from '@tender/core/trial'
import { useDeferredValue, useMemo } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useBook } from '../../api/useFamilies'
import { useList } from '../../api/useShelf'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { CouponCost } from './CouponCost'

const SHOWN = 3
const STEPS = 3
const WORDS: Record<NextPrint['kind'], { readonly many: string; readonly unit: string }> = {
  fan: { many: 'arms', unit: '°' },
  span: { many: 'bridges', unit: ' mm' },
  gap: { many: 'tiles', unit: ' mm' },
  purge: { many: 'strips', unit: ' mm³' },
}

/** The few steps that would tell most, over all that has been printed, with their price. */
export function NextPrints({ trials }: { trials: readonly Trial[] }) {
  const filaments = useList('filaments').data?.items
  const book = useBook()
  const settled = useDeferredValue(trials)
  const advice = useMemo(() => {
    const familyOf = ({ id }: { readonly id: string }) => filaments?.find((one) => one.id === id)?.family
    const known = knownTrials(settled).filter((trial) => trial.readings.length > 0)
    return adviseNext(known, STEPS, ({ conditions }) => {
      const [part, other] = [familyOf(conditions.partFilament), familyOf(conditions.supportFilament)]
      return part && other ? gapPriorOf(clingGuess(part, other, book).cling) : WEAK_GAP_PRIOR
    }).slice(0, SHOWN)
  }, [settled, filaments, book])
  if (advice.length === 0) return null
  return (
    <Sheet aria-label="What to print next">
      <SheetTitle>What would tell most if printed next</SheetTitle>
      <List>
        {advice.map((next) => {
          const trial = settled.find(({ id }) => id === next.like.id)!
          const { many, unit } = WORDS[next.kind]
          return (
            <li key={next.like.id}>
              <div>
                <Link to={`/trials/new/${next.kind}?like=${next.like.id}&steps=${next.values.join(',')}`}>
                  {many.charAt(0).toUpperCase() + many.slice(1)} at{' '}
                  {listed(next.values.map((value) => `${value}${unit}`))}
                </Link>
                <SoftLine>like {trial.name}</SoftLine>
              </div>
              <SoftLine>
                worth <Num>{next.bits.toFixed(1)}</Num> bits
              </SoftLine>
              <CouponCost trial={trial} values={next.values} />
            </li>
          )
        })}
      </List>
    </Sheet>
  )
}

const listed = (words: readonly string[]) =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`

const List = styled.ul`
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: ${({ theme }) => theme.space.l};
  li {
    display: grid;
    gap: 2px;
    align-content: start;
  }
  a {
    font: 500 17px ${({ theme }) => theme.font.serif};
  }
`
