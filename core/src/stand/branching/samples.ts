import { hatch, type Region } from '../../polygon'

/** Places all over a region, at most this far from each other, its outline included: x and y by turns. */
export function samplesOf(region: Region, pitchMm: number): number[] {
  const found: number[] = []
  const along = (ax: number, ay: number, bx: number, by: number) => {
    const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / pitchMm))
    for (let n = 0; n < steps; n++) found.push(ax + ((bx - ax) * n) / steps, ay + ((by - ay) * n) / steps)
  }
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = starts[r + 1] - 1
    for (let p = starts[r]; p < starts[r + 1]; q = p++)
      along(xyMm[2 * q], xyMm[2 * q + 1], xyMm[2 * p], xyMm[2 * p + 1])
  }
  const lines = hatch(region, 0, pitchMm)
  for (let i = 0; i < lines.length; i += 4) along(lines[i], lines[i + 1], lines[i + 2], lines[i + 3])
  return found
}
