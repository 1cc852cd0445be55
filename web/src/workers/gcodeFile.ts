import type { Printer } from '@tender/core/bench'
import {
  createPathMeasurer,
  leavesPurge,
  measurePrint,
  writeGcode,
  type Print,
  type PrintMeasure,
} from '@tender/core/print'

/** Letters that a point of a path usually takes in G-code. */
const LINE_LENGTH = 32

/** What a print takes, told beside its file. */
export type PrintFacts = {
  readonly leavesPurge: boolean
  readonly timeS: number
  readonly swaps: number
  readonly zeroMm: [number, number]
  /** By the number of their nozzle or slot; empty where it is not used. */
  readonly filaments: string[]
}

const factsOf = (print: Print, printer: Printer, measure: PrintMeasure): PrintFacts => ({
  leavesPurge: leavesPurge(measure, printer),
  timeS: measure.timeS,
  swaps: measure.swaps,
  zeroMm: [...print.zeroMm] as [number, number],
  filaments: Array.from(
    { length: 1 + Math.max(...print.tools) },
    (_, tool) => print.slots[print.tools.indexOf(tool)]?.name ?? '',
  ),
})

/** What a print takes, without its file. */
export const printFacts = (print: Print, printer: Printer): PrintFacts =>
  factsOf(print, printer, measurePrint(print, printer, createPathMeasurer()))

/** A print as a file, put together piece by piece. */
export async function gcodeFile(
  print: Print,
  printer: Printer,
  onShare: (share: number) => Promise<void>,
): Promise<PrintFacts & { readonly file: Blob }> {
  const measure = measurePrint(print, printer, createPathMeasurer())
  const points = print.sweeps.reduce((sum, { paths }) => sum + paths.xyMm.length / 2, 0)
  const pieces: string[] = []
  let length = 0
  for (const piece of writeGcode(print, printer, measure)) {
    pieces.push(piece)
    length += piece.length
    await onShare(Math.min(1, length / (points * LINE_LENGTH)))
  }
  return { file: new Blob(pieces, { type: 'text/x.gcode' }), ...factsOf(print, printer, measure) }
}
