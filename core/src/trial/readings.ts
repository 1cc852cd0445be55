/** Grades run from 1 (best) to 5 (worst); the words differ by what is looked at. */
export type Grade = 1 | 2 | 3 | 4 | 5

export const FAN_GRADES = ['clean', 'marked', 'rough', 'drooping', 'failed'] as const
export const SPAN_GRADES = ['straight', 'a little slack', 'loose lines', 'drooping', 'broke off'] as const
export const RELEASE_GRADES = ['fell off', 'by hand', 'with a tool', 'tore a little', 'would not'] as const
export const FINISH_GRADES = ['like a top face', 'fine', 'lined', 'rough', 'sagging'] as const
export const PURGE_GRADES = ['clean', 'a trace', 'tinted', 'streaky', 'the old colour'] as const
export const COMB_GRADES = ['lines up best', 'nearly', 'off', 'far off', 'not printed'] as const

/**
 * One arm of an overhang fan. angleDeg from vertical; direction is the compass direction the underside looks
 * to.
 */
export type FanReading = {
  readonly angleDeg: number
  readonly direction: string
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly grade: Grade
}

/** One bridge of a ladder. */
export type SpanReading = { readonly spanMm: number; readonly grade: Grade }

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
  /** Which print it comes from, where prints are told apart; readings without belong together. */
  readonly print?: string
  /** Width of the interface lines laid, mm, where trials of several widths are read together. */
  readonly lineWidthMm?: number
}

/** Which way a swap goes: from the first filament to the second, or back. */
export const SWAPS = ['AB', 'BA'] as const
export type Swap = (typeof SWAPS)[number]

/** One strip of a purge ladder: how it looks after volumeMm3 have gone through the nozzle since the swap. */
export type PurgeReading = { readonly swap: Swap; readonly volumeMm3: number; readonly grade: Grade }

export const AXES = ['x', 'y', 'z'] as const
export type Axis = (typeof AXES)[number]

/**
 * One tooth of an offset comb: the second nozzle was told to print it shiftMm further along the axis than the
 * first one's tooth beside it. Only the tooth that lines up best (grade 1) speaks. Teeth of one comb were
 * compared with each other, those of another were not.
 */
export type OffsetReading = {
  readonly axis: Axis
  readonly shiftMm: number
  readonly grade: Grade | null
  readonly comb: string
}

/** Median with the interval that holds the truth nine times in ten. */
export type Interval = { readonly median: number; readonly low: number; readonly high: number }
