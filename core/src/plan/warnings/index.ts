import { accessWarnings } from './access'
import { chainWarnings } from './chain'
import { exceptionWarnings } from './exceptions'
import { gapWarnings } from './gaps'
import { heldWarnings } from './held'
import { machineWarnings } from './machine'
import { postWarnings } from './posts'
import { purgeWarnings } from './purge'
import { thinWarnings } from './thin'
import { error, warning, type PlanWarning, type Warned } from './warning'

export { UNHELD_WORDS } from './held'
export { WARNING_CODES } from './warning'
export type { PlanWarning, PlanWarningCode, Warned } from './warning'

/** Everything to mind about a plan. */
export function warningsOf(warned: Warned): PlanWarning[] {
  return [
    ...meshWarnings(warned),
    ...thinWarnings(warned),
    ...heldWarnings(warned),
    ...postWarnings(warned),
    ...exceptionWarnings(warned),
    ...gapWarnings(warned),
    ...chainWarnings(warned),
    ...accessWarnings(warned),
    ...machineWarnings(warned),
    ...purgeWarnings(warned),
    ...spoolWarnings(warned),
  ]
}

function meshWarnings({ facts, slices }: Warned): PlanWarning[] {
  return facts.watertight
    ? []
    : [
        warning(
          'MESH_OPEN',
          `The mesh has ${facts.openEdges} open ${facts.openEdges === 1 ? 'edge' : 'edges'}; ${slices.mendedOutlines} loose outline ${slices.mendedOutlines === 1 ? 'end was' : 'ends were'} joined to slice it. Look through the layers before printing.`,
        ),
      ]
}

const spoolWarnings = ({ totals }: Warned): PlanWarning[] =>
  totals.filaments.flatMap(({ name, g, gramsLeft }) =>
    gramsLeft !== null && g > gramsLeft
      ? [error('SPOOL_SHORT', `${name}: ${Math.round(gramsLeft)} g left, ${g.toFixed(1)} g needed.`)]
      : [],
  )
