import { MOST_UPLOAD_BYTES } from '@tender/contract'
import { MESH_ENDINGS } from '@tender/core/mesh'
import { transfer } from 'comlink'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FileTrigger, isFileDropItem, type DropItem } from 'react-aria-components'
import { Button } from '../../ui/Button'
import { FileZone } from '../../ui/FileZone'
import { FormProblem } from '../../ui/FormProblem'
import { Sentence } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import type { ReadReport } from '../../workers/geometry/partCalls'
import { BringInDialog } from './BringInDialog'

/** A file that was looked into. */
export type Brought = { readonly file: File; readonly report: ReadReport }

const MOST_FILES = 20

/**
 * The door for mesh files: read first, shown what is in them, stored when the maker agrees. Those that cannot
 * be read are told by name.
 */
export function BringIn() {
  const [brought, setBrought] = useState<{
    readonly files: readonly Brought[]
    readonly refused: readonly string[]
  } | null>(null)
  const look = useMutation({
    mutationFn: async (files: readonly File[]) => {
      const read: Brought[] = []
      const refused: string[] =
        files.length > MOST_FILES
          ? [`Only the first ${MOST_FILES} of ${files.length} files were looked at.`]
          : []
      for (const file of files.slice(0, MOST_FILES)) {
        try {
          if (file.size > MOST_UPLOAD_BYTES)
            throw new Error(
              `It is ${Math.round(file.size / 1e6)} MB; up to ${Math.round(MOST_UPLOAD_BYTES / 1e6)} MB can be taken in.`,
            )
          const bytes = new Uint8Array(await file.arrayBuffer())
          read.push({ file, report: await unwrap(filing().read(transfer(bytes, [bytes.buffer]))) })
        } catch (error) {
          refused.push(`“${file.name}” was not taken in. ${(error as Error).message}`)
        }
      }
      if (read.length === 0) throw new Error(refused.join(' '))
      return { files: read, refused }
    },
    onSuccess: setBrought,
  })
  const dropped = async (items: readonly DropItem[]) => {
    const files = await Promise.all(items.filter(isFileDropItem).map((item) => item.getFile()))
    if (files.length > 0) look.mutate(files)
  }
  return (
    <>
      <FileZone aria-label="Drop STL, OBJ or 3MF files" onDrop={(event) => void dropped(event.items)}>
        <Sentence>Drop STL, OBJ or 3MF files here, or</Sentence>
        <FileTrigger
          allowsMultiple
          acceptedFileTypes={[...MESH_ENDINGS, 'model/stl', 'model/obj', 'model/3mf']}
          onSelect={(files) => files && files.length > 0 && look.mutate([...files])}
        >
          <Button main isDisabled={look.isPending}>
            {look.isPending ? 'Reading ...' : 'Pick files'}
          </Button>
        </FileTrigger>
        <FormProblem error={look.error} />
      </FileZone>
      {brought && (
        <BringInDialog files={brought.files} refused={brought.refused} onClose={() => setBrought(null)} />
      )}
    </>
  )
}
