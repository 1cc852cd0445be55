/** Narrow, and no line breaks at it: a number stays with its unit. */
export const THIN = '\u202f'

/** At most three significant digits, no trailing zeros. */
export const three = (value: number): string =>
  Math.abs(value) >= 100 ? String(Math.round(value)) : String(Number(value.toPrecision(3)))

/** To a tenth; what is less is not nothing. */
export const grams = (value: number): string =>
  `${value > 0 && value < 0.05 ? '<0.1' : value >= 100 ? Math.round(value) : value.toFixed(1)}${THIN}g`

/** From one number to another, with no more digits than it takes to tell them apart. */
export function range(low: number, high: number): string {
  const digits = Math.min(2, Math.max(0, Math.ceil(-Math.log10((high - low) / 2))))
  return `${low.toFixed(digits)} to ${high.toFixed(digits)}`
}

export const inUnit = (value: number, unit: string): string => `${three(value)}${THIN}${unit}`
export const mm = (value: number): string => inUnit(value, 'mm')
/** Gaps and layers always show two decimals: they are compared with each other. */
export const gapMm = (value: number): string => `${value.toFixed(2)}${THIN}mm`
export const degrees = (value: number): string => `${Math.round(value)}°`
export const percent = (share: number): string => `${Math.round(share * 100)}${THIN}%`
export const chance = (share: number): string => share.toFixed(2)
/** Where the choice is remembered until the server has said it again. */
const CURRENCY_KEY = 'tender.currency'
const amountOf = (currency: string | null): ((value: number) => string) => {
  if (currency === null) return (value) => value.toFixed(2)
  const { format } = new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency,
    currencyDisplay: 'narrowSymbol',
  })
  return format
}
let chosen: string | null = null
let amount = amountOf(null)
try {
  const last = localStorage.getItem(CURRENCY_KEY)
  amount = amountOf(last)
  chosen = last
} catch {
  // Without a browser, or with something else in its place, amounts are plain numbers.
}
/** Money is told in this currency from now on; null tells plain numbers. */
export function setCurrency(currency: string | null): void {
  amount = amountOf(currency)
  chosen = currency
  if (currency === null) localStorage.removeItem(CURRENCY_KEY)
  else localStorage.setItem(CURRENCY_KEY, currency)
}
export const currencyNow = (): string | null => chosen
export const money = (value: number): string => amount(value)

/** Hours and minutes as people write them: 4 h 10, 25 min. */
export function duration(seconds: number): string {
  const minutes = Math.round(seconds / 60)
  if (minutes < 60) return `${minutes}${THIN}min`
  return `${Math.floor(minutes / 60)}${THIN}h${THIN}${String(minutes % 60).padStart(2, '0')}`
}

/** A difference with its sign; a true minus, so that it is as wide as a plus. */
export function signed(value: number, format: (value: number) => string): string {
  const told = format(Math.abs(value))
  const size = told.startsWith('<') ? format(0) : told
  // What rounds to nothing has no sign.
  return /[1-9]/.test(size) ? `${value < 0 ? '−' : '+'}${size}` : size
}

export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count} ${count === 1 ? one : many}`

/** A day as people write it: 14 Nov. */
export const day = (iso: string): string =>
  new Date(`${iso}T12:00:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })

/** Today where the maker is, year first. */
export const today = (): string => new Date().toLocaleDateString('sv-SE')
