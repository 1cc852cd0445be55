import type { Printer } from '../bench'
import { PATH_KINDS, type PathKind } from '../path'
import { retractTimeS } from './moveRules'

/** How a nozzle moves. */
export type Motion = {
  /** Cruising speed for each of PATH_KINDS, mm/s. */
  readonly speedsMmS: readonly number[]
  readonly travelMmS: number
  readonly accelMmS2: number
  readonly cornerMmS: number
  /** For drawing the filament back and pushing it forward again. */
  readonly retractS: number
  /** How far the nozzle rubs itself off on the line just laid before it is lifted away. */
  readonly wipeMm: number
}

/** Which of a printer's speeds a kind of line is printed at. */
const SPEED_OF: Readonly<Record<PathKind, 'wallMmS' | 'fillMmS' | 'standMmS' | 'interfaceMmS'>> = {
  wall: 'wallMmS',
  fill: 'fillMmS',
  skin: 'fillMmS',
  stand: 'standMmS',
  interface: 'interfaceMmS',
  footing: 'standMmS',
  brim: 'standMmS',
  bridge: 'fillMmS',
}

/**
 * How a printer moves.
 * @param firstLayer the bed's layer is laid no faster than the printer lays it
 * @param speedMmS one speed for every line, where a test asks for it; null leaves each kind its own
 * @param bridgeMmS speed of lines over nothing
 */
export function motionOf(
  printer: Printer,
  firstLayer: boolean,
  speedMmS: number | null = null,
  bridgeMmS = Infinity,
): Motion {
  const most = firstLayer ? printer.firstLayerMmS : Infinity
  return {
    speedsMmS: PATH_KINDS.map((kind) =>
      Math.min(most, speedMmS ?? printer[SPEED_OF[kind]], kind === 'bridge' ? bridgeMmS : Infinity),
    ),
    travelMmS: printer.travelMmS,
    accelMmS2: printer.accelMmS2,
    cornerMmS: printer.cornerMmS,
    retractS: retractTimeS(printer),
    wipeMm: printer.wipeMm,
  }
}
