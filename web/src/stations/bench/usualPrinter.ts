import type { Printer } from '@tender/contract'
import type { CouponKind } from '@tender/core/trial'

/**
 * The printer that is most likely meant: of those that can, the one with most spools on it, two nozzles
 * before a changer.
 * @param coupon to be printed: a purge ladder asks for a changer, a comb for two nozzles
 */
export function usualPrinter(printers: readonly Printer[], coupon?: CouponKind): Printer | undefined {
  const fits = ({ feed }: Printer) =>
    coupon === 'purge' ? feed === 'changer' : coupon === 'offset' ? feed !== 'changer' : true
  const spools = ({ loaded }: Printer) => loaded.filter(Boolean).length
  return printers.toSorted(
    (a, b) =>
      Number(fits(b)) - Number(fits(a)) ||
      spools(b) - spools(a) ||
      Number(a.feed === 'changer') - Number(b.feed === 'changer'),
  )[0]
}
