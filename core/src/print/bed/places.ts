import { TenderError } from '../../errors'

/** Where a variant stands on the bed, and how many dots its tag has. */
export type BedPlace = {
  readonly name: string
  readonly dots: number
  /** Its corner nearest to the bed's zero, tag included, and its size. */
  readonly atMm: readonly [number, number]
  readonly sizeMm: readonly [number, number]
  /** Where the zero of its plan's own coordinates lies, seen from its corner. */
  readonly fromMm: readonly [number, number]
}

type Corner = readonly [number, number]

/** Free room around the edge of the bed. */
const EDGE_MM = 3

/**
 * Rows from front to back, each as deep as its deepest; all of it in the middle of the bed.
 * @param roomMm left free between two of them
 * @throws TenderError OFF_THE_BED when they do not fit
 */
export function laidOut(
  sizes: readonly Corner[],
  roomMm: number,
  [bedX, bedY]: readonly [number, number],
): Corner[] {
  const widthMm = bedX - 2 * EDGE_MM
  const corners: Corner[] = []
  let [x, y, deep, wide] = [0, 0, 0, 0]
  for (const [w, d] of sizes) {
    if (x > 0 && x + w > widthMm) [x, y, deep] = [0, y + deep + roomMm, 0]
    corners.push([x, y])
    wide = Math.max(wide, x + w)
    deep = Math.max(deep, d)
    x += w + roomMm
  }
  const tall = y + deep
  if (wide > widthMm || tall > bedY - 2 * EDGE_MM)
    throw new TenderError(
      'OFF_THE_BED',
      `${sizes.length} variants, ${roomMm} mm apart, take ${wide.toFixed(0)} by ${tall.toFixed(0)} mm; the bed has ${bedX} by ${bedY}. Print fewer at a time.`,
    )
  const by = [(bedX - wide) / 2, (bedY - tall) / 2]
  return corners.map(([cx, cy]) => [cx + by[0], cy + by[1]])
}

/**
 * Looks whether variants can stand where they were put by hand.
 * @param roomMm that must be free between two of them
 * @throws TenderError OFF_THE_BED, VALUE_OUT_OF_RANGE when two are too close
 */
export function mustStandClear(
  names: readonly string[],
  corners: readonly Corner[],
  sizes: readonly Corner[],
  roomMm: number,
  bedMm: readonly [number, number],
): void {
  corners.forEach((at, n) => {
    if ([0, 1].some((axis) => !(at[axis] >= 0 && at[axis] + sizes[n][axis] <= bedMm[axis])))
      throw new TenderError(
        'OFF_THE_BED',
        `${names[n]} would leave the bed: it takes ${at[0].toFixed(1)} to ${(at[0] + sizes[n][0]).toFixed(1)} by ${at[1].toFixed(1)} to ${(at[1] + sizes[n][1]).toFixed(1)} mm of ${bedMm[0]} by ${bedMm[1]}.`,
      )
    for (let m = 0; m < n; m++) {
      const apart = Math.max(
        ...[0, 1].map((axis) =>
          Math.max(
            corners[m][axis] - at[axis] - sizes[n][axis],
            at[axis] - corners[m][axis] - sizes[m][axis],
          ),
        ),
      )
      if (apart < roomMm - 1e-6)
        throw new TenderError(
          'VALUE_OUT_OF_RANGE',
          apart < 0
            ? `${names[m]} and ${names[n]} would stand in each other.`
            : `${names[m]} and ${names[n]} stand ${apart.toFixed(1)} mm apart and need ${roomMm} mm.`,
        )
    }
  })
}
