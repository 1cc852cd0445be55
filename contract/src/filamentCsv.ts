import { cellText, csvCell } from '@tender/core/table'
import { csvFormatRows, csvParseRows } from 'd3-dsv'
import { issueSentence } from './sentences'
import { FilamentInput, type SpoolFields, type StoredFilament } from './filament'

const FILAMENT_COLUMNS = [
  'name',
  'family',
  'colour',
  'densityGcm3',
  'diameterMm',
  'pricePerKg',
  'nozzleC',
  'bedC',
] as const
const SPOOL_COLUMNS = [
  'spool',
  'lot',
  'gramsLeft',
  'emptyG',
  'spoolPricePerKg',
  'openedOn',
  'driedOn',
  'damp',
] as const

/** Filaments and their spools as CSV, a row per spool; a filament without one has a row of its own. */
export function writeFilamentCsv(filaments: readonly StoredFilament[]): string {
  const rows = filaments.flatMap((filament) => {
    const own = FILAMENT_COLUMNS.map((name) => csvCell(filament[name]))
    const spools = filament.spools.map(
      ({ label, lot, gramsLeft, emptyG, pricePerKg, openedOn, driedOn, damp }) =>
        [label, lot, gramsLeft, emptyG, pricePerKg, openedOn, driedOn, damp ? 'yes' : ''].map(csvCell),
    )
    return (spools.length > 0 ? spools : [SPOOL_COLUMNS.map(() => '')]).map((spool) => [...own, ...spool])
  })
  return `${csvFormatRows([[...FILAMENT_COLUMNS, ...SPOOL_COLUMNS], ...rows])}\n`
}

export type FilamentCsv = {
  /** Filaments to save: new ones, and known ones with what the file says of them. */
  readonly filaments: readonly { readonly known: StoredFilament | null; readonly input: FilamentInput }[]
  readonly refused: readonly { readonly line: number; readonly message: string }[]
}

/**
 * Reads filaments and spools from CSV. A filament of a name that is known is changed; a spool of a label and
 * lot that it has is changed, any other is put beside them: nothing is taken away. Bad rows are refused by
 * line.
 * @param makeId gives a new spool its identity
 */
export function readFilamentCsv(
  csv: string,
  shelf: readonly StoredFilament[],
  makeId: () => string,
): FilamentCsv {
  // Row by row: parsing into objects would write code at run time, which the interface does not allow.
  const [header = [], ...rows] = csvParseRows(csv.replace(/^\uFEFF/, '')).map((row) =>
    row.map((value) => value.trim()),
  )
  const missing = FILAMENT_COLUMNS.filter((name) => !header.includes(name))
  if (missing.length > 0)
    return {
      filaments: [],
      refused: [{ line: 1, message: `The header lacks ${missing.map((name) => `"${name}"`).join(', ')}.` }],
    }
  const made = new Map<string, { known: StoredFilament | null; input: FilamentInput }>()
  const refused: { line: number; message: string }[] = []
  rows.forEach((row, at) => {
    const field = (name: string) => cellText(row[header.indexOf(name)] ?? '')
    const number = (name: string) => (field(name) === '' ? NaN : Number(field(name)))
    const optional = (name: string) => (field(name) === '' ? null : Number(field(name)))
    if (row.every((value) => value === '')) return
    const name = field('name')
    const known = shelf.find((one) => one.name === name) ?? null
    const before = made.get(name)?.input.spools ?? known?.spools ?? []
    const facts = {
      name,
      family: field('family'),
      colour: field('colour'),
      densityGcm3: number('densityGcm3'),
      diameterMm: number('diameterMm'),
      pricePerKg: number('pricePerKg'),
      nozzleC: number('nozzleC'),
      bedC: number('bedC'),
    }
    const spools = field('gramsLeft') === '' ? before : withSpool(before)
    const parsed = FilamentInput.safeParse({ ...facts, spools })
    if (parsed.success) made.set(name, { known, input: parsed.data })
    else refused.push({ line: at + 2, message: `Line ${at + 2}: ${issueSentence(parsed.error).message}` })

    function withSpool(spools: readonly SpoolFields[]): unknown[] {
      const spool = {
        label: field('spool'),
        lot: field('lot'),
        gramsLeft: number('gramsLeft'),
        emptyG: optional('emptyG'),
        pricePerKg: optional('spoolPricePerKg'),
        openedOn: field('openedOn') || null,
        driedOn: field('driedOn') || null,
        damp: /^(yes|true|1)$/i.test(field('damp')),
      }
      const same = spools.findIndex((one) => one.label === spool.label && one.lot === spool.lot)
      return same < 0
        ? [...spools, { ...spool, id: makeId(), colour: null }]
        : spools.map((one, i) => (i === same ? { ...one, ...spool } : one))
    }
  })
  return { filaments: [...made.values()], refused }
}
