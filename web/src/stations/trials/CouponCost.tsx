import type { Trial } from '@tender/contract'
import { useQuery } from '@tanstack/react-query'
import { useList } from '../../api/useShelf'
import { duration, grams } from '../../format/numbers'
import { Num, SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import { orderOf } from './couponOrder'
import { withSteps } from './withSteps'

/** Grams and minutes of a trial's coupon with other steps, from the coupon itself. */
export function CouponCost({ trial, values }: { trial: Trial; values: readonly number[] }) {
  const printer = useList('printers').data?.items.find(({ id }) => id === trial.printerId)
  const filaments = useList('filaments').data?.items
  const [part, other] = [trial.partFilamentId, trial.supportFilamentId].map((id) =>
    filaments?.find((one) => one.id === id),
  )
  const order =
    printer && part && other
      ? orderOf({ ...trial, coupon: withSteps(trial.coupon, values) }, printer, part, other)
      : null
  const look = useQuery({
    queryKey: ['coupon', order],
    queryFn: () => unwrap(filing().coupon(order!)),
    enabled: order !== null,
    staleTime: Infinity,
    retry: false,
  })
  if (look.isError) return <SoftLine>{look.error.message}</SoftLine>
  return (
    <SoftLine>
      {look.data ? (
        <>
          <Num>{grams(look.data.uses.reduce((sum, use) => sum + use.g, 0))}</Num>,{' '}
          <Num>{duration(look.data.timeS)}</Num> to print
        </>
      ) : (
        'what it takes is being worked out'
      )}
    </SoftLine>
  )
}
