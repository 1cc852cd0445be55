import { TenderError } from '@tender/core'
import { STAGES, type StageName } from '@tender/core/plan'
import { breathe } from '../breathe'
import { stopBeside } from './engines'

export type OnProgress = (stage: StageName, share: number) => void

/** The ticket of the newest work asked for; work on an older one stops. */
let newest = 0

/** Makes a piece of work the newest; what it gives tells, later, whether it still is. */
export function take(ticket: number): () => boolean {
  newest = ticket
  stopBeside()
  return stillNewest()
}

/** Asks, later, whether what is newest now still is. */
export function stillNewest(): () => boolean {
  const asked = newest
  return () => newest === asked
}

/** @throws TenderError STOPPED once the work is no longer wanted */
function mustBe(stillWanted: () => boolean): void {
  if (!stillWanted()) throw new TenderError('STOPPED', 'The work was stopped.')
}

/** Lets others have a turn, and asks whether the work is still wanted. */
export async function lastBreath(stillWanted: () => boolean): Promise<void> {
  await breathe()
  mustBe(stillWanted)
}

/** What a long piece of work calls on its way: tells how far it is, now and then, and stops it. */
export function watch(stillWanted: () => boolean, onProgress?: OnProgress) {
  let last = performance.now()
  return async (stage: StageName, share: number) => {
    if (performance.now() - last < 30) return
    onProgress?.(stage, share)
    await breathe()
    last = performance.now()
    mustBe(stillWanted)
  }
}

/** How far a plan is, over all its stages. */
export const shareOf = (stage: StageName, share: number) => (STAGES.indexOf(stage) + share) / STAGES.length

/** The watch over the making of a file: takes its ticket, tells its share. */
export function filePulse(ticket: number, onShare: (share: number) => void) {
  const pulse = watch(take(ticket), (_, share) => onShare(share))
  return (share: number) => pulse('estimate', share)
}
