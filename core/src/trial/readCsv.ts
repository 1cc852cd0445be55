import { dsvFormat } from 'd3-dsv'
import { TenderError } from '../errors'
import { cellText } from '../table'
import { COUPON_KINDS, type CouponKind, type Readings } from './coupon'
import { AXES, SWAPS, type Grade } from './readings'

export type CsvTrial = { readonly trial: string } & Readings
export type CsvRefusal = { readonly line: number; readonly message: string }

/**
 * Columns that tell what kind of readings a file holds; the first one after the trial's name is found in no
 * other kind.
 */
export const CSV_COLUMNS: Readonly<Record<CouponKind, readonly string[]>> = {
  fan: ['trial', 'angleDeg', 'direction', 'layerHeightMm', 'lineWidthMm', 'grade'],
  span: ['trial', 'spanMm', 'grade'],
  gap: ['trial', 'gapMm', 'spacingMm', 'release', 'finish'],
  purge: ['trial', 'volumeMm3', 'swap', 'grade'],
  offset: ['trial', 'shiftMm', 'axis', 'grade'],
}
const CALLED: Readonly<Record<CouponKind, string>> = {
  fan: 'a fan',
  span: 'a bridge ladder',
  gap: 'a gap ladder',
  purge: 'a purge ladder',
  offset: 'an offset comb',
}

/**
 * Reads trial readings from CSV text; the header says which kind they are, whatever its case, and what lies
 * between values: commas, semicolons or tabs. Between semicolons and tabs a number may be written with a
 * comma. Rows that cannot be used are refused one by one, by line.
 * @throws TenderError CSV_BAD_HEADER when the columns fit no kind
 */
export function readTrialCsv(text: string): {
  readonly trials: readonly CsvTrial[]
  readonly refused: readonly CsvRefusal[]
} {
  const plain = text.replace(/^\uFEFF/, '')
  const between = separatorOf(plain)
  const lines = dsvFormat(between).parseRows(plain)
  const isBlank = (line: readonly string[]) => line.every((value) => value.trim() === '')
  const headerAt = lines.findIndex((line) => !isBlank(line))
  if (headerAt < 0)
    throw new TenderError('CSV_BAD_HEADER', 'The file is empty; its first line must name the columns.')
  const header = lines[headerAt].map((name) => KNOWN_AS.get(name.trim().toLowerCase()) ?? name.trim())
  const kind = kindOf(header)
  const trials = new Map<string, { trial: string; kind: CouponKind; readings: unknown[] }>()
  const refused: CsvRefusal[] = []
  for (let at = headerAt + 1; at < lines.length; at++) {
    const values = lines[at]
    if (isBlank(values)) continue
    try {
      if (values.length !== header.length)
        throw new TenderError(
          'CSV_BAD_ROW',
          `has ${values.length} values where the header names ${header.length} columns.`,
        )
      const row = new Row(header, values, between !== ',')
      const trial = row.text('trial')
      if (trial === '') throw new TenderError('CSV_BAD_ROW', 'names no trial.')
      const reading = ROWS[kind](row, trial)
      if (!trials.has(trial)) trials.set(trial, { trial, kind, readings: [] })
      trials.get(trial)!.readings.push(reading)
    } catch (error) {
      if (!(error instanceof TenderError)) throw error
      // What a cell held may run over several lines; the sentence may not.
      refused.push({ line: at + 1, message: `Line ${at + 1} ${error.message.replace(/\s+/g, ' ')}` })
    }
  }
  return { trials: [...trials.values()] as CsvTrial[], refused }
}

/** Names of columns as we write them, by how they may be written. */
const KNOWN_AS: ReadonlyMap<string, string> = new Map(
  [...Object.values(CSV_COLUMNS).flat(), 'forceN', 'areaMm2', 'print'].map((name) => [
    name.toLowerCase(),
    name,
  ]),
)

/** What lies between the values of the first line that says anything. */
function separatorOf(text: string): string {
  const first = text.split(/\r?\n/, 20).find((line) => line.trim() !== '') ?? ''
  const times = (mark: string) => first.split(mark).length
  return [',', ';', '\t'].reduce((most, mark) => (times(mark) > times(most) ? mark : most))
}

