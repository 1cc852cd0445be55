import { ApiError } from '../api/client'
import { SoftLine } from './Sheet'

/** Beside a refusal because of somebody else's change: what can be done about it. */
export function ConflictNote({ error }: { error: Error | null }) {
  if (!(error instanceof ApiError) || error.problem.code !== 'STALE') return null
  return (
    <SoftLine>
      What you typed is still here. Close this and open it again to see the other change; copy over what you
      want to keep first.
    </SoftLine>
  )
}
