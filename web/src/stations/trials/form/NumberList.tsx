import { useState } from 'react'
import { AngleConvention, TextInput, useAngleConvention } from '../../../ui/fields'

/** An error of a whole list or of its first bad entry. */
export function listError(error: unknown): string | undefined {
  if (!error) return undefined
  const { message } = error as { message?: string }
  return (
    message ??
    Object.values(error as Record<string, { message?: string } | undefined>).find((entry) => entry?.message)
      ?.message
  )
}

/** The arms' angles, typed in either convention; stored from vertical. */
export function AngleListInput({
  value,
  onChange,
  error,
}: {
  value: readonly number[] | undefined
  onChange: (value: number[]) => void
  error?: string
}) {
  const [from, setFrom] = useAngleConvention()
  const other = (angles: readonly number[]) =>
    angles.map((angle) => Number((90 - angle).toFixed(4))).sort((a, b) => a - b)
  return (
    <div>
      <ListInput
        // Typed text belongs to its convention.
        key={from}
        label={`Angles from ${from === 'bed' ? 'the bed' : 'vertical'}, °`}
        value={from === 'bed' ? other(value ?? []) : value}
        onChange={(angles) => onChange(from === 'bed' ? other(angles) : angles)}
        error={error}
      />
      <AngleConvention value={from} onChange={setFrom} />
    </div>
  )
}

/**
 * Numbers out of a typed list, with commas, semicolons or spaces between them. Where something else stands
 * between them, and no point anywhere, a comma inside of one is its point: 0,1 0,15.
 */
function typedNumbers(text: string): number[] {
  const numbers = text.split(/,?[\s;]+/).filter(Boolean)
  const isPoint = numbers.length > 1 && numbers.every((number) => /^[^.,]*(,[^.,]*)?$/.test(number))
  return isPoint
    ? numbers.map((number) => Number(number.replace(',', '.')))
    : text
        .split(/[\s,;]+/)
        .filter(Boolean)
        .map(Number)
}

/** Numbers typed with commas or spaces between them. */
export function ListInput({
  label,
  value,
  onChange,
  error,
}: {
  label: string
  value: readonly number[] | undefined
  onChange: (value: number[]) => void
  error?: string
}) {
  const [text, setText] = useState(() => (value ?? []).join(', '))
  return (
    <TextInput
      label={label}
      value={text}
      error={error}
      onChange={(next) => {
        setText(next)
        // Sorted and without repeats: a step is known by its value.
        onChange([...new Set(typedNumbers(next))].sort((a, b) => a - b))
      }}
    />
  )
}
