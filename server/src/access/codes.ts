import { randomInt, timingSafeEqual } from 'node:crypto'

/** A code is good for this long. */
export const CODE_LASTS_MS = 10 * 60_000
/** After so many wrong tries a new code is made, which whoever guesses does not see. */
const MOST_WRONG = 8
const LONGEST_WAIT_MS = 60_000

export type Try = 'right' | 'wrong' | { readonly waitMs: number }

/**
 * The code that lets a device in, shown on the bench. Wrong tries are slowed, whoever makes them: each
 * doubles the wait until the next one is looked at.
 */
export function createCodes(now: () => number = Date.now) {
  let code = ''
  let madeAt = -Infinity
  let wrong = 0
  /** Wrong tries since the last right one: the wait goes by them, through all codes. */
  let failures = 0
  let waitUntil = 0
  const renew = () => {
    code = String(randomInt(0, 1_000_000)).padStart(6, '0')
    madeAt = now()
    wrong = 0
  }
  const current = () => {
    if (now() - madeAt >= CODE_LASTS_MS || wrong >= MOST_WRONG) renew()
    return code
  }
  return {
    /** The code of now, and until when it is good. */
    show: () => ({ code: current(), until: madeAt + CODE_LASTS_MS }),
    /** Tries a code. One that was right is used up. */
    attempt(tried: string): Try {
      if (now() < waitUntil) return { waitMs: waitUntil - now() }
      const right = Buffer.from(current())
      const given = Buffer.from(tried.replace(/\D/g, ''))
      if (given.length === right.length && timingSafeEqual(given, right)) {
        failures = 0
        renew()
        return 'right'
      }
      wrong++
      failures++
      waitUntil = now() + Math.min(LONGEST_WAIT_MS, 500 * 2 ** failures)
      return 'wrong'
    },
  }
}
export type Codes = ReturnType<typeof createCodes>
