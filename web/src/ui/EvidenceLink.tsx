import { takeOffBehind } from '@tender/core/trial'
import { Link } from 'react-router'

/** Leads to a trial or take-off that a value stands on. */
export function EvidenceLink({ id, name }: { id: string; name: string }) {
  const takeOff = takeOffBehind(id)
  return <Link to={takeOff === null ? `/trials/${id}` : `/take-offs/${takeOff}`}>{name}</Link>
}
