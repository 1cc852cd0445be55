import type { Pose } from '@tender/core/mesh'
import { useQuery } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useTheme } from 'styled-components'
import { roughMeshBytes } from '../../api/client'
import { Skeleton } from '../../ui/Skeleton'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'

/** A small drawing of a mesh as it lies, seen from a corner. */
export function PartPicture({ meshSha256, pose }: { meshSha256: string; pose: Pose }) {
  const { color } = useTheme()
  const picture = useQuery({
    queryKey: ['picture', meshSha256, pose],
    staleTime: Infinity,
    queryFn: async ({ signal }) => {
      const bytes = await roughMeshBytes(meshSha256, signal)
      return unwrap(filing().picture(transfer(bytes, [bytes.buffer]), pose))
    },
  })
  if (picture.isError)
    return (
      <svg viewBox="0 0 100 72" aria-hidden>
        <path
          d="M22 54V24L50 12L78 24V54L50 66ZM22 24L50 36L78 24M50 36V66"
          fill="none"
          stroke={color.line}
          strokeWidth="1.6"
        />
      </svg>
    )
  if (picture.isPending) return <Skeleton style={{ aspectRatio: '100 / 72' }} />
  return (
    <img
      src={picture.data}
      alt=""
      style={{ width: '100%', aspectRatio: '100 / 72', objectFit: 'contain', display: 'block' }}
    />
  )
}
