import type { Printer } from '@tender/contract'

/** The printer that pairings are judged for: the one with most spools on it. */
export const usualPrinter = (printers: readonly Printer[]): Printer | undefined =>
  printers.toSorted(
    (a, b) =>
      b.loaded.filter(Boolean).length - a.loaded.filter(Boolean).length ||
      Number(a.feed === 'changer') - Number(b.feed === 'changer'),
  )[0]
