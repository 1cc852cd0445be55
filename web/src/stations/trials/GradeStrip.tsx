import type { StepReading } from '@tender/contract'
import { couponGrid, stepsOf, type Coupon, type Grade } from '@tender/core/trial'
import { useTheme } from 'styled-components'
import { gradeColour } from '../../drawings/grades'
import { space } from '../../theme/measures'

const [APART, SIZE] = [15, 12]
/** The better, the larger: colour is not the only sign. */
const sizeOf = (grade: Grade | null) => (grade === null ? 9 : SIZE - 1.7 * (grade - 1))

/**
 * All grades of a coupon at a glance: a row for each side, swap or axis, two for a gap ladder (how tiles came
 * off, how they look). The cards around it say the same in words.
 */
export function GradeStrip({ coupon, readings }: { coupon: Coupon; readings: readonly StepReading[] }) {
  const { color } = useTheme()
  const byStep = new Map(readings.map((reading) => [reading.step, reading]))
  const steps = stepsOf(coupon)
  const columns = couponGrid(coupon).columns.length
  const marks: { x: number; y: number; grade: Grade | null; square: boolean }[] = []
  steps.forEach((step, i) => {
    const reading = byStep.get(step.key)
    const [x, row] = [(i % columns) * APART, Math.floor(i / columns)]
    if (coupon.kind !== 'gap') marks.push({ x, y: row * APART, grade: reading?.grade ?? null, square: false })
    else
      marks.push(
        { x, y: 2 * row * APART, grade: reading?.release ?? null, square: false },
        { x, y: (2 * row + 1) * APART, grade: reading?.finish ?? null, square: true },
      )
  })
  const height = (coupon.kind === 'gap' ? (2 * steps.length) / columns : steps.length / columns) * APART
  return (
    <svg
      width={columns * APART}
      height={height}
      aria-hidden
      style={{ display: 'block', margin: `${space.xs} 0 ${space.s}`, maxWidth: '100%' }}
    >
      {marks.map(({ x, y, grade, square }, i) => (
        <rect
          key={i}
          x={x + (APART - sizeOf(grade)) / 2}
          y={y + (APART - sizeOf(grade)) / 2}
          width={sizeOf(grade)}
          height={sizeOf(grade)}
          rx={square ? 2 : SIZE / 2}
          fill={grade === null ? 'none' : gradeColour(grade)}
          stroke={grade === null ? color.line : 'none'}
          strokeWidth="1.3"
        />
      ))}
    </svg>
  )
}
