import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '../..')

/** Where everything that is not code lives: database, run file, build stamps. */
export const dataFolder = () => resolve(process.env.TENDER_DATA_DIR ?? join(ROOT, '.data'))
