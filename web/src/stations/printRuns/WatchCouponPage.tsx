import type { Trial } from '@tender/contract'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { CouponLayer } from '../../drawings/CouponLayer'
import { One } from '../../frame/One'
import { day } from '../../format/numbers'
import { Skeleton } from '../../ui/Skeleton'
import { unwrap } from '../../workers/answer'
import type { CouponOrder } from '../../workers/couponWork'
import { filing } from '../../workers/geometry'
import { useCouponOrder } from '../trials/useCouponOrder'
import { Watching } from './Watching'

/** A trial's coupon while it is printed. */
export function WatchCouponPage() {
  const { id = '' } = useParams()
  return (
    <One name="trials" id={id}>
      {(found) => <WithCoupon trial={found} />}
    </One>
  )
}

function WithCoupon({ trial }: { trial: Trial }) {
  const order = useCouponOrder(trial)
  return (
    <Watching
      of={{ kind: 'trial', id: trial.id }}
      over={
        <>
          <Link to={`/trials/${trial.id}`}>{trial.name}</Link>, {day(trial.printedOn)}
        </>
      }
      from="Open its trial and choose “Print it from here”."
      next={{ to: `/trials/${trial.id}`, word: 'Read it' }}
      drawing={({ atMm, zMm }) =>
        order ? (
          <AtHeight order={order} zMm={Number(zMm.toFixed(3))} nozzleMm={atMm} />
        ) : (
          <Skeleton style={{ height: 360 }} />
        )
      }
    />
  )
}

function AtHeight({
  order,
  zMm,
  nozzleMm,
}: {
  order: CouponOrder
  zMm: number
  nozzleMm: readonly [number, number] | null
}) {
  const layer = useQuery({
    queryKey: ['coupon layer', order, zMm],
    queryFn: () => unwrap(filing().couponLayer(order, zMm)),
    placeholderData: keepPreviousData,
    gcTime: 0,
  })
  if (!layer.data) return <Skeleton style={{ height: 360 }} />
  return (
    <CouponLayer
      layer={layer.data}
      colours={order.filaments.map(({ colour }) => colour)}
      lineWidthMm={order.size.lineWidthMm}
      nozzleMm={nozzleMm}
      says={`The coupon at ${zMm.toFixed(2)} mm, from above.`}
    />
  )
}
