export type Deg = number & { readonly unit: 'deg' }

/** Brands a plain number of degrees. */
export const deg = (value: number): Deg => value as Deg

export const radians = (angleDeg: number): number => (angleDeg * Math.PI) / 180
export const degrees = (angleRad: number): number => (angleRad * 180) / Math.PI

/**
 * An overhang angle said the other way round: from vertical (0 = wall) to from the bed (90 = wall), and back.
 */
export const otherConvention = (angleDeg: number): Deg => deg(90 - angleDeg)

/**
 * Share of the outer line that hangs over air when each layer steps out at this angle.
 * @param angleDeg from vertical, 0 <= angle < 90
 * Source: step h * tan(a), divided by the line width w.
 */
export function hangingShare(angleDeg: number, layerHeightMm: number, lineWidthMm: number): number {
  return (layerHeightMm * Math.tan(radians(angleDeg))) / lineWidthMm
}

/**
 * Angle from vertical at which the outer line hangs over by this share: the inverse of `hangingShare`.
 * Source: a = atan(u * w / h).
 */
export function angleOfShare(share: number, layerHeightMm: number, lineWidthMm: number): Deg {
  return deg(degrees(Math.atan((share * lineWidthMm) / layerHeightMm)))
}
