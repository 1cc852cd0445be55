import type { Filament } from '../bench'

/** What is loaded where, by identity of filaments: per nozzle or slot of a changer; null where nothing is. */
export type Loaded = readonly (string | null)[]

/**
 * The numbers that a printer knows some filaments by: where they are loaded; those that are loaded nowhere
 * take the first places where nothing is, then those of filaments that are not printed with.
 */
export function toolsFor(slots: readonly Pick<Filament, 'id'>[], loaded: Loaded): number[] {
  const known = slots.map(({ id }) => loaded.indexOf(id))
  const places = [...loaded.keys()].filter((place) => !known.includes(place))
  const left = [
    ...places.filter((place) => loaded[place] === null),
    ...places.filter((place) => loaded[place] !== null),
    ...slots.map((_, i) => loaded.length + i),
  ]
  return known.map((tool) => (tool >= 0 ? tool : left.shift()!))
}
