import type { Trial } from '@tender/contract'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useSave } from '../../api/useShelf'
import { Button } from '../../ui/Button'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import { trialInputOf, useCouponOrder } from '../trials/useCouponOrder'
import { SendDialog, type ToSend } from './SendDialog'

/** Sends the coupon of a trial that nobody has read to a printer, and goes to where it is watched. */
export function PrintCoupon({ trial, read }: { trial: Trial; read: boolean }) {
  const navigate = useNavigate()
  const [asking, setAsking] = useState(false)
  const order = useCouponOrder(trial)
  const save = useSave('trials')
  if (!order || read) return null
  const make = async (standIn: boolean): Promise<ToSend> => {
    const { file, timeS, zeroMm, filaments } = await unwrap(filing().couponPrint(order))
    if (standIn && !trial.simulated)
      await save.mutateAsync({
        id: trial.id,
        revision: trial.revision,
        input: { ...trialInputOf(trial), simulated: true },
      })
    return {
      file,
      input: { title: trial.name, takeOffId: null, trialId: trial.id, zeroMm, filaments, seconds: timeS },
    }
  }
  return (
    <>
      <Button onPress={() => setAsking(true)}>Print it from here</Button>
      {asking && (
        <SendDialog
          name={trial.name}
          make={make}
          share={null}
          onSent={() => void navigate(`/trials/${trial.id}/watch`)}
          onClose={() => setAsking(false)}
        />
      )}
    </>
  )
}
