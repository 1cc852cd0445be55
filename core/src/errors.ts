/** Every way core can refuse its input. One list, so that a `switch` over codes is checked. */
export const TENDER_ERROR_CODES = [
  'FILE_MISSING',
  'FILE_EMPTY',
  'FILE_NOT_STL',
  'FILE_NOT_MESH',
  'FILE_NOT_GCODE',
  'FILE_CUT_SHORT',
  'FILE_TOO_LARGE',
  'MESH_EMPTY',
  'MESH_NOT_FINITE',
  'MESH_TOO_LARGE',
  'LAYERS_TOO_MANY',
  'VALUE_OUT_OF_RANGE',
  'CSV_BAD_HEADER',
  'CSV_BAD_ROW',
  'FILAMENT_UNKNOWN',
  'COUPON_TOO_LARGE',
  'OFF_THE_BED',
  'SOLID_NOT_CLOSED',
  'STOPPED',
] as const
export type TenderErrorCode = (typeof TENDER_ERROR_CODES)[number]

/** What core throws: a code for programs, a sentence for people, and the facts behind it. */
export class TenderError extends Error {
  override readonly name = 'TenderError'
  readonly code: TenderErrorCode
  readonly detail: Readonly<Record<string, unknown>>

  constructor(code: TenderErrorCode, message: string, detail: Readonly<Record<string, unknown>> = {}) {
    super(message)
    this.code = code
    this.detail = detail
  }
}

/**
 * Guards a number that came from outside.
 * @throws TenderError VALUE_OUT_OF_RANGE when it is not finite or outside low..high
 */
export function requireInRange(name: string, value: number, low: number, high: number, unit: string): void {
  if (!Number.isFinite(value) || value < low || value > high)
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      `${name} is ${value} ${unit}; it must lie between ${low} and ${high} ${unit}.`,
      {
        name,
        value,
        low,
        high,
      },
    )
}
