import { issueSentence, type Problem } from '@tender/contract'
import { TenderError } from '@tender/core'
import type { ErrorRequestHandler } from 'express'
import { ZodError } from 'zod'

const STATUS: Record<Problem['code'], number> = { NOT_FOUND: 404, INVALID: 422, STALE: 409, NAME_TAKEN: 409, FILE_REFUSED: 422, TOO_LARGE: 413, INTERNAL: 500, OFFLINE: 503 }

/** A refusal on its way to the client. */
export class HttpProblem extends Error {
  readonly code: Problem['code']
  readonly extra: { readonly field?: string; readonly current?: unknown }
  constructor(code: Problem['code'], sentence: string, extra: HttpProblem['extra'] = {}) {
    super(sentence)
    this.code = code
    this.extra = extra
  }
}

/** The one place where errors become answers. What is not known is logged whole and answered without its message. */
export const problemHandler: ErrorRequestHandler = (error: unknown, req, res, next) => {
  // Whoever asked has gone, in the middle of an answer: nobody is left to tell, and nothing is wrong here.
  if ((error as { code?: string }).code === 'ERR_STREAM_PREMATURE_CLOSE') return void res.destroy()
  if (res.headersSent) return next(error)
  const known = problemOf(error)
  if (known.code === 'INTERNAL') req.log?.error(error)
  const body: Problem = { type: 'about:blank', title: known.message, status: STATUS[known.code], code: known.code, ...known.extra }
  res.status(body.status).type('application/problem+json').send(JSON.stringify(body))
}

function problemOf(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof ZodError) {
    const { message, field } = issueSentence(error)
    return new HttpProblem('INVALID', message, { field })
  }
  if (error instanceof TenderError) return new HttpProblem('FILE_REFUSED', error.message)
  const { type, cause } = error as { type?: string; cause?: { code?: string } }
  if (type === 'entity.too.large') return new HttpProblem('TOO_LARGE', 'The file is larger than this server takes in. Nothing was stored.')
  if (type === 'entity.parse.failed') return new HttpProblem('INVALID', 'The request is not valid JSON. Nothing was stored.')
  const sqlState = cause?.code ?? (error as { code?: string }).code
  if (sqlState === '23505') return new HttpProblem('NAME_TAKEN', 'Something on the bench already has this name; names must differ so that plans can tell them apart.', { field: 'name' })
  if (sqlState === '23503') return new HttpProblem('INVALID', 'This refers to something that is not on the bench any more. Nothing was stored.')
  if (sqlState === '23514' || sqlState === '22003') return new HttpProblem('INVALID', 'A number lies outside what can be stored. Nothing was stored.')
  if (sqlState !== undefined && /^(08|57P)|^ECONN/.test(sqlState)) return new HttpProblem('OFFLINE', 'The database does not answer. Nothing was stored; try again in a moment.')
  return new HttpProblem('INTERNAL', 'Something went wrong on the server. Nothing was stored; the log has the details.')
}
