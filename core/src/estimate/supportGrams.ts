import type { Estimate } from './estimate'

/** Grams of everything that is printed to be taken off again; purge is not part of it. */
export const supportGrams = ({ roles }: Pick<Estimate, 'roles'>): number =>
  roles.stand.g + roles.interface.g + roles.footing.g + roles.brim.g
