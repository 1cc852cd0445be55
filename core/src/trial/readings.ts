/** Grades run from 1 (best) to 5 (worst); the words differ by what is looked at. */
export type Grade = 1 | 2 | 3 | 4 | 5

export const FAN_GRADES = ['clean', 'marked', 'rough', 'drooping', 'failed'] as const
export const RELEASE_GRADES = ['fell off', 'by hand', 'with a tool', 'tore a little', 'would not'] as const
export const FINISH_GRADES = ['like a top face', 'fine', 'lined', 'rough', 'sagging'] as const

/** One arm of an overhang fan. angleDeg from vertical; direction is the compass direction the underside looks to. */
export type FanReading = {
  readonly angleDeg: number
  readonly direction: string
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly grade: Grade
}

/** One tile of a gap ladder. spacingMm is the free width between interface lines, 0 = solid. */
export type GapReading = {
  readonly gapMm: number
  readonly spacingMm: number
  /** Null while nobody has said. */
  readonly release: Grade | null
  /** Null where the face cannot be seen, as under a tile that would not come off. */
  readonly finish: Grade | null
  readonly forceN: number | null
  readonly areaMm2: number | null
}

/** Median with the interval that holds the truth nine times in ten. */
export type Interval = { readonly median: number; readonly low: number; readonly high: number }
