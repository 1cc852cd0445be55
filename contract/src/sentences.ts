import type { z } from 'zod'

/** The first thing wrong with a value, as one sentence: where, what, and what would be right. */
export function issueSentence(error: z.ZodError): { readonly message: string; readonly field: string } {
  const issue = error.issues[0]
  const field = issue.path.join('.')
  const at = field === '' ? 'The document' : `"${field}"`
  switch (issue.code) {
    case 'too_small':
      return { field, message: issue.origin === 'number' ? `${at} must be at least ${issue.minimum}.` : `${at} must not be empty.` }
    case 'too_big':
      return { field, message: issue.origin === 'number' ? `${at} must be at most ${issue.maximum}.` : `${at} is too long; up to ${issue.maximum} fit.` }
    case 'unrecognized_keys':
      return { field, message: `${at === 'The document' ? 'The document' : at} has ${issue.keys.map((key) => `"${key}"`).join(', ')}, which nothing here is called.` }
    case 'invalid_value':
      return { field, message: `${at} must be ${issue.values.map((value) => `"${String(value)}"`).join(' or ')}.` }
    case 'invalid_type':
      return { field, message: `${at} must be ${issue.expected === 'int' ? 'a whole number' : `a ${issue.expected}`}.` }
    default:
      return { field, message: `${at}: ${issue.message}` }
  }
}
