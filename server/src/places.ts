import { fileURLToPath } from 'node:url'

/** From here, and from dist, where programs are put together: both lie in the server's folder. */
const placed = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

export const MIGRATIONS = placed('../migrations')
/** The built interface. */
export const WEB_FOLDER = placed('../../web/dist')
/** What answers that the interface keeps are marked with: of another version they are not its own. */
export const PLANNER_VERSION_FILE = placed('../../web/dist/planner-version.txt')

/** How Node starts a process beside the server: put together as we are, or from its source as a test does. */
const beside = (name: string): readonly string[] =>
  import.meta.url.endsWith('.ts') ? ['--import', 'tsx', placed(`./${name}.ts`)] : [placed(`./${name}.mjs`)]
export const WORKER = beside('worker')
export const OPENINGS = beside('openings')
