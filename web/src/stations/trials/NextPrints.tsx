import { NO_CHANGES } from '@tender/core/bench'
import { takeOffBehind, type NextPrint } from '@tender/core/trial'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { useFit } from '../../workers/useFit'
import { useKnownTrials } from '../../workers/useKnownTrials'
import { CouponCost } from './CouponCost'
import { length } from '../../theme/measures'

const SHOWN = 3
const STEPS = 3
const WORDS: Record<NextPrint['kind'], { readonly many: string; readonly unit: string }> = {
  fan: { many: 'Arms', unit: '°' },
  span: { many: 'Bridges', unit: '\u00a0mm' },
  gap: { many: 'Tiles', unit: '\u00a0mm' },
  purge: { many: 'Strips', unit: '\u00a0mm³' },
}

/** The few steps that would tell most, over all that has been printed, with their price. */
export function NextPrints() {
  const trials = useList('trials').data?.items ?? []
  const known = useKnownTrials()
  const read =
    known?.numbered.filter(({ trial }) => trial.readings.length > 0 && takeOffBehind(trial.id) === null) ?? []
  const advice = useFit(['advice', read.map(({ number }) => number), known?.families, known?.book], (api) =>
    api.advice(read, STEPS, SHOWN, known?.families ?? {}, known?.book ?? NO_CHANGES),
  )
  if (!advice || advice.length === 0) return null
  return (
    <Sheet aria-label="What to print next">
      <SheetTitle>What would tell most if printed next</SheetTitle>
      <List>
        {advice.map((next) => {
          const trial = trials.find(({ id }) => id === next.likeId)
          const { many, unit } = WORDS[next.kind]
          if (!trial) return null
          return (
            <li key={next.likeId}>
              <div>
                <Link to={`/trials/new/${next.kind}?like=${next.likeId}&steps=${next.values.join(',')}`}>
                  {many} at {listed(next.values.map(String))}
                  {unit}
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
  grid-template-columns: repeat(auto-fit, minmax(${length.l}, 1fr));
  gap: ${({ theme }) => theme.space.l};
  li {
    display: grid;
    gap: ${({ theme }) => theme.space.hair};
    align-content: start;
  }
  a {
    font: 500 ${({ theme }) => `${theme.size.sentence} ${theme.font.serif}`};
  }
`
