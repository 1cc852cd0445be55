import { TenderError } from '../errors'
import { factsOf, type Family, type FamilyBook } from './families'

/** One kind of filament as bought. Colour as #rrggbb. */
export type Filament = {
  /** What it is known by, whatever it is called. */
  readonly id: string
  readonly name: string
  readonly family: Family
  readonly colour: string
  readonly densityGcm3: number
  readonly diameterMm: number
  readonly pricePerKg: number
  readonly nozzleC: number
  readonly bedC: number
  /** What is left over all its spools; null when nobody has weighed them. */
  readonly gramsLeft: number | null
  /** Lots of its spools that could be printed from, as written on them. */
  readonly lots: readonly string[]
}

const middle = ([low, high]: readonly [number, number]) => Math.round((low + high) / 2)

/** A filament with its family's starting numbers, known by its name. */
export function plainFilament(name: string, family: Family, colour: string, book?: FamilyBook): Filament {
  const facts = factsOf(family, book)
  return {
    id: name,
    name,
    family,
    colour,
    densityGcm3: facts.densityGcm3,
    diameterMm: 1.75,
    pricePerKg: 22,
    nozzleC: middle(facts.nozzleC),
    bedC: middle(facts.bedC),
    gramsLeft: null,
    lots: [],
  }
}

/**
 * The filament of an identity.
 * @throws TenderError FILAMENT_UNKNOWN
 */
export function filamentOf(filaments: readonly Filament[], id: string): Filament {
  const found = filaments.find((filament) => filament.id === id)
  if (!found)
    throw new TenderError('FILAMENT_UNKNOWN', `The plan prints in "${id}", but brings no such filament.`, {
      id,
    })
  return found
}
