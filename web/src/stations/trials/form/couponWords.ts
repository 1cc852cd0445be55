import type { Printer, StoredFilament } from '@tender/contract'
import type { CouponKind } from '@tender/core/trial'

/** What stands on the bench to choose from. */
export type Bench = { readonly printers: readonly Printer[]; readonly filaments: readonly StoredFilament[] }

/** Coupons that two filaments take part in, and what the second one is called. */
export const SECOND: Partial<Record<CouponKind, string>> = {
  gap: 'Touched by',
  purge: 'Swapped to',
  offset: 'Second nozzle',
}
export const FIRST: Partial<Record<CouponKind, string>> = {
  gap: 'Part',
  purge: 'Swapped from',
  offset: 'First nozzle',
}

/** How quickly the printer usually lays what a coupon of the kind is about, mm/s. */
export const usualSpeed = (kind: CouponKind, printer: Printer): number =>
  kind === 'gap' ? printer.interfaceMmS : printer.wallMmS
