import { TENDER_ERROR_CODES } from '@tender/core'
import { z } from 'zod'

/** Refusals of the server itself; what core refuses keeps core's own code. */
export const PROBLEM_CODES = [
  'NOT_FOUND',
  'GONE',
  'INVALID',
  'STALE',
  'NAME_TAKEN',
  'TAKEN',
  'TOO_MANY',
  'FILE_REFUSED',
  'TOO_LARGE',
  'DISK_FULL',
  'FORBIDDEN',
  'INTERNAL',
  'OFFLINE',
] as const

/**
 * Every refusal of the server: a code for programs, a sentence for people, the field it is about, the facts
 * behind it; with STALE, the row as it now stands.
 */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  code: z.enum([...PROBLEM_CODES, ...TENDER_ERROR_CODES]),
  field: z.string().optional(),
  detail: z.record(z.string(), z.unknown()).optional(),
  current: z.unknown().optional(),
})
export type Problem = z.infer<typeof Problem>
export type ProblemCode = Problem['code']
