/**
 * Nozzles on one carriage must be wiped and may ooze; carriages of their own park away; a changer's one
 * nozzle must be purged.
 */
export const FEEDS = ['nozzles', 'carriages', 'changer'] as const
export type Feed = (typeof FEEDS)[number]

/** Side that the air for cooling comes from. */
export const FAN_SIDES = ['around', 'left', 'right', 'front', 'back'] as const
export type FanSide = (typeof FAN_SIDES)[number]

/** Everything about a printer that a plan needs. Speeds in mm/s. */
export type Printer = {
  /** What it is known by, whatever it is called. */
  readonly id: string
  readonly name: string
  /**
   * How another filament gets to the part: through a nozzle beside the first, on a carriage of its own, or
   * through one nozzle fed by a changer.
   */
  readonly feed: Feed
  /** How many filaments can be loaded at once: nozzles, or slots of the changer. */
  readonly loads: number
  readonly nozzleMm: number
  readonly bedMm: readonly [number, number]
  readonly heightMm: number
  readonly wallMmS: number
  readonly fillMmS: number
  readonly standMmS: number
  readonly interfaceMmS: number
  readonly firstLayerMmS: number
  readonly travelMmS: number
  readonly accelMmS2: number
  /** Largest sudden change of speed at a corner. */
  readonly cornerMmS: number
  /** Time lost by drawing the filament back and pushing it forward again. */
  readonly retractS: number
  /** How far the nozzle rubs itself off on the line just laid before it is lifted away, in mm. */
  readonly wipeMm: number
  /** Time of one swap without the purging itself. */
  readonly swapS: number
  /** A layer never takes less than this; the printer slows down. */
  readonly minLayerS: number
  /** How fast the nozzle can melt plastic that goes nowhere. */
  readonly purgeMm3S: number
  /** Where the second nozzle is, seen from the first, as the printer has it stored. */
  readonly offsetMm: readonly [number, number, number]
  /** Thinnest and thickest layer this nozzle lays; null goes by its diameter. */
  readonly layerMm: readonly [number, number] | null
  readonly fanSide: FanSide
  /** Room that the head takes around its nozzle, to every side. */
  readonly headAroundMm: number
  /** How far above the nozzle's tip passes whatever the head hangs on. */
  readonly barAboveMm: number
  readonly extrusion: 'relative' | 'absolute'
  /** The maker's own G-code around and between prints; words in braces are filled in, see gcodeBlocks. */
  readonly startGcode: string
  readonly swapGcode: string
  readonly endGcode: string
}

const START_GCODE = `G28
M140 S{bed}
M104 T{tool} S{nozzle}
M190 S{bed}
M109 T{tool} S{nozzle}
T{tool}`

const SWAP_GCODE = `M109 T{tool} S{nozzle}
T{tool}`

const END_GCODE = `M104 T{tool} S0
M104 T{other} S0
M140 S0
G28 X0
M84`

/** A middle-of-the-road printer, used where a plan names none. */
export const PLAIN_PRINTER: Printer = {
  id: 'plain-printer',
  name: 'Plain two-nozzle printer',
  feed: 'nozzles',
  loads: 2,
  nozzleMm: 0.4,
  bedMm: [220, 220],
  heightMm: 220,
  wallMmS: 60,
  fillMmS: 80,
  standMmS: 70,
  interfaceMmS: 40,
  firstLayerMmS: 25,
  travelMmS: 150,
  accelMmS2: 2000,
  cornerMmS: 8,
  retractS: 0.12,
  wipeMm: 1,
  swapS: 8,
  minLayerS: 6,
  purgeMm3S: 8,
  offsetMm: [18, 0, 0],
  layerMm: null,
  fanSide: 'around',
  headAroundMm: 45,
  barAboveMm: 25,
  extrusion: 'relative',
  startGcode: START_GCODE,
  swapGcode: SWAP_GCODE,
  endGcode: END_GCODE,
}

/**
 * Layer thicknesses a nozzle can lay: what the maker found, or about a quarter to three quarters of its
 * diameter.
 */
export function thicknessOf(
  printer: Pick<Printer, 'nozzleMm' | 'layerMm'>,
  nozzleMm = printer.nozzleMm,
): readonly [number, number] {
  // Limits found with one nozzle say nothing of another.
  return printer.layerMm !== null && Math.abs(nozzleMm - printer.nozzleMm) < 1e-6
    ? printer.layerMm
    : [nozzleMm / 4, (nozzleMm * 3) / 4]
}

/** Whether a second filament comes through the first one's nozzle, so that leftovers must be purged. */
export const sharesNozzle = (printer: Pick<Printer, 'feed'>): boolean => printer.feed === 'changer'

/** Whether a printer's swap block pushes out what it is asked to. */
export const purgesItself = ({ swapGcode }: Pick<Printer, 'swapGcode'>): boolean =>
  /\{purge(Length)?\}/.test(swapGcode)
