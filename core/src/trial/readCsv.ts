import { csvParseRows } from 'd3-dsv'
import { TenderError } from '../errors'
import type { FanReading, GapReading, Grade } from './readings'

export type CsvTrial = { readonly trial: string; readonly kind: 'fan'; readonly readings: FanReading[] } | { readonly trial: string; readonly kind: 'gap'; readonly readings: GapReading[] }
export type CsvRefusal = { readonly line: number; readonly message: string }

const FAN_COLUMNS = ['trial', 'angleDeg', 'direction', 'layerHeightMm', 'lineWidthMm', 'grade']
const GAP_COLUMNS = ['trial', 'gapMm', 'spacingMm', 'release', 'finish']

/**
 * Reads trial readings from CSV text; the header says which kind they are. Rows that cannot be used are refused one by one, by line.
 * @throws TenderError CSV_BAD_HEADER when the columns fit neither kind
 */
export function readTrialCsv(text: string): { readonly trials: readonly CsvTrial[]; readonly refused: readonly CsvRefusal[] } {
  const lines = csvParseRows(text.replace(/^\uFEFF/, ''))
  const isBlank = (line: readonly string[]) => line.every((value) => value.trim() === '')
  const headerAt = lines.findIndex((line) => !isBlank(line))
  if (headerAt < 0) throw new TenderError('CSV_BAD_HEADER', 'The file is empty; its first line must name the columns.')
  const header = lines[headerAt].map((name) => name.trim())
  const kind = GAP_COLUMNS.every((name) => header.includes(name)) ? 'gap' : FAN_COLUMNS.every((name) => header.includes(name)) ? 'fan' : null
  if (!kind) {
    const closest = header.includes('gapMm') ? GAP_COLUMNS : FAN_COLUMNS
    const missing = closest.filter((name) => !header.includes(name))
    throw new TenderError('CSV_BAD_HEADER', `The header lacks ${missing.map((name) => `"${name}"`).join(', ')}. A fan needs ${FAN_COLUMNS.join(', ')}; a gap ladder needs ${GAP_COLUMNS.join(', ')}.`, {
      missing,
    })
  }
  const trials = new Map<string, CsvTrial>()
  const refused: CsvRefusal[] = []
  for (let at = headerAt + 1; at < lines.length; at++) {
    const values = lines[at]
    if (isBlank(values)) continue
    const field = (name: string) => values[header.indexOf(name)]?.trim() ?? ''
    try {
      if (values.length !== header.length) throw new TenderError('CSV_BAD_ROW', `has ${values.length} values where the header names ${header.length} columns.`)
      const trial = field('trial')
      if (trial === '') throw new TenderError('CSV_BAD_ROW', 'names no trial.')
      if (!trials.has(trial)) trials.set(trial, kind === 'fan' ? { trial, kind, readings: [] } : { trial, kind, readings: [] })
      const into = trials.get(trial)!
      if (into.kind === 'fan') into.readings.push(fanRow(field))
      else into.readings.push(gapRow(field, header))
    } catch (error) {
      if (!(error instanceof TenderError)) throw error
      refused.push({ line: at + 1, message: `Line ${at + 1} ${error.message}` })
    }
  }
  return { trials: [...trials.values()].filter((trial) => trial.readings.length > 0), refused }
}

function fanRow(field: (name: string) => string): FanReading {
  return {
    angleDeg: number(field, 'angleDeg', 0, 89.9),
    direction: field('direction') || 'any',
    layerHeightMm: number(field, 'layerHeightMm', 0.01, 2),
    lineWidthMm: number(field, 'lineWidthMm', 0.05, 4),
    grade: grade(field, 'grade'),
  }
}

function gapRow(field: (name: string) => string, header: readonly string[]): GapReading {
  const optional = (name: string, high: number) => (header.includes(name) && field(name) !== '' ? number(field, name, 0, high) : null)
  return {
    gapMm: number(field, 'gapMm', 0, 2),
    spacingMm: number(field, 'spacingMm', 0, 20),
    release: grade(field, 'release'),
    // A tile that would not come off shows no face.
    finish: field('finish') === '' ? null : grade(field, 'finish'),
    forceN: optional('forceN', 5000),
    areaMm2: optional('areaMm2', 1e6),
  }
}

function number(field: (name: string) => string, name: string, low: number, high: number): number {
  const text = field(name)
  const value = text === '' ? NaN : Number(text)
  if (!Number.isFinite(value)) throw new TenderError('CSV_BAD_ROW', `has "${text}" as ${name}, which is not a number.`)
  if (value < low || value > high) throw new TenderError('CSV_BAD_ROW', `has ${name} ${text}; it must lie between ${low} and ${high}.`)
  return value
}

function grade(field: (name: string) => string, name: string): Grade {
  const value = number(field, name, 1, 5)
  if (!Number.isInteger(value)) throw new TenderError('CSV_BAD_ROW', `has ${name} ${value}; grades are whole numbers from 1 to 5.`)
  return value as Grade
}
