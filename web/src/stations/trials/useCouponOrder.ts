import type { Trial, TrialInput } from '@tender/contract'
import { useList } from '../../api/useShelf'
import type { CouponOrder } from '../../workers/couponWork'
import { cannotTell, orderOf } from './couponOrder'

/** What a trial was made with, without what the shelf adds to it. */
export function trialInputOf(trial: Trial): TrialInput {
  const {
    id: _,
    revision: __,
    updatedAt: ___,
    printerName: ____,
    partFilamentName: _____,
    supportFilamentName: ______,
    readings: _______,
    photos: ________,
    ...input
  } = trial
  return input
}

/**
 * The coupon of a trial as it is made; null while its bench is not known, or when its printer cannot print
 * it.
 */
export function useCouponOrder(trial: Trial): CouponOrder | null {
  const printers = useList('printers')
  const filaments = useList('filaments')
  const input = trialInputOf(trial)
  const printer = printers.data?.items.find(({ id }) => id === input.printerId)
  const [part, other] = [input.partFilamentId, input.supportFilamentId].map((id) =>
    filaments.data?.items.find((one) => one.id === id),
  )
  if (!printer || !part || !other || cannotTell(input, printer, part, other) !== null) return null
  return orderOf(input, printer, part, other)
}
