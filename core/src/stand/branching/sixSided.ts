/** More than there are cells in a row. */
const MOST_COLUMNS = 0x10000

/**
 * Groups places by the cells of a six-sided lattice in which nothing is farther from the middle than a crown
 * reaches.
 * Source: hexagonal lattice, rows sqrt(3) / 2 apart.
 */
export function cellsOf(samples: readonly number[], crownMm: number): number[][] {
  const across = Math.sqrt(3) * crownMm * 0.95
  const down = (across * Math.sqrt(3)) / 2
  let [left, low] = [Infinity, Infinity]
  for (let i = 0; i < samples.length; i += 2) {
    left = Math.min(left, samples[i])
    low = Math.min(low, samples[i + 1])
  }
  const groups = new Map<number, number[]>()
  for (let i = 0; i < samples.length; i += 2) {
    const [x, y] = [samples[i] - left, samples[i + 1] - low]
    let best = 0
    let nearest = Infinity
    const row = Math.floor(y / down)
    for (let r = row - 1; r <= row + 2; r++) {
      const shift = r & 1 ? across / 2 : 0
      const column = Math.round((x - shift) / across)
      const d = (column * across + shift - x) ** 2 + (r * down - y) ** 2
      if (d < nearest) {
        nearest = d
        best = r * MOST_COLUMNS + column
      }
    }
    const group = groups.get(best)
    if (group) group.push(samples[i], samples[i + 1])
    else groups.set(best, [samples[i], samples[i + 1]])
  }
  return [...groups.values()]
}

/** The middle of places, x and y by turns. */
export function middleOf(places: readonly number[]): [number, number] {
  let [x, y] = [0, 0]
  for (let i = 0; i < places.length; i += 2) {
    x += places[i]
    y += places[i + 1]
  }
  const n = places.length / 2
  return [x / n, y / n]
}

/** The one of some places that is nearest to another place. */
export function nearestOf(
  places: readonly number[],
  [x, y]: readonly [number, number],
): readonly [number, number] {
  let best = 0
  let nearest = Infinity
  for (let i = 0; i < places.length; i += 2) {
    const d = (places[i] - x) ** 2 + (places[i + 1] - y) ** 2
    if (d >= nearest) continue
    nearest = d
    best = i
  }
  return [places[best], places[best + 1]]
}
