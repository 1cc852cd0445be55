import { fileURLToPath } from 'node:url'

/** From here, and from dist, where programs are put together: both lie in the server's folder. */
const placed = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

export const MIGRATIONS = placed('../migrations')
/** The built interface. */
export const WEB_FOLDER = placed('../../web/dist')

/** How Node starts the worker: put together as we are, or from its source as a test does. */
export const WORKER: readonly string[] = import.meta.url.endsWith('.ts')
  ? ['--import', 'tsx', placed('./worker.ts')]
  : [placed('./worker.mjs')]
