/** A length as sentences show it. */
export const mm = (value: number): string => `${String(Number(value.toFixed(2))).replace('-', '−')} mm`
/** A gap, always with both its digits. */
export const gapMm = (value: number): string => `${value.toFixed(2)} mm`
