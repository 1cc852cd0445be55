import { csvFormatRows } from 'd3-dsv'
import type { Readings } from './coupon'
import { CSV_COLUMNS, type CsvTrial } from './readCsv'

/** Columns that are written beyond those a file must have. */
const MORE: Partial<Record<Readings['kind'], readonly string[]>> = { gap: ['forceN', 'areaMm2'] }

/** Readings of trials of one kind as CSV text, in the form that `readTrialCsv` takes. Empty when there are none. */
export function writeTrialCsv(trials: readonly CsvTrial[]): string {
  if (trials.length === 0) return ''
  const [{ kind }] = trials
  const columns = [...CSV_COLUMNS[kind], ...(MORE[kind] ?? [])]
  const rows = trials.flatMap(({ trial, readings }) => readings.map((reading) => columns.map((name) => cell(name === 'trial' ? trial : (reading as Record<string, unknown>)[name]))))
  return `${csvFormatRows([columns, ...rows])}\n`
}

/** A text that a table program would take for a formula is kept a text by an apostrophe, which `readTrialCsv` takes off again. */
function cell(value: unknown): string {
  if (value === null || value === undefined) return ''
  if (typeof value === 'number') return String(value)
  return /^[=+\-@\t\r]/.test(String(value)) ? `'${String(value)}` : String(value)
}
