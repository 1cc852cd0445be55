export { TenderError } from './errors'
export type { TenderErrorCode } from './errors'
