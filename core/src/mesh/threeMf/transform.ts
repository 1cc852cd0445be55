/** Twelve numbers, row by row: a point (x, y, z, 1) times this gives its place. */
export type Transform = readonly number[]

export const STILL: Transform = [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]

/** How a transform changes volumes; negative when it mirrors. Source: determinant of its upper three rows. */
export const stretchOf = (m: Transform): number =>
  m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) + m[2] * (m[3] * m[7] - m[4] * m[6])

/** First `inner`, then `outer`. */
export function combined(inner: Transform, outer: Transform): Transform {
  if (outer === STILL) return inner
  const out: number[] = []
  for (let row = 0; row < 4; row++)
    for (let column = 0; column < 3; column++) {
      let sum = row === 3 ? outer[9 + column] : 0
      for (let k = 0; k < 3; k++) sum += inner[3 * row + k] * outer[3 * k + column]
      out.push(sum)
    }
  return out
}
