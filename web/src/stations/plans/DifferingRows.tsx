import type { Plan } from '@tender/contract'
import { counted } from '../../format/numbers'
import { differingRows } from './sideBySide'

/** Rows of a table: decisions in which plans differ, a column each. */
export const DifferingRows = ({ plans }: { plans: readonly Pick<Plan, 'document'>[] }) =>
  differingRows(plans).map(({ label, cells }) => (
    <tr key={label}>
      <th scope="row">{label}</th>
      {cells.map((cell, n) => (
        <td key={n}>{cell}</td>
      ))}
    </tr>
  ))

/** The raised dots that a variant on a bed is known by. */
export const Dots = ({ count }: { count: number }) => (
  <span aria-label={counted(count, 'dot')} role="img">
    {'●'.repeat(count)}
  </span>
)
