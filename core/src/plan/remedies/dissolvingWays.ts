import { clingGuess, factsOf, type FamilyBook, type Filament } from '../../bench'
import { bookOf, type PlanDocument } from '../../decide'
import { livesTogether } from '../../pairing'
import { dissolvesAll } from '../dissolvesAll'
import type { PlanRemedy } from './remedy'

const MOST_WAYS = 2
/** Filaments that cling so much weld to the part. */
const WELDS = 4

/**
 * Stands and interface in a filament that dissolves where the part does not, those first that cling the least
 * to it.
 * @param shelf filaments to choose from
 * @param book what the maker knows of their families
 */
export function dissolvingWays(
  document: PlanDocument,
  shelf: readonly Filament[],
  book: FamilyBook = bookOf(document),
): PlanRemedy[] {
  const { decisions, exceptions, filaments, printer } = document
  const part = filaments.find(({ id }) => id === decisions.partFilament)
  if (!part || dissolvesAll(document)) return []
  const clingOf = ({ family }: Filament) => clingGuess(part.family, family, book).cling
  return shelf
    .filter(
      (one) =>
        factsOf(one.family, book).dissolvesIn !== null &&
        clingOf(one) < WELDS &&
        livesTogether(part, one, printer, book).every(({ grade }) => grade !== 'bad'),
    )
    .sort((a, b) => clingOf(a) - clingOf(b))
    .slice(0, MOST_WAYS)
    .map((one) => ({
      words: `stands and interface in ${one.name}, which dissolves`,
      change: {
        decisions: { standFilament: one.id, interfaceFilament: one.id },
        filaments: [one],
        ...(exceptions.length > 0 && {
          exceptions: exceptions.map(
            ({ standFilament: _stand, interfaceFilament: _interface, ...rest }) => rest,
          ),
        }),
      },
    }))
}
