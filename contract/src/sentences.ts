import type { z } from 'zod'

type Issue = z.ZodError['issues'][number]

/** Kinds of values in a maker's words. */
const KINDS: Readonly<Record<string, string>> = {
  int: 'a whole number',
  string: 'text',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  record: 'a set of fields in braces',
  object: 'a set of fields in braces',
}

/** What is wrong with one value, as the end of a sentence that begins with its name. */
export function issuePredicate(issue: Issue): string {
  switch (issue.code) {
    case 'too_small':
      if (issue.origin === 'number') return `must be at least ${issue.minimum}.`
      return issue.origin === 'array' && Number(issue.minimum) > 1
        ? `must have ${issue.minimum} values.`
        : 'must not be empty.'
    case 'too_big':
      return issue.origin === 'number'
        ? `must be at most ${issue.maximum}.`
        : `is too long; up to ${issue.maximum} fit.`
    case 'unrecognized_keys':
      return `has ${issue.keys.map((key) => `"${key}"`).join(', ')}, which nothing here is called.`
    case 'invalid_value':
      return `must be ${issue.values.map((value) => `"${String(value)}"`).join(' or ')}.`
    case 'invalid_type':
      return `must be ${KINDS[issue.expected] ?? `a ${issue.expected}`}.`
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
  const { issue, path } = innermost(error.issues[0], [])
  const field = path.join('.')
  return { field, message: `${field === '' ? 'The document' : `"${field}"`} ${issuePredicate(issue)}` }
}

/** Of what may be one of several, what is wrong with the one that it comes nearest to. */
function innermost(
  issue: Issue,
  above: readonly PropertyKey[],
): { issue: Issue; path: readonly PropertyKey[] } {
  const path = [...above, ...issue.path]
  if (issue.code !== 'invalid_union' || issue.errors.length === 0) return { issue, path }
  const [nearest] = issue.errors.toSorted((a, b) => a.length - b.length)
  return innermost(nearest[0], path)
}
