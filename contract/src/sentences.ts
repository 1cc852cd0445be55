import type { z } from 'zod'

type Issue = z.ZodError['issues'][number]

/** What is wrong with one value, as the end of a sentence that begins with its name. */
export function issuePredicate(issue: Issue): string {
  switch (issue.code) {
    case 'too_small':
      return issue.origin === 'number' ? `must be at least ${issue.minimum}.` : 'must not be empty.'
    case 'too_big':
      return issue.origin === 'number'
        ? `must be at most ${issue.maximum}.`
        : `is too long; up to ${issue.maximum} fit.`
    case 'unrecognized_keys':
      return `has ${issue.keys.map((key) => `"${key}"`).join(', ')}, which nothing here is called.`
    case 'invalid_value':
      return `must be ${issue.values.map((value) => `"${String(value)}"`).join(' or ')}.`
    case 'invalid_type':
      return `must be ${issue.expected === 'int' ? 'a whole number' : /^[aeiou]/.test(issue.expected) ? `an ${issue.expected}` : `a ${issue.expected}`}.`
    case 'invalid_format':
      return issue.format === 'regex' && issue.message.includes(' ')
        ? `is not right. ${issue.message}`
        : `must be a valid ${issue.format}.`
    default:
      return `is not right. ${issue.message}`
  }
}

/** The first thing wrong with a value, as one sentence: where, what, and what would be right. */
export function issueSentence(error: z.ZodError): { readonly message: string; readonly field: string } {
  const issue = error.issues[0]
  const field = issue.path.join('.')
  return { field, message: `${field === '' ? 'The document' : `"${field}"`} ${issuePredicate(issue)}` }
}
