import { areApart, isEmptyRegion, splitPieces, type Region } from '../polygon'
import { disc } from '../stand'
import { heightKey } from '../tolerances'

/** Round sections filled from one height to another: x, y, radius by turns. */
type Rounds = { readonly bottomMm: number; readonly topMm: number; readonly rounds: Float64Array }
/** Where the sections of a pass begin and where they end; without any between, they are upright. */
type Ends = { readonly bottom: Float64Array; readonly top: Float64Array }

/** A branch goes on in a section whose middle lies within this share of its radius, and in no other. */
const SAME_BRANCH = 0.6
/** A branch leans evenly where its next step is the last one again, within this. */
const EVEN_MM = 0.002

/**
 * Branches that lean evenly, where they do: a round section that moves as the ones below and above it do
 * leans from half-way to the one to half-way to the other. In the middle of its height it is as it was;
 * others stay upright, and so does what would meet something else on the way.
 * @param passes in any order
 * @param others what else fills the height of a pass
 * @returns for each pass its round sections at some height
 */
export function leaningRounds<P extends Rounds>(
  passes: readonly P[],
  others: (pass: P) => readonly Region[],
): (pass: P, zMm: number) => readonly Region[] {
  const [beginning, ending] = [byHeight(passes, 'bottomMm'), byHeight(passes, 'topMm')]
  const ends = new Map(
    passes.map((pass): [P, Ends] => {
      const above = beginning.get(heightKey(pass.topMm)) ?? []
      const below = ending.get(heightKey(pass.bottomMm)) ?? []
      return [pass, endsOf(pass.rounds, below, above, others(pass))]
    }),
  )
  return (pass, zMm) => {
    const { bottom, top } = ends.get(pass)!
    const share = (zMm - pass.bottomMm) / (pass.topMm - pass.bottomMm)
    const at = (i: number) => bottom[i] + share * (top[i] - bottom[i])
    return Array.from({ length: bottom.length / 3 }, (_, n) => disc(at(3 * n), at(3 * n + 1), at(3 * n + 2)))
  }
}

function byHeight(passes: readonly Rounds[], which: 'bottomMm' | 'topMm'): Map<number, Float64Array[]> {
  const found = new Map<number, Float64Array[]>()
  for (const pass of passes) {
    const key = heightKey(pass[which])
    found.set(key, [...(found.get(key) ?? []), pass.rounds])
  }
  return found
}

function endsOf(
  rounds: Float64Array,
  below: readonly Float64Array[],
  above: readonly Float64Array[],
  others: readonly Region[],
): Ends {
  const [bottom, top] = [rounds.slice(), rounds.slice()]
  let leaning: number[] = []
  for (let i = 0; i < rounds.length; i += 3) {
    const from = onlyNear(rounds, i, below)
    const to = from && onlyNear(rounds, i, above)
    if (!from || !to || [0, 1, 2].some((n) => Math.abs(from[n] + to[n] - 2 * rounds[i + n]) > EVEN_MM))
      continue
    for (let n = 0; n < 3; n++) {
      bottom[i + n] = (from[n] + rounds[i + n]) / 2
      top[i + n] = (rounds[i + n] + to[n]) / 2
    }
    leaning.push(i)
  }
  const meets = (end: Float64Array, i: number) => {
    const [x, y, radius] = end.subarray(i, i + 3)
    for (let j = 0; j < end.length; j += 3)
      if (j !== i && Math.hypot(end[j] - x, end[j + 1] - y) <= end[j + 2] + radius) return true
    const section = disc(x, y, radius)
    return others.some(
      (region) => !isEmptyRegion(region) && splitPieces(region).some((piece) => !areApart(section, piece)),
    )
  }
  // One that stays upright may be in the way of the next.
  for (let stuck = leaning; stuck.length > 0;) {
    stuck = leaning.filter((i) => meets(bottom, i) || meets(top, i))
    for (const i of stuck) for (const end of [bottom, top]) end.set(rounds.subarray(i, i + 3), i)
    leaning = leaning.filter((i) => !stuck.includes(i))
  }
  return { bottom, top }
}

/** The only section that is near enough to be the same branch. */
function onlyNear(rounds: Float64Array, i: number, lists: readonly Float64Array[]): Float64Array | null {
  const [x, y, radius] = rounds.subarray(i, i + 3)
  let found: Float64Array | null = null
  for (const list of lists)
    for (let j = 0; j < list.length; j += 3) {
      const far = Math.hypot(list[j] - x, list[j + 1] - y)
      if (far + Math.abs(list[j + 2] - radius) > SAME_BRANCH * radius) continue
      if (found) return null
      found = list.subarray(j, j + 3)
    }
  return found
}
