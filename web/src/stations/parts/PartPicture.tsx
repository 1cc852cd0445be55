import type { Part } from '@tender/contract'
import { useQuery } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useTheme } from 'styled-components'
import { meshBytes } from '../../api/client'
import { Skeleton } from '../../ui/States'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'

/** Larger files are not fetched for a small picture. */
const MOST_BYTES = 8e6

/** A small drawing of the part as it lies, seen from a corner. */
export function PartPicture({ part }: { part: Part }) {
  const { color } = useTheme()
  const drawn = part.byteLength <= MOST_BYTES
  const picture = useQuery({
    queryKey: ['picture', part.meshSha256, part.pose],
    enabled: drawn,
    staleTime: Infinity,
    queryFn: async ({ signal }) => {
      const bytes = await meshBytes(part.meshSha256, signal)
      return unwrap(filing().picture(transfer(bytes, [bytes.buffer]), part.pose))
    },
  })
  if (!drawn || picture.isError)
    return (
      <svg viewBox="0 0 100 72" aria-hidden>
        <path d="M22 54V24L50 12L78 24V54L50 66ZM22 24L50 36L78 24M50 36V66" fill="none" stroke={color.line} strokeWidth="1.6" />
      </svg>
    )
  if (picture.isPending) return <Skeleton style={{ aspectRatio: '100 / 72' }} />
  return <img src={picture.data} alt="" style={{ width: '100%', aspectRatio: '100 / 72', objectFit: 'contain', display: 'block' }} />
}
