import type { StoredTakeOff, TakeOffInput } from '@tender/contract'

/** The part of a stored take-off that a save sends. */
export function takeOffInput(takeOff: StoredTakeOff): TakeOffInput {
  const { name, printedOn, partId, planId, bed, damp, simulated, lessonsLeftOut, document, printed } = takeOff
  return { name, printedOn, partId, planId, bed, damp, simulated, lessonsLeftOut, document, printed }
}
