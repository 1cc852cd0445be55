import { MOST_PHOTO_BYTES, MOST_PHOTOS_PER_STEP } from '@tender/contract'
import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import styled from 'styled-components'
import type { z } from 'zod'
import { tellServer } from '../api/client'
import { counted } from '../format/numbers'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { FormProblem } from '../ui/FormProblem'
import { SoftLine } from '../ui/Sheet'
import { useToasts } from '../ui/Toasts'
import { usePhotoOutbox } from './photoOutbox'
import { length } from '../theme/measures'

type Photo = { readonly id: string }
type Props<P extends Photo> = {
  /** Where a picture goes: this, and an identity. */
  readonly path: string
  readonly schema: z.ZodType<P>
  readonly photos: readonly P[]
  readonly called: string
  /** Told what became of all pictures of the thing, those of others included. */
  readonly onPhotos: (photosOf: (before: readonly P[]) => P[]) => void
}

/** Pictures of one thing, and a way to add them: from the phone's camera, or a file. */
export function Photos<P extends Photo>({ path, schema, photos: own, called, onPhotos: change }: Props<P>) {
  const toasts = useToasts()
  const input = useRef<HTMLInputElement>(null)
  const [open, setOpen] = useState<P | null>(null)
  const kept = usePhotoOutbox(path, schema, (photo) =>
    change((before) => [...before.filter((one) => one.id !== photo.id), photo]),
  )
  const add = useMutation({
    mutationFn: async (file: File) => {
      if (file.size > MOST_PHOTO_BYTES)
        throw new Error(
          `The picture has ${(file.size / 1048576).toFixed(0)} MB; up to ${MOST_PHOTO_BYTES / 1048576} MB fit.`,
        )
      await kept.add(file)
    },
  })
  const restore = useMutation({
    mutationFn: (photo: P) => tellServer(`/photos/${photo.id}/restore`, 'POST'),
    onSuccess: (_, photo) => change((before) => [...before.filter((one) => one.id !== photo.id), photo]),
    onError: (error) => toasts.show({ text: error.message }),
  })
  const remove = useMutation({
    mutationFn: (photo: P) => tellServer(`/photos/${photo.id}`, 'DELETE'),
    onSuccess: (_, photo) => {
      change((before) => before.filter((one) => one.id !== photo.id))
      setOpen(null)
      toasts.show({
        text: `Removed the picture of ${called}.`,
        action: { label: 'Bring back', run: () => restore.mutate(photo) },
      })
    },
  })
  const waits = kept.waiting.filter((photo) => photo.refused === null)
  const refused = kept.waiting.filter((photo) => photo.refused !== null)
  return (
    <Row>
      {own.map((photo, i) => (
        <button
          key={photo.id}
          type="button"
          aria-label={`Picture ${i + 1} of ${called}`}
          onClick={() => setOpen(photo)}
        >
          <img src={`/api/photos/${photo.id}`} alt="" />
        </button>
      ))}
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        aria-label={`Picture of ${called}`}
        hidden
        onChange={(event) => {
          const [file] = event.target.files ?? []
          if (file) add.mutate(file)
          event.target.value = ''
        }}
      />
      {own.length + kept.waiting.length < MOST_PHOTOS_PER_STEP && (
        <Button
          quiet
          flush={own.length === 0}
          isDisabled={kept.isSending}
          onPress={() => input.current?.click()}
        >
          {kept.isSending ? 'Taking it in …' : 'Add a picture'}
        </Button>
      )}
      {waits.length > 0 && !kept.isSending && (
        <SoftLine role="status">
          {counted(waits.length, 'picture')} kept in this browser until the server answers.
        </SoftLine>
      )}
      <FormProblem error={add.error ?? remove.error} />
      {refused.map((photo) => (
        <div key={photo.id}>
          <FormProblem error={{ message: photo.refused! }} />
          <Button quiet onPress={() => void kept.drop(photo.id)}>
            Let that picture go
          </Button>
        </div>
      ))}
      {open && (
        <Dialog title={`Picture of ${called}`} open onClose={() => setOpen(null)} wide>
          <Large src={`/api/photos/${open.id}`} alt={`${called}, as it came off the printer`} />
          <div>
            <Button isDisabled={remove.isPending} onPress={() => remove.mutate(open)}>
              Remove the picture
            </Button>
          </div>
        </Dialog>
      )}
    </Row>
  )
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  button:has(img) {
    padding: 0;
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.s};
    overflow: hidden;
    cursor: zoom-in;
    background: none;
  }
  img {
    display: block;
    width: ${length.thumb};
    height: ${length.bar};
    object-fit: cover;
  }
`
const Large = styled.img`
  width: 100%;
  max-height: 66vh;
  object-fit: contain;
`
