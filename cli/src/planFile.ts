import { completePlan, issueSentence, PlanFile } from '@tender/contract'
import { TenderError } from '@tender/core'
import type { PlanDocument } from '@tender/core/decide'
import { readJson } from './files'

/**
 * The plan of a file, completed; without a file, the plan that an empty one stands for.
 * @throws TenderError VALUE_OUT_OF_RANGE when it is no plan
 */
export function planFile(file: string | undefined): PlanDocument {
  if (file === undefined) return completePlan({})
  const raw = readJson(file)
  const parsed = PlanFile.safeParse(raw)
  if (!parsed.success)
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      `The plan file cannot be used. ${issueSentence(parsed.error).message}`,
    )
  return completePlan(parsed.data)
}
