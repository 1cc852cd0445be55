import { FAMILIES } from '@tender/core/bench'
import { z } from 'zod'
import { Id, Name, Stored } from './stored'

export const Colour = z
  .string()
  .regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written as # and six hexadecimal digits.')

export const FilamentFields = z.strictObject({
  name: Name,
  family: z.enum(FAMILIES),
  colour: Colour,
  densityGcm3: z.number().min(0.3).max(5),
  diameterMm: z.number().min(0.5).max(5),
  pricePerKg: z.number().min(0).max(10_000),
  nozzleC: z.number().min(100).max(500),
  bedC: z.number().min(0).max(200),
  gramsLeft: z.number().min(0).max(100_000).nullable(),
  lots: z.array(z.string().max(60)).max(50).default([]),
})

/**
 * What a plan calls a filament or printer by: its identity on the bench, or whatever a file written by hand
 * says.
 */
export const Identity = z.string().trim().min(1).max(80)
/** A filament as a plan brings it along. */
export const PlanFilamentFields = FilamentFields.extend({ id: Identity })

const day = z.iso.date()

/** A spool as it stands on the shelf. Price and colour are its own where it differs from its filament. */
export const SpoolFields = z.strictObject({
  id: Id,
  label: z.string().trim().max(80),
  lot: z.string().trim().max(60).default(''),
  gramsLeft: z.number().min(0).max(50_000),
  emptyG: z.number().min(0).max(5000).nullable().default(null),
  pricePerKg: FilamentFields.shape.pricePerKg.nullable().default(null),
  colour: Colour.nullable().default(null),
  openedOn: day.nullable().default(null),
  driedOn: day.nullable().default(null),
  damp: z.boolean().default(false),
})
export type SpoolFields = z.infer<typeof SpoolFields>

/** A filament with its spools; what is left of it is what the spools hold together. */
export const FilamentInput = z.strictObject({
  name: Name,
  family: z.enum(FAMILIES),
  colour: Colour,
  densityGcm3: FilamentFields.shape.densityGcm3,
  diameterMm: FilamentFields.shape.diameterMm,
  pricePerKg: FilamentFields.shape.pricePerKg,
  nozzleC: FilamentFields.shape.nozzleC,
  bedC: FilamentFields.shape.bedC,
  spools: z.array(SpoolFields).max(50),
})
export type FilamentInput = z.infer<typeof FilamentInput>
export const StoredFilament = z.object({ ...Stored.shape, ...FilamentInput.shape })
export type StoredFilament = z.infer<typeof StoredFilament>
