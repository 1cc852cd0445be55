import { useState } from 'react'
import styled from 'styled-components'
import { length } from '../../theme/measures'
import { NumberInput } from './NumberInput'
import { Segments } from './Segments'

type AngleFrom = 'vertical' | 'bed'

/** From where the maker counts angles; remembered in the browser. */
export function useAngleConvention(): readonly [AngleFrom, (from: AngleFrom) => void] {
  const [from, setFrom] = useState<AngleFrom>(() =>
    localStorage.getItem('tender.angles') === 'bed' ? 'bed' : 'vertical',
  )
  const choose = (next: AngleFrom) => {
    localStorage.setItem('tender.angles', next)
    setFrom(next)
  }
  return [from, choose]
}

/** The choice of where angles are counted from. */
export function AngleConvention({
  value,
  onChange,
}: {
  value: AngleFrom
  onChange: (from: AngleFrom) => void
}) {
  return (
    <Segments
      label="Angle counted from"
      hideLabel
      value={value}
      onChange={onChange}
      options={[
        { value: 'vertical', label: 'from vertical' },
        { value: 'bed', label: 'from bed' },
      ]}
    />
  )
}

/**
 * An overhang angle, typed in whichever way the maker thinks; the other way is always shown. Stored from
 * vertical.
 */
export function AngleInput({
  label,
  value,
  onChange,
  min = 0,
  max = 89,
  autoFocus,
}: {
  label: string
  value: number
  onChange: (value: number) => void
  min?: number
  max?: number
  autoFocus?: boolean
}) {
  const [from, setFrom] = useAngleConvention()
  const asShown = (angle: number) => (from === 'vertical' ? angle : 90 - angle)
  return (
    <AngleRow>
      <NumberInput
        label={label}
        value={asShown(value)}
        onChange={(shown) => onChange(asShown(shown))}
        min={Math.min(asShown(min), asShown(max))}
        max={Math.max(asShown(min), asShown(max))}
        step={1}
        unit="°"
        autoFocus={autoFocus}
        description={`${Math.round(value)}° from vertical, ${Math.round(90 - value)}° from bed`}
      />
      <AngleConvention value={from} onChange={setFrom} />
    </AngleRow>
  )
}

const AngleRow = styled.div`
  display: grid;
  grid-template-columns: minmax(${length.xs}, 1fr) auto;
  gap: ${({ theme }) => theme.space.s};
  align-items: center;
`
