import { z } from 'zod'

/** Currencies that money can be told in, by their usual code. */
export const CURRENCIES = [
  'EUR',
  'USD',
  'GBP',
  'CHF',
  'SEK',
  'NOK',
  'DKK',
  'PLN',
  'CZK',
  'HUF',
  'CAD',
  'AUD',
  'NZD',
  'JPY',
  'CNY',
  'INR',
  'BRL',
  'ZAR',
] as const

/** What holds for the workshop as a whole. */
export const WorkshopInput = z.strictObject({
  /** Null tells amounts without one. */
  currency: z.enum(CURRENCIES).nullable(),
})
export type WorkshopInput = z.infer<typeof WorkshopInput>
export const Workshop = z.object({ revision: z.number().int().min(0), ...WorkshopInput.shape })
export type Workshop = z.infer<typeof Workshop>
