import { issuePredicate } from '@tender/contract'
import type { FieldErrors, FieldValues, Resolver } from 'react-hook-form'
import type { z } from 'zod'

/** Checks a form with the contract's own schema; each field gets its sentence. */
export function zodForm<T extends FieldValues>(schema: z.ZodType<T>): Resolver<T> {
  return (values) => {
    const parsed = schema.safeParse(values)
    if (parsed.success) return { values: parsed.data, errors: {} }
    const errors: Record<string, unknown> = {}
    for (const issue of parsed.error.issues) {
      let at = errors
      const path = issue.path.map(String)
      for (const key of path.slice(0, -1)) at = (at[key] ??= {}) as Record<string, unknown>
      const message = issuePredicate(issue)
      at[path.at(-1) ?? 'root'] ??= {
        type: issue.code,
        message: message.charAt(0).toUpperCase() + message.slice(1),
      }
    }
    return { values: {}, errors: errors as FieldErrors<T> }
  }
}
