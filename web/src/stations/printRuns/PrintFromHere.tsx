import type { PlanDocument } from '@tender/core/decide'
import { useQueryClient } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { meshBytes } from '../../api/client'
import { unwrap } from '../../workers/answer'
import { filing, proxy } from '../../workers/geometry'
import { keepPrint, takenNames, type PrintOrder } from '../takeOffs/useNewTakeOff'
import { loadedOn } from './loadedOn'
import { SendDialog, type ToSend } from './SendDialog'

/** Sends a plan to a printer: keeps it as printed, writes its file, goes to where it is watched. */
export function PrintFromHere({
  order,
  onClose,
}: {
  order: PrintOrder & { document: PlanDocument }
  onClose: () => void
}) {
  const navigate = useNavigate()
  const client = useQueryClient()
  const [share, setShare] = useState(0)
  const make = async (standIn: boolean): Promise<ToSend> => {
    setShare(0)
    const { part, document } = order
    const bytes = await meshBytes(part.meshSha256)
    const written = filing().print(
      Date.now(),
      part.meshSha256,
      transfer(bytes, [bytes.buffer]),
      document,
      proxy(setShare),
      await loadedOn(document.printer.id),
    )
    const { file, timeS, zeroMm, filaments } = await unwrap(written)
    const takeOff = await keepPrint(order, null, await takenNames(), standIn)
    await client.invalidateQueries({ queryKey: ['takeOffs', 'list'] })
    return {
      file,
      input: {
        title: takeOff.name,
        takeOffId: takeOff.id,
        trialId: null,
        zeroMm,
        filaments,
        seconds: timeS,
      },
    }
  }
  return (
    <SendDialog
      name={order.document.name}
      make={make}
      share={share}
      onSent={({ takeOffId }) => void navigate(`/take-offs/${takeOffId}/watch`)}
      onClose={onClose}
    />
  )
}
