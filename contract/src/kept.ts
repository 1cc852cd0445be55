import type { Learnt, PlanDocument } from '@tender/core/decide'
import type { TakeOff } from '@tender/core/takeOff'
import { z } from 'zod'
import type { StoredFilament } from './filament'
import type { Printer } from './printer'
import { Id } from './stored'
import type { StoredTakeOff } from './takeOff'
import { planFilament, takeOffOf } from './toCore'

/** Answers that are kept for other browsers are no longer than this. */
export const MOST_KEPT_BYTES = 2_000_000

/** What an answer is about: all take-offs, or a plan by its id. */
export const KeptAbout = z.union([z.literal('learnt'), Id])
export type KeptAbout = z.infer<typeof KeptAbout>

/** The answers last kept or asked for about some things, where any were: most likely what is asked next. */
export const LastKept = z.array(z.object({ about: KeptAbout, key: z.string(), answer: z.string() }))
export type LastKept = z.infer<typeof LastKept>

/**
 * What an answer is kept under, before it is hashed together with the version of the code that answers:
 * whoever works it out ahead has to ask in just these words.
 */
export const keptQuestions = {
  /** @param meshSha256 the part; a name alone leaves a plan's numbers as they are */
  plan: (meshSha256: string, document: PlanDocument): string =>
    `plan ${meshSha256} ${JSON.stringify({ ...document, name: '' })}`,
  learnt: (takeOffs: readonly TakeOff[]): string => `learnt ${JSON.stringify(takeOffs)}`,
}

/** A plan as it is opened: what is left on the spools, and what take-offs taught, is of today. */
export function asOfToday(
  document: PlanDocument,
  printers: readonly Printer[],
  filaments: readonly StoredFilament[],
  learnt: Learnt,
): PlanDocument {
  const standing = printers.find(({ id }) => id === document.printer.id)
  const today = new Map(filaments.map((one) => [one.id, planFilament(one, standing)]))
  return {
    ...document,
    learnt,
    filaments: document.filaments.map((one) => {
      const now = today.get(one.id)
      return now ? { ...one, name: now.name, gramsLeft: now.gramsLeft, lots: now.lots } : one
    }),
  }
}

/** A take-off as views go by it: without what is only drawn. */
export function leanTakeOff(stored: StoredTakeOff): TakeOff {
  const takeOff = takeOffOf(stored)
  const contacts = takeOff.printed.contacts.map((contact) => ({ ...contact, outline: [] }))
  return { ...takeOff, printed: { ...takeOff.printed, silhouette: [], contacts } }
}
