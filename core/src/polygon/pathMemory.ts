import type { MainModule, Path64, Paths64 } from 'clipper2-wasm/dist/clipper2z'
import { GRID_PER_MM } from '../tolerances'
import { EMPTY_REGION, type Region } from './region'

// A list of rings lies in the engine's memory as three addresses (begin, end, end of what is set aside), with
// three of the same per ring, and a ring as its points: three 64-bit integers each, of which both halves are
// written and read as plain numbers, since coordinates fit in 32 bits. Through the engine's own calls each
// ring would cost several objects on both sides, more than most boolean operations.
const LIST_WORDS = 3
const LIST_BYTES = 4 * LIST_WORDS
const POINT_WORDS = 6
const POINT_BYTES = 4 * POINT_WORDS

/** Something that the engine keeps, and where. */
type Kept = { readonly $$: { readonly ptr: number } }

const wordAt = (kept: unknown): number => (kept as Kept).$$.ptr >>> 2

export type PathMemory = {
  /** Adds the rings of a region to a list. */
  append(paths: Paths64, region: Region): void
  /** The rings of a list. */
  unload(paths: Paths64): Region
}

/**
 * Moves rings into the engine's memory and out of it.
 * @throws Error when the engine keeps rings in another way than it is known to
 */
export function pathMemory(clipper: MainModule): PathMemory {
  /** Every ring is laid out in here on its way in; the third number of each point stays zero. */
  const ring: Path64 = new clipper.Path64()
  let most = 0
  let words: Int32Array = new Int32Array(0)
  setAside(4096)

  function setAside(points: number): void {
    most = points
    ring.assign(new BigInt64Array(3 * points))
  }

  /** The memory as it is now: when it grows, what was seen of it before is gone. */
  function memory(): Int32Array {
    if (words.length === 0) words = new Int32Array(ring.view().buffer)
    return words
  }

  const made: PathMemory = {
    append(paths, { xyMm, starts }) {
      for (let r = 0; r + 1 < starts.length; r++) {
        const count = starts[r + 1] - starts[r]
        if (count > most) setAside(2 * count)
        const into = memory()
        const at = wordAt(ring)
        const begin = into[at]
        let word = begin >>> 2
        for (let i = 2 * starts[r]; i < 2 * starts[r + 1]; i += 2, word += POINT_WORDS) {
          const x = Math.round(xyMm[i] * GRID_PER_MM)
          const y = Math.round(xyMm[i + 1] * GRID_PER_MM)
          into[word] = x
          into[word + 1] = x >> 31
          into[word + 2] = y
          into[word + 3] = y >> 31
        }
        into[at + 1] = begin + POINT_BYTES * count
        paths.push_back(ring)
      }
    },
    unload(paths) {
      const from = memory()
      const at = wordAt(paths)
      const begin = from[at]
      const rings = (from[at + 1] - begin) / LIST_BYTES
      if (rings === 0) return EMPTY_REGION
      const starts = new Uint32Array(rings + 1)
      for (let r = 0, list = begin >>> 2; r < rings; r++, list += LIST_WORDS)
        starts[r + 1] = starts[r] + (from[list + 1] - from[list]) / POINT_BYTES
      const xyMm = new Float64Array(2 * starts[rings])
      for (let r = 0, list = begin >>> 2; r < rings; r++, list += LIST_WORDS) {
        let word = from[list] >>> 2
        for (let i = 2 * starts[r]; i < 2 * starts[r + 1]; i += 2, word += POINT_WORDS) {
          xyMm[i] = from[word] / GRID_PER_MM
          xyMm[i + 1] = from[word + 2] / GRID_PER_MM
        }
      }
      return { xyMm, starts }
    },
  }
  check(clipper, made)
  return made
}

/** A region goes in by the way above; it comes out of it as it was, and one ring by the engine's own. */
function check(clipper: MainModule, { append, unload }: PathMemory): void {
  const region: Region = {
    xyMm: Float64Array.of(-3, 1, 2, -1, 2, 5, 7, -8, 9, -8, 9, 4),
    starts: Uint32Array.of(0, 3, 6),
  }
  const paths = new clipper.Paths64()
  try {
    append(paths, region)
    const back = unload(paths)
    const last = paths.get(1)
    const seen = [...last.view()].map(Number)
    last.delete()
    const told = [7, -8, 0, 9, -8, 0, 9, 4, 0].map((mm) => mm * GRID_PER_MM)
    const same = (a: ArrayLike<number>, b: ArrayLike<number>) =>
      a.length === b.length && Array.from(a).every((value, i) => value === b[i])
    if (paths.size() !== 2 || !same(seen, told) || !same(back.xyMm, region.xyMm))
      throw new Error('The polygon engine keeps rings in another way than it is known to.')
  } finally {
    paths.delete()
  }
}