function kindOf(header: readonly string[]): CouponKind {
  const kind = COUPON_KINDS.find((one) => CSV_COLUMNS[one].every((name) => header.includes(name)))
  if (kind) return kind
  const closest = COUPON_KINDS.find((one) => header.includes(CSV_COLUMNS[one][1])) ?? 'fan'
  const missing = CSV_COLUMNS[closest].filter((name) => !header.includes(name))
  const needs = COUPON_KINDS.map((one) => `${CALLED[one]} needs ${CSV_COLUMNS[one].join(', ')}`).join('; ')
  throw new TenderError(
    'CSV_BAD_HEADER',
    `The header lacks ${missing.map((name) => `"${name}"`).join(', ')}. ${needs.charAt(0).toUpperCase()}${needs.slice(1)}.`,
    { missing },
  )
}

const ROWS: {
  readonly [K in CouponKind]: (row: Row, trial: string) => (Readings & { kind: K })['readings'][number]
} = {
  fan: (row) => ({
    angleDeg: row.number('angleDeg', 0, 89.9),
    direction: row.text('direction') || 'any',
    layerHeightMm: row.number('layerHeightMm', 0.01, 2),
    lineWidthMm: row.number('lineWidthMm', 0.05, 4),
    grade: row.grade('grade'),
  }),
  span: (row) => ({ spanMm: row.number('spanMm', 0.5, 500), grade: row.grade('grade') }),
  gap: (row) => ({
    gapMm: row.number('gapMm', 0, 2),
    spacingMm: row.number('spacingMm', 0, 20),
    release: row.grade('release'),
    // A tile that would not come off shows no face.
    finish: row.text('finish') === '' ? null : row.grade('finish'),
    forceN: row.optional('forceN', 5000),
    areaMm2: row.optional('areaMm2', 1e6),
    // Which print a reading is of, where several are told apart.
    ...(row.text('print') !== '' && { print: row.text('print') }),
  }),
  purge: (row) => ({
    volumeMm3: row.number('volumeMm3', 0, 5000),
    swap: row.oneOf('swap', SWAPS),
    grade: row.grade('grade'),
  }),
  offset: (row, trial) => {
    const axis = row.oneOf('axis', AXES)
    return {
      shiftMm: row.number('shiftMm', -5, 5),
      axis,
      grade: row.text('grade') === '' ? null : row.grade('grade'),
      comb: `${trial}:${axis}`,
    }
  },
}

class Row {
  constructor(
    private readonly header: readonly string[],
    private readonly values: readonly string[],
    private readonly commas: boolean,
  ) {}

  text(name: string): string {
    return cellText(this.values[this.header.indexOf(name)]?.trim() ?? '')
  }

  number(name: string, low: number, high: number): number {
    const text = this.text(name)
    const value = text === '' ? NaN : Number(this.commas ? text.replace(/^([^,]*),([^,]*)$/, '$1.$2') : text)
    if (!Number.isFinite(value))
      throw new TenderError('CSV_BAD_ROW', `has "${text}" as ${name}, which is not a number.`)
    if (value < low || value > high)
      throw new TenderError('CSV_BAD_ROW', `has ${name} ${text}; it must lie between ${low} and ${high}.`)
    return value
  }

  /** A number that may be left empty, or whose column may be missing. */
  optional(name: string, high: number): number | null {
    return this.text(name) === '' ? null : this.number(name, 0, high)
  }

  grade(name: string): Grade {
    const value = this.number(name, 1, 5)
    if (!Number.isInteger(value))
      throw new TenderError('CSV_BAD_ROW', `has ${name} ${value}; grades are whole numbers from 1 to 5.`)
    return value as Grade
  }

  oneOf<T extends string>(name: string, allowed: readonly T[]): T {
    const text = this.text(name)
    const found = allowed.find((one) => one.toLowerCase() === text.toLowerCase())
    if (!found)
      throw new TenderError('CSV_BAD_ROW', `has "${text}" as ${name}; it must be ${allowed.join(' or ')}.`)
    return found
  }
}
