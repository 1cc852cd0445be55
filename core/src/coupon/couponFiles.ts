import { write3mf, writeStl } from '../mesh'
import type { Filament } from '../bench'
import type { BuiltCoupon } from './buildCoupon'

/**
 * The coupon as one 3MF file, a body per filament and use.
 * @throws SOLID_NOT_CLOSED when a body cannot be made closed
 */
export function couponFile(
  title: string,
  coupon: BuiltCoupon,
  filaments: readonly [Filament, Filament],
): Uint8Array {
  return write3mf(
    title,
    coupon.bodies.map(({ name, slot, mesh }) => ({
      name: `${name}, ${filaments[slot].name}`,
      colour: filaments[slot].colour,
      mesh,
    })),
  )
}

/** Each body as an STL file of its own, all in the same place. */
export const couponStls = (coupon: BuiltCoupon): { readonly name: string; readonly bytes: Uint8Array }[] =>
  coupon.bodies.map(({ name, mesh }) => ({ name, bytes: writeStl(mesh) }))
