import { newId } from './newId'

/** This page, as long as it is open: what it keeps in the browser is its own, and no other tab's. */
export const TAB = newId()

const BEAT_MS = 5_000
/** A tab in the background may be held back to one beat a minute. */
const GONE_MS = 150_000
const PREFIX = 'tender.tab.'

let beating = false
/** Says that this tab is open, from now on. */
export function sayOpen(): void {
  if (beating) return
  beating = true
  const beat = () => localStorage.setItem(PREFIX + TAB, String(Date.now()))
  beat()
  setInterval(beat, BEAT_MS)
  window.addEventListener('pagehide', () => localStorage.removeItem(PREFIX + TAB))
  window.addEventListener('pageshow', beat)
}

/** Whether another tab is still open, as far as can be told; this one always is. */
export function isOpen(tab: string): boolean {
  if (tab === TAB) return true
  const beat = Number(localStorage.getItem(PREFIX + tab))
  return Date.now() - beat < GONE_MS
}
