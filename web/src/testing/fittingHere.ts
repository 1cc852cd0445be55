import { fittingWork } from '../workers/fittingWork'

/**
 * Stands in for the thread that fits, in tests of views: the same work, a moment later, on what a message
 * would carry.
 */
const here = Object.fromEntries(
  Object.entries(fittingWork).map(([name, work]) => [
    name,
    async (...given: unknown[]) =>
      structuredClone(await (work as (...args: unknown[]) => unknown)(...structuredClone(given))),
  ]),
)
export const fitting = () => here
