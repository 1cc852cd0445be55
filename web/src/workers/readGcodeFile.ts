import type { PlanDocument } from '@tender/core/decide'
import { GcodeReader, type ReadBack } from '@tender/core/readBack'

/** A file without line ends is refused by the reader instead of held. */
const LONGEST_REST = 1 << 16

/**
 * Reads a G-code file with the clock and the filament of a plan.
 * @param onShare told how much is read; may wait, may throw STOPPED
 * @throws TenderError FILE_NOT_GCODE
 */
export async function readGcodeFile(
  file: Blob,
  { printer, filaments, decisions }: PlanDocument,
  onShare: (share: number) => Promise<void>,
): Promise<ReadBack> {
  const reader = new GcodeReader({
    accelMmS2: printer.accelMmS2,
    cornerMmS: printer.cornerMmS,
    diameterMm: filaments[0].diameterMm,
    lineWidthMm: decisions.lineWidthMm,
    swapS: printer.swapS,
  })
  // One byte a letter, whatever it is: a broken letter must not stop what can be read.
  const decoder = new TextDecoder('latin1')
  const pieces = file.stream().getReader()
  let [rest, bytes] = ['', 0]
  for (let piece = await pieces.read(); !piece.done; piece = await pieces.read()) {
    bytes += piece.value.length
    const lines = (rest + decoder.decode(piece.value, { stream: true })).split(/\r?\n/)
    rest = lines.pop()!
    for (const line of lines) reader.take(line)
    if (rest.length > LONGEST_REST) reader.take(rest)
    await onShare(bytes / Math.max(1, file.size))
  }
  if (rest !== '') reader.take(rest)
  return reader.finish()
}
