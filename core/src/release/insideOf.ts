import { hatch, type Region } from '../polygon'

/** A point inside of an outline: the middle of its longest chord. */
export function insideOf(region: Region): [number, number] {
  let best: [number, number] = [region.xyMm[0], region.xyMm[1]]
  let longest = 0
  for (const spacing of [2, 0.5, 0.1]) {
    const lines = hatch(region, 0, spacing)
    for (let s = 0; s < lines.length; s += 4) {
      const length = Math.abs(lines[s + 2] - lines[s])
      if (length <= longest) continue
      longest = length
      best = [(lines[s] + lines[s + 2]) / 2, lines[s + 1]]
    }
    if (longest > 0) break
  }
  return best
}
