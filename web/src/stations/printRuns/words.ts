import type { PrintRun, RunState } from '@tender/contract'
import { duration } from '../../format/numbers'

export const RUN_WORDS: Readonly<Record<RunState, string>> = {
  printing: 'printing',
  paused: 'paused',
  fault: 'waits for you',
  lost: 'not reached just now',
  done: 'done',
  'given up': 'given up',
}

/** How far a print is, in words. */
export function runSentence({ state, message, progress, bytes }: PrintRun): string {
  const { layer, layers, minutesLeft } = progress
  const share = bytes > 0 ? Math.round((100 * progress.doneBytes) / bytes) : 0
  const where = layer !== null ? `height ${layer} of ${layers}` : 'before its first line'
  switch (state) {
    case 'printing':
      return `Printing ${where}, ${share} % of its lines${minutesLeft !== null ? `; ${duration(60 * minutesLeft)} of the plan’s time left` : ''}.`
    case 'paused':
      return `Paused at ${where}.${message ? ` ${message}` : ''}`
    case 'fault':
      return `It stopped at ${where}. ${message ?? ''} Put it right and go on: the line that was refused is sent again.`
    case 'lost':
      return `${message ?? 'The printer cannot be reached.'} It is tried again by itself, and goes on at ${where}.`
    case 'done':
      return 'Done: every line of it.'
    case 'given up':
      return `Given up at ${where}.${message ? ` ${message}` : ''}`
  }
}
