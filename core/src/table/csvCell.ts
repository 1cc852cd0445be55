/** What a table program would take for a formula. */
const FORMULA = /^[=+\-@\t\r]/

/**
 * A value as a cell of a CSV file. A text that looks like a formula is kept a text by an apostrophe, which is
 * not part of it.
 */
export function csvCell(value: unknown): string {
  if (value === null || value === undefined) return ''
  if (typeof value === 'string' && FORMULA.test(value)) return `'${value}`
  return String(value)
}

/** The text of a cell, without the apostrophe that kept it one. */
export const cellText = (cell: string): string =>
  cell[0] === "'" && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell
