/**
 * The whole workshop as one file: lines of JSON, packed with gzip. First a head, then rows in an order in
 * which nothing refers to what has not come yet, at last how many lines there were and what they hash to.
 */
export const FORMAT = 'tender-workshop'
export const VERSION = 1

/** How rows of a table are told apart, and which of two counts. */
export type TableRule = {
  readonly table: string
  /** Columns that a row is known by. */
  readonly key: readonly string[]
  /**
   * `root`: the later change counts. `field`: the higher revision counts. `once`: never changes. `owned`:
   * goes with its owner, all or none.
   */
  readonly rule: 'root' | 'field' | 'once' | 'owned'
  /** For owned rows: the owner's table, and the column that names it. */
  readonly owner?: readonly [table: string, column: string]
  /** Whether living rows must differ in their name. */
  readonly named?: true
}

export const TABLES: readonly TableRule[] = [
  { table: 'workshop', key: ['name'], rule: 'field' },
  { table: 'family_change', key: ['name'], rule: 'field' },
  { table: 'cling_change', key: ['pair'], rule: 'field' },
  { table: 'blob', key: ['sha256'], rule: 'once' },
  { table: 'blob_chunk', key: ['sha256', 'position'], rule: 'owned', owner: ['blob', 'sha256'] },
  { table: 'mesh', key: ['sha256'], rule: 'once' },
  { table: 'part', key: ['id'], rule: 'root' },
  { table: 'plan', key: ['id'], rule: 'root' },
  { table: 'printer', key: ['id'], rule: 'root', named: true },
  { table: 'filament', key: ['id'], rule: 'root', named: true },
  { table: 'spool', key: ['filament_id', 'position'], rule: 'owned', owner: ['filament', 'filament_id'] },
  { table: 'trial', key: ['id'], rule: 'root' },
  { table: 'step_reading', key: ['trial_id', 'step'], rule: 'field' },
  { table: 'step_photo', key: ['id'], rule: 'once' },
  { table: 'take_off', key: ['id'], rule: 'root' },
  { table: 'take_off_note', key: ['take_off_id', 'at'], rule: 'field' },
  { table: 'take_off_photo', key: ['id'], rule: 'once' },
]

export type Row = Readonly<Record<string, unknown>>
export type Head = {
  readonly format: typeof FORMAT
  readonly version: number
  /** How many changes of form the database had seen. */
  readonly schema: number
  readonly madeAt: string
}
export type Tail = { readonly end: true; readonly lines: number; readonly sha256: string }
export type RowLine = { readonly table: string; readonly row: Row }
