import { StepPhoto, type Trial } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { shelfKeys } from '../../api/shelves'
import { Photos } from '../../keep/Photos'

/** Pictures of one step of a trial. */
export function StepPhotos({
  trialId,
  step,
  photos,
  called,
}: {
  trialId: string
  step: string
  photos: readonly StepPhoto[]
  called: string
}) {
  const client = useQueryClient()
  return (
    <Photos
      path={`/trials/${trialId}/photos/${encodeURIComponent(step)}`}
      schema={StepPhoto}
      photos={photos.filter((photo) => photo.step === step)}
      called={called}
      onPhotos={(photosOf) =>
        client.setQueryData<Trial>(
          shelfKeys.one('trials', trialId),
          (before) => before && { ...before, photos: photosOf(before.photos) },
        )
      }
    />
  )
}
