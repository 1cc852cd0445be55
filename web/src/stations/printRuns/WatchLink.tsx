import { Link } from 'react-router'
import { usePrintRun, type RunOf } from '../../api/usePrintRun'
import { RUN_WORDS } from './words'

const SHELF_OF = { takeOff: 'take-offs', trial: 'trials' } as const

/** Where a print is watched, when it was sent from here. */
export function WatchLink({ of }: { of: RunOf }) {
  const run = usePrintRun(of).query.data
  if (!run) return null
  return (
    <>
      {' '}
      <Link to={`/${SHELF_OF[of.kind]}/${of.id}/watch`}>
        {run.printer.standIn ? 'On the stand-in printer' : 'On the printer'}: {RUN_WORDS[run.state]}
      </Link>
      .
    </>
  )
}
