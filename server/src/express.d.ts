import type { Logger } from 'pino'

declare module 'express-serve-static-core' {
  interface Request {
    /** Where a handler writes what went wrong. */
    log?: Logger
  }
}
