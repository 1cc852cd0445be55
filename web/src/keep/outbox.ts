import { z } from 'zod'
import { newId } from './newId'
import { isOpen, sayOpen, TAB } from './tab'

/** A change that the server has not acknowledged. */
const Kept = z.object({
  id: z.string(),
  tab: z.string(),
  /** Order among changes of one tab. */
  at: z.number(),
  /** What it changes within its topic: a step of a trial, a contact of a record. */
  target: z.string(),
  /** The revision of it that the maker saw. */
  base: z.number().int().min(0),
  changes: z.record(z.string(), z.unknown()),
  /** Why the server would not have it; null while it waits to be sent. */
  refused: z.string().nullable(),
})
export type Kept = z.infer<typeof Kept>

/** Everything kept stands under a key of its own, so that two tabs never write the same one. */
const prefixOf = (topic: string) => `tender.kept.${topic}.`

let last = 0
/** Later than everything before, also within one millisecond. */
const now = (): number => (last = Math.max(Date.now(), last + 0.001))

function write(topic: string, entry: Kept): Kept {
  sayOpen()
  localStorage.setItem(prefixOf(topic) + entry.id, JSON.stringify(entry))
  return entry
}

/** Keeps a change of this tab. */
export const keep = (topic: string, target: string, base: number, changes: Record<string, unknown>): Kept =>
  write(topic, { id: newId(), tab: TAB, at: now(), target, base, changes, refused: null })

/** Writes another state of something kept. */
export const keepAs = (topic: string, entry: Kept): Kept => write(topic, entry)

/** Forgets what the server has, or what the maker does not want. */
export const forget = (topic: string, id: string): void => localStorage.removeItem(prefixOf(topic) + id)

/**
 * What this tab keeps of a topic, oldest first; what tabs kept that are closed by now becomes its own.
 * Rubbish is passed over.
 */
export function keptOf(topic: string): Kept[] {
  const prefix = prefixOf(topic)
  const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)!)
  const own: Kept[] = []
  for (const key of keys.filter((one) => one.startsWith(prefix))) {
    const entry = readEntry(key)
    if (!entry || entry.id !== key.slice(prefix.length)) continue
    if (entry.tab === TAB) own.push(entry)
    else if (!isOpen(entry.tab)) own.push(write(topic, { ...entry, tab: TAB }))
  }
  return own.toSorted((a, b) => a.at - b.at)
}

function readEntry(key: string): Kept | null {
  try {
    const parsed = Kept.safeParse(JSON.parse(localStorage.getItem(key) ?? 'null'))
    return parsed.success ? parsed.data : null
  } catch {
    return null
  }
}
