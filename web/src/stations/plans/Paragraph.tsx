import { DEFAULT_PLAN, type Decisions, type NumberDecision } from '@tender/core/decide'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState, type ReactNode } from 'react'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { Soft } from '../../ui/Sheet'
import { CHOICES, FILAMENT_ROLES, NUMBERS, type ChoiceDecision, type FilamentDecision } from './catalogue'
import { labelOf } from './inWords'
import { usePlanSetting } from './PlanContext'
import { ChoiceToken, FilamentToken, NumberToken } from './Token'

const FOLDED_KEY = 'tender.folded'
const foldedOnes = (): string[] => {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(FOLDED_KEY) ?? '[]')
    return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string') : []
  } catch {
    return []
  }
}

/**
 * A paragraph of the letter that may be folded: what stays then is what it is about, and every value in it
 * that is not the usual one. What is folded stays so for all plans in this browser.
 */
export function Paragraph({
  about,
  decides,
  children,
}: {
  about: string
  decides: readonly (keyof Decisions)[]
  children: ReactNode
}) {
  const { document } = usePlanSetting()
  const [folded, setFolded] = useState(() => foldedOnes().includes(about))
  const fold = () => {
    const others = foldedOnes().filter((one) => one !== about)
    localStorage.setItem(FOLDED_KEY, JSON.stringify(folded ? others : [...others, about]))
    setFolded(!folded)
  }
  const own = decides.filter(
    (name) => JSON.stringify(document.decisions[name]) !== JSON.stringify(DEFAULT_PLAN.decisions[name]),
  )
  return (
    <Block>
      <Fold
        aria-label={`${folded ? 'Unfold' : 'Fold'} ${about}`}
        aria-expanded={!folded}
        onPress={fold}
        data-folded={folded || undefined}
      >
        {folded ? <ChevronRight size={13} aria-hidden /> : <ChevronDown size={13} aria-hidden />}
      </Fold>
      <p>
        {folded ? (
          <>
            <Soft>
              {about.charAt(0).toUpperCase() + about.slice(1)}
              {own.length === 0 ? ' as usual' : ': '}
            </Soft>
            {own.map((name, i) => (
              <span key={name}>
                {i > 0 && ' '}
                {labelOf(name).toLowerCase()} <TokenOf name={name} then={i < own.length - 1 ? ',' : '.'} />
              </span>
            ))}
            {own.length === 0 && '.'}
          </>
        ) : (
          children
        )}
      </p>
    </Block>
  )
}

function TokenOf({ name, then }: { name: keyof Decisions; then: ',' | '.' }) {
  if (name in NUMBERS) return <NumberToken name={name as NumberDecision} then={then} />
  if (name in CHOICES) return <ChoiceToken name={name as ChoiceDecision} then={then} />
  if (name in FILAMENT_ROLES) return <FilamentToken name={name as FilamentDecision} then={then} />
  return then
}

const Block = styled.div`
  position: relative;
`
const Fold = styled(AriaButton)`
  position: absolute;
  left: ${({ theme }) => `-${theme.space.l}`};
  top: ${({ theme }) => theme.space.sm};
  padding: 0;
  border: 0;
  background: none;
  color: ${({ theme }) => theme.color.soft};
  cursor: pointer;
  opacity: 0.4;
  ${Block}:hover &,
  &[data-folded],
  &[data-focus-visible] {
    opacity: 1;
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
  @media (hover: none) {
    opacity: 1;
  }
`
