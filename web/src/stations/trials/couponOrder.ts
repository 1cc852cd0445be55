import {
  planFilament,
  planPrinter,
  type Printer,
  type StoredFilament,
  type TrialInput,
} from '@tender/contract'
import { sharesNozzle } from '@tender/core/bench'
import type { CouponOrder } from '../../workers/couponWork'

/** Why this coupon would tell nothing on this printer; null when it would. */
export function cannotTell(
  { coupon }: TrialInput,
  printer: Printer,
  part: StoredFilament,
  other: StoredFilament,
): string | null {
  if (coupon.kind === 'purge' && !sharesNozzle(printer))
    return `${printer.name} has a nozzle for each filament, so nothing is left behind at a swap. A purge ladder is for a printer with a changer.`
  if (coupon.kind === 'offset' && sharesNozzle(printer))
    return `${printer.name} has one nozzle, so there is no offset to find. A comb is for a printer with two nozzles.`
  if ((coupon.kind === 'purge' || coupon.kind === 'offset') && part.id === other.id)
    return 'This coupon needs two different filaments.'
  return null
}

/** A trial's coupon as the worker makes it. Tools are those that the filaments are loaded on. */
export function orderOf(
  input: TrialInput,
  printer: Printer,
  part: StoredFilament,
  other: StoredFilament,
): CouponOrder {
  const place = (filament: StoredFilament) =>
    printer.loaded.findIndex((spool) => filament.spools.some(({ id }) => id === spool))
  const first = Math.max(0, place(part))
  const second =
    part.id === other.id
      ? first
      : place(other) >= 0 && place(other) !== first
        ? place(other)
        : first === 0
          ? 1
          : 0
  return {
    title: input.name,
    coupon: input.coupon,
    size: {
      layerHeightMm: input.layerHeightMm,
      lineWidthMm: input.lineWidthMm,
      nozzleMm: input.nozzleMm,
      tileAreaMm2: input.tileAreaMm2,
    },
    speedMmS: input.speedMmS,
    fanPercent: input.fanPercent,
    printer: planPrinter(printer),
    filaments: [planFilament(part, printer), planFilament(other, printer)],
    tools: [first, second],
  }
}
