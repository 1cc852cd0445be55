import type { Part, Plan } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import type { BedOptions } from '@tender/core/print'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useState } from 'react'
import { meshBytes } from '../../../api/client'
import { saveFile, slug } from '../../../ui/saveFile'
import { unwrap, WorkError } from '../../../workers/answer'
import type { BedForm, LaidBed } from '../../../workers/bedWork'
import { filing, proxy } from '../../../workers/geometry'
import { loadedOn } from '../../printRuns/loadedOn'

const USUAL: BedOptions = { order: 'by layer' }

/** Plans of a part laid on one bed, anew whenever they or the way they go there change; and files of it. */
export function useLaidBed(part: Part, plans: readonly Plan[], options: BedOptions) {
  const [share, setShare] = useState(0)
  const ask = async (by: BedOptions, form: BedForm | null): Promise<LaidBed> => {
    setShare(0)
    const bytes = await meshBytes(part.meshSha256)
    const documents = plans.map(({ document }) => document as unknown as PlanDocument)
    const loaded = await loadedOn(documents[0].printer.id)
    const asked = { key: part.meshSha256, documents, options: by, form, loaded }
    return unwrap(filing().bed(Date.now(), asked, transfer(bytes, [bytes.buffer]), proxy(setShare)))
  }
  const laidBy = (by: BedOptions) => ({
    queryKey: ['laid bed', part.meshSha256, plans.map(({ id, revision }) => [id, revision]), by],
    queryFn: () => ask(by, null),
    // What does not fit does not fit a second time either; what a file pushed aside is asked for again.
    retry: (count: number, error: Error) =>
      count < 1 && error instanceof WorkError && error.code === 'STOPPED',
  })
  const usual = useQuery({ ...laidBy(USUAL), enabled: plans.length > 1 })
  const own = useQuery({
    ...laidBy(options),
    enabled: usual.isSuccess,
    placeholderData: keepPreviousData,
  })
  const file = useMutation({
    mutationFn: async (form: BedForm) => ({ form, content: (await ask(options, form)).file! }),
    onSuccess: ({ form, content }) =>
      saveFile(
        `${slug(part.name)}-one-bed.${form}`,
        form === '3mf' ? 'model/3mf' : 'text/x.gcode',
        content as Blob | Uint8Array<ArrayBuffer>,
      ),
  })
  return {
    /** As asked for; what does not go so is still shown as it would usually lie. */
    laid: own.data ?? usual.data ?? null,
    isReady: own.isSuccess && !own.isPlaceholderData,
    isWorking: usual.isFetching || own.isFetching,
    error: usual.error ?? own.error,
    file,
    share,
    stop: () => void filing().cancel(),
  }
}
