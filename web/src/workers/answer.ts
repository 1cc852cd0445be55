import { TenderError, type TenderErrorCode } from '@tender/core'

/**
 * What crosses the border of a worker: structured clone drops the fields of an error, so refusals travel as
 * data.
 */
export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly code: TenderErrorCode | 'INTERNAL'; readonly message: string }

export class WorkError extends Error {
  readonly code: TenderErrorCode | 'INTERNAL'
  constructor(code: WorkError['code'], message: string) {
    super(message)
    this.code = code
  }
}

export async function answer<T>(work: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() }
  } catch (error) {
    // A refusal of a further worker goes through as it is.
    if (error instanceof TenderError || error instanceof WorkError)
      return { ok: false, code: error.code, message: error.message }
    console.error(error)
    const outOfMemory = error instanceof RangeError || /memory/i.test(String(error))
    return {
      ok: false,
      code: 'INTERNAL',
      message: outOfMemory
        ? 'This is more than the browser has memory for. Coarser layers or a lighter mesh would fit.'
        : 'The geometry could not be worked out. Nothing of the plan was lost.',
    }
  }
}

export async function unwrap<T>(given: Promise<Answer<T>>): Promise<T> {
  const got = await given
  if (got.ok) return got.value
  throw new WorkError(got.code, got.message)
}
