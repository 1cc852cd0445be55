import type { Trial } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Button } from '../../ui/Button'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import { useCouponOrder } from '../trials/useCouponOrder'
import { SendDialog, type ToSend } from './SendDialog'

/** Sends the coupon of a trial that nobody has read to a printer, and goes to where it is watched. */
export function PrintCoupon({ trial, read }: { trial: Trial; read: boolean }) {
  const navigate = useNavigate()
  const [asking, setAsking] = useState(false)
  const order = useCouponOrder(trial)
  const client = useQueryClient()
  if (!order || read) return null
  const make = async (): Promise<ToSend> => {
    const { file, timeS, zeroMm, filaments } = await unwrap(filing().couponPrint(order))
    return {
      file,
      input: { title: trial.name, takeOffId: null, trialId: trial.id, zeroMm, filaments, seconds: timeS },
    }
  }
  const sent = async () => {
    // A stand-in makes it a simulated one.
    await client.invalidateQueries({ queryKey: ['trials'] })
    await navigate(`/trials/${trial.id}/watch`)
  }
  return (
    <>
      <Button onPress={() => setAsking(true)}>Print it from here</Button>
      {asking && (
        <SendDialog
          name={trial.name}
          make={make}
          share={null}
          onSent={() => void sent()}
          onClose={() => setAsking(false)}
        />
      )}
    </>
  )
}
