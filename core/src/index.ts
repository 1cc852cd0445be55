export { TENDER_ERROR_CODES, TenderError } from './errors'
export type { TenderErrorCode } from './errors'
