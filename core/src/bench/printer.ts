/** Everything about a printer that a plan needs. Speeds in mm/s. */
export type Printer = {
  readonly name: string
  /** How another filament gets to the part: through a nozzle of its own, or through one nozzle fed by a changer. */
  readonly feed: 'nozzles' | 'changer'
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
  /** Time of one swap without the purging itself. */
  readonly swapS: number
  /** A layer never takes less than this; the printer slows down. */
  readonly minLayerS: number
  /** How fast the nozzle can melt plastic that goes nowhere. */
  readonly purgeMm3S: number
}

/** A middle-of-the-road printer, used where a plan names none. */
export const PLAIN_PRINTER: Printer = {
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
  swapS: 8,
  minLayerS: 6,
  purgeMm3S: 8,
}

/** Layer thicknesses a nozzle can lay: about a quarter to three quarters of its diameter. */
export const thicknessRangeMm = (nozzleMm: number): readonly [number, number] => [nozzleMm / 4, (nozzleMm * 3) / 4]
