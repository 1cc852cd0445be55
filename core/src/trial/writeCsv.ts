import { csvFormatRows } from 'd3-dsv'
import { csvCell } from '../table'
import type { Readings } from './coupon'
import { CSV_COLUMNS, type CsvTrial } from './readCsv'

/** Columns that are written beyond those a file must have. */
const MORE: Partial<Record<Readings['kind'], readonly string[]>> = { gap: ['forceN', 'areaMm2'] }

/**
 * Readings of trials of one kind as CSV text, in the form that `readTrialCsv` takes. Empty when there are
 * none.
 */
export function writeTrialCsv(trials: readonly CsvTrial[]): string {
  if (trials.length === 0) return ''
  const [{ kind }] = trials
  const prints = trials.some(({ readings }) => readings.some((one) => 'print' in one && one.print))
  const columns = [...CSV_COLUMNS[kind], ...(MORE[kind] ?? []), ...(prints ? ['print'] : [])]
  const rows = trials.flatMap(({ trial, readings }) =>
    readings.map((reading) =>
      columns.map((name) => csvCell(name === 'trial' ? trial : (reading as Record<string, unknown>)[name])),
    ),
  )
  return `${csvFormatRows([columns, ...rows])}\n`
}
