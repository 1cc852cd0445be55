import { Link } from 'react-router'
import { usePrintRun } from '../../api/usePrintRun'
import { RUN_WORDS } from './words'

/** Where a print is watched, when it was sent from here. */
export function WatchLink({ takeOffId }: { takeOffId: string }) {
  const run = usePrintRun(takeOffId).query.data
  if (!run) return null
  return (
    <>
      {' '}
      <Link to={`/take-offs/${takeOffId}/watch`}>
        {run.printer.standIn ? 'On the stand-in printer' : 'On the printer'}: {RUN_WORDS[run.state]}
      </Link>
      .
    </>
  )
}
