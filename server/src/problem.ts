import { issueSentence, type Problem, type ProblemCode } from '@tender/contract'
import { TenderError } from '@tender/core'
import type { ErrorRequestHandler } from 'express'
import { ZodError } from 'zod'

/** What is not named here is a refusal of core: what was sent cannot be worked with. */
const STATUS: Partial<Record<ProblemCode, number>> = {
  NOT_FOUND: 404,
  GONE: 410,
  STALE: 409,
  NAME_TAKEN: 409,
  TAKEN: 409,
  TOO_MANY: 409,
  TOO_LARGE: 413,
  FILE_TOO_LARGE: 413,
  FORBIDDEN: 403,
  INTERNAL: 500,
  OFFLINE: 503,
  DISK_FULL: 507,
}
const NOT_ACCEPTABLE = 422

type Extra = {
  readonly field?: string
  readonly current?: unknown
  readonly detail?: Readonly<Record<string, unknown>>
  /** Another status than the code usually has. */
  readonly status?: number
}

/** A refusal on its way to the client. */
export class HttpProblem extends Error {
  readonly code: ProblemCode
  readonly extra: Extra
  constructor(code: ProblemCode, sentence: string, extra: Extra = {}) {
    super(sentence)
    this.code = code
    this.extra = extra
  }
}

/**
 * The one place where errors become answers. What is not known is logged and answered without its message.
 */
export const problemHandler: ErrorRequestHandler = (error: unknown, req, res, next) => {
  // Whoever asked has gone, in the middle of an answer: nobody is left to tell, and nothing is wrong here.
  if ((error as { code?: string }).code === 'ERR_STREAM_PREMATURE_CLOSE') return void res.destroy()
  if (res.headersSent) return next(error)
  const known = problemOf(error)
  if (known.code === 'INTERNAL') req.log?.error({ failure: withoutValues(error) }, 'A request failed')
  const { status = STATUS[known.code] ?? NOT_ACCEPTABLE, ...extra } = known.extra
  const body: Problem = { type: 'about:blank', title: known.message, status, code: known.code, ...extra }
  // A browser keeps "gone" for good unless told otherwise, and what is gone can be brought back.
  res.set('Cache-Control', 'no-store')
  res.status(status).type('application/problem+json').send(JSON.stringify(body))
}

type DatabaseFailure = {
  code?: string
  constraint?: string
  query?: string
  cause?: DatabaseFailure
  message?: string
  stack?: string
}

/**
 * An error for the log. What the database refused is told by statement and code: its values may be a whole
 * mesh, or somebody's own.
 */
export function withoutValues(error: unknown): Record<string, unknown> {
  const { query, cause, code, message, stack } = error as DatabaseFailure
  if (query !== undefined)
    return { statement: query.slice(0, 500), code: cause?.code ?? code, constraint: cause?.constraint }
  return { message, stack, code }
}

const NOTHING = 'Nothing was stored.'

/** What PostgreSQL refused, in our words, by its SQLSTATE; null for a failure of ours. */
function databaseProblem({ code = '', constraint = '' }: DatabaseFailure): HttpProblem | null {
  if (code === '23505' && constraint === 'spool_id')
    return new HttpProblem('TAKEN', `One of these spools already stands with another filament. ${NOTHING}`, {
      field: 'spools',
    })
  if (code === '23505')
    return new HttpProblem(
      'NAME_TAKEN',
      'Something on the bench already has this name; names must differ so that plans can tell them apart.',
      { field: 'name' },
    )
  if (code === '23503')
    return new HttpProblem(
      'INVALID',
      `This refers to something that is not on the bench any more. ${NOTHING}`,
    )
  if (code === '23514' || code === '22003')
    return new HttpProblem('INVALID', `A number lies outside what can be stored. ${NOTHING}`)
  if (code === '22021' || code === '22P05')
    return new HttpProblem('INVALID', `The text holds a character that cannot be stored. ${NOTHING}`)
  if (code === '53100' || code === 'ENOSPC')
    return new HttpProblem(
      'DISK_FULL',
      `The disk of the server is full. ${NOTHING} Make room, then try again; what you typed is kept here.`,
    )
  if (code === '57014' || code === '55P03')
    return new HttpProblem('OFFLINE', `The database took too long. ${NOTHING} Try again in a moment.`)
  if (/^(08|57P|53|25006|58030|XX001)|^(ECONN|EPIPE|ETIMEDOUT)/.test(code))
    return new HttpProblem('OFFLINE', `The database does not answer. ${NOTHING} Try again in a moment.`)
  return null
}

/** What Express, its parsers and Node refuse before we see a request. */
function requestProblem({
  type,
  status,
  message = '',
}: {
  type?: string
  status?: number
  message?: string
}): HttpProblem | null {
  if (type === 'entity.too.large')
    return new HttpProblem('TOO_LARGE', `The file is larger than this server takes in. ${NOTHING}`)
  if (type === 'entity.parse.failed')
    return new HttpProblem('INVALID', `The request is not valid JSON. ${NOTHING}`)
  if (/timeout exceeded when trying to connect|Connection terminated/.test(message))
    return new HttpProblem('OFFLINE', `The database does not answer. ${NOTHING} Try again in a moment.`)
  if (status !== undefined && status >= 400 && status < 500)
    return new HttpProblem(
      'INVALID',
      `The request cannot be read: its address, encoding or length is not right. ${NOTHING}`,
      { status },
    )
  return null
}

function problemOf(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof ZodError) {
    const { message, field } = issueSentence(error)
    return new HttpProblem('INVALID', message, { field })
  }
  if (error instanceof TenderError)
    return new HttpProblem(error.code, error.message, { detail: error.detail })
  const { cause, code, constraint } = error as DatabaseFailure
  return (
    databaseProblem({ code: cause?.code ?? code, constraint: cause?.constraint ?? constraint }) ??
    requestProblem(error as { type?: string; status?: number; message?: string }) ??
    (cause ? requestProblem(cause as { message?: string }) : null) ??
    new HttpProblem('INTERNAL', `Something went wrong on the server. ${NOTHING} The log has the details.`)
  )
}
