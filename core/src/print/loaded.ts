import type { Filament } from '../bench'

/** What is loaded where, by identity of filaments: per nozzle or slot of a changer; null where nothing is. */
export type Loaded = readonly (string | null)[]

/**
 * The numbers that a printer knows some filaments by: where they are loaded; those that are loaded nowhere
 * take the first places that are left.
 */
export function toolsFor(slots: readonly Pick<Filament, 'id'>[], loaded: Loaded): number[] {
  const known = slots.map(({ id }) => loaded.indexOf(id))
  const taken = new Set(known)
  let next = 0
  const free = () => {
    while (taken.has(next)) next++
    return next++
  }
  return known.map((tool) => (tool >= 0 ? tool : free()))
}
