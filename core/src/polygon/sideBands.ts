import { ringCount, type Region } from './region'

/** About so many sides share a band. */
const SIDES_A_BAND = 3

/** Which way bands follow each other: along x or along y. */
export type Along = 0 | 1

/** The sides of a region sorted into bands, so that a place is held against those of its own band alone. */
export type SideBands = {
  readonly along: Along
  readonly from: number
  readonly to: number
  /** The band of a place along them; of one beyond them all the first or last. */
  bandAt(place: number): number
  /** Where the sides of a band begin in `sides`; the last ends them. */
  readonly starts: Uint32Array
  /** Where in `xyMm` the x of a side's end and of its beginning stand, by turns. */
  readonly sides: Uint32Array
}

const known = [new WeakMap<Region, SideBands>(), new WeakMap<Region, SideBands>()] as const

/** The bands of a region, sorted once. */
export function sideBands(region: Region, along: Along): SideBands {
  let bands = known[along].get(region)
  if (!bands) known[along].set(region, (bands = sorted(region, along)))
  return bands
}

const ways = new WeakMap<Region, Along>()

/** The bands along which sides run through fewer of them: those of long slots lie across the slots. */
export function finerBands(region: Region): SideBands {
  let along = ways.get(region)
  if (along === undefined) ways.set(region, (along = passes(region, 0) < passes(region, 1) ? 0 : 1))
  return sideBands(region, along)
}

/** How often a line across bands meets sides of the region, in the mean. */
function passes({ xyMm, starts }: Region, along: Along): number {
  let [low, high, length] = [Infinity, -Infinity, 0]
  for (let r = 0; r + 1 < starts.length; r++) {
    let before = xyMm[2 * starts[r + 1] - 2 + along]
    for (let p = starts[r]; p < starts[r + 1]; p++) {
      const at = xyMm[2 * p + along]
      low = Math.min(low, at)
      high = Math.max(high, at)
      length += Math.abs(at - before)
      before = at
    }
  }
  return high > low ? length / (high - low) : Infinity
}

function sorted(region: Region, along: Along): SideBands {
  const { xyMm, starts: rings } = region
  let [from, to] = [Infinity, -Infinity]
  for (let i = along; i < xyMm.length; i += 2) {
    from = Math.min(from, xyMm[i])
    to = Math.max(to, xyMm[i])
  }
  const isFlat = !(to > from)
  const count = isFlat ? 1 : Math.ceil(xyMm.length / 2 / SIDES_A_BAND)
  const perMm = isFlat ? 0 : count / (to - from)
  const bandAt = (place: number) =>
    isFlat ? 0 : Math.max(0, Math.min(count - 1, Math.floor((place - from) * perMm)))
  // Counted first, then laid down band by band, from the end of each.
  const starts = new Uint32Array(count + 1)
  eachInBand((band) => (starts[band] += 2))
  for (let b = 1; b <= count; b++) starts[b] += starts[b - 1]
  const sides = new Uint32Array(starts[count])
  eachInBand((band, p, q) => {
    sides[--starts[band]] = 2 * q
    sides[--starts[band]] = 2 * p
  })
  return { along, from, to, bandAt, starts, sides }

  /** Each side in each band that it runs through, by the points at its ends. */
  function eachInBand(tell: (band: number, p: number, q: number) => void): void {
    for (let r = 0; r < ringCount(region); r++)
      for (let p = rings[r], q = rings[r + 1] - 1; p < rings[r + 1]; q = p++) {
        const [one, other] = [bandAt(xyMm[2 * p + along]), bandAt(xyMm[2 * q + along])]
        for (let b = Math.min(one, other); b <= Math.max(one, other); b++) tell(b, p, q)
      }
  }
}
