import { containment, thinnedLine } from '../polygon'
import type { Checkpoint } from '../slice'
import type { SupportPass } from '../stand'
import { hangingRuns } from './hangingRuns'
import { lastTimes } from './lastTimes'
import { chainsOf, overAny, overLines, STEP, type Over } from './overLines'
import { carriersOf, isInSameWalls, layersOf, restsOf, type Ground } from './supportLayers'
import { joinPaths, PathWriter, type ToolPaths } from './toolPaths'
import { WalkedLine } from './walkedLine'

/** So many widths aside at most, in such steps, the new line still lies under the one that it carries. */
const ASIDE = 0.4
const ASIDE_STEP = 0.1
/** Lines whose middles are so many widths apart do not lie on each other, or hardly. */
const APART = 0.85
/** A line shorter than so many widths carries nothing that lies across two of its neighbours. */
const SHORTEST = 2
/** Places around a line's middle that tell whether all of it is within an outline, and what they miss. */
const AROUND = Float64Array.from({ length: 32 }, (_, n) =>
  n % 2 === 0 ? Math.cos((Math.PI * n) / 16) : Math.sin((Math.PI * (n - 1)) / 16),
)
const ROUNDING_MM = 0.01
/** Points that stray less from a straight line are left out. */
const STRAIGHT_MM = 0.01

/** Lines of the stands below a layer of interface, with those that it needs besides. */
const carrying = lastTimes<readonly ToolPaths[]>()

/**
 * Lines of supports, and further ones of stands right below an interface: where a line of it would run
 * farther over nothing than is trusted. Rims run where outlines do, and where one runs along the lines of the
 * stand it may lie between two of them for all of its length; a line under it lies across whatever those lie
 * across.
 * @param lines of each pass
 * @param spanMm how far a line is trusted to span
 */
export async function underSpans(
  passes: readonly SupportPass[],
  lines: readonly ToolPaths[],
  ground: Ground,
  lineWidthMm: number,
  spanMm: number,
  checkpoint?: Checkpoint,
): Promise<ToolPaths[]> {
  const all = [...lines]
  for (const members of layersOf(passes)) {
    const { bottomMm } = passes[members[0]]
    if (!members.some((m) => passes[m].role === 'interface')) continue
    const carriers = carriersOf(members, passes, all)
    const stands = carriers.filter((k) => passes[k].role === 'stand')
    const touching = members.filter(
      (m) =>
        passes[m].role === 'interface' &&
        all[m].kinds.length > 0 &&
        !carriers.some((k) => isInSameWalls(passes[m], passes[k])),
    )
    if (stands.length === 0 || touching.length === 0) continue
    await checkpoint?.(members[0], passes.length)
    const rests = restsOf(ground, bottomMm)
    const own = touching.map((m) => all[m])
    const below = carriers.map((k) => all[k])
    const regions = stands.map((k) => passes[k].region)
    const of = [spanMm, lineWidthMm, ...own, ...below, ...regions, ...rests.map(({ region }) => region)]
    const laid = carrying(own[0], of, () => {
      const more = linesUnder(own, below, overAny(below, rests, lineWidthMm), regions, lineWidthMm, spanMm)
      return stands.map((k, n) => (more[n].kinds.length > 0 ? joinPaths([all[k], more[n]]) : all[k]))
    })
    stands.forEach((k, n) => (all[k] = laid[n]))
  }
  return all
}

/** Lines under what runs too far over nothing, by the outline of the stand in which each lies. */
function linesUnder(
  lines: readonly ToolPaths[],
  below: readonly ToolPaths[],
  isOver: Over,
  regions: readonly SupportPass['region'][],
  w: number,
  spanMm: number,
): ToolPaths[] {
  const writers = regions.map(() => new PathWriter())
  const contains = regions.map(containment)
  const isOnLines = overLines(below, w)
  const outlineAt = (x: number, y: number) => contains.findIndex((isIn) => isIn(x, y))
  const fits = (x: number, y: number) => {
    const mm = w / 2 - ROUNDING_MM
    for (let n = 0; n < AROUND.length; n += 2)
      if (outlineAt(x + mm * AROUND[n], y + mm * AROUND[n + 1]) < 0) return false
    return true
  }
  for (const one of lines)
    for (const [from, end] of chainsOf(one)) {
      // What fills an interface is straight, and crosses the lines below it.
      if (one.starts[end] - one.starts[from] === 2 && one.flow[from] === 1) continue
      const line = new WalkedLine(one.xyMm, one.starts[from], one.starts[end])
      for (const [begin, stop] of hangingRuns(line, isOver, w, spanMm)) layUnder(line, begin, stop)
    }
  return writers.map((writer) => writer.finish())

  /** Lays a line under a run of another one, as far from the lines beside it as it may be. */
  function layUnder(line: WalkedLine, begin: number, stop: number): void {
    const count = Math.max(2, Math.ceil((stop - begin) / (STEP * w)) + 1)
    const placesAside = (asideMm: number) => {
      const places = new Float64Array(2 * count)
      for (let n = 0; n < count; n++) {
        line.goTo(begin + ((stop - begin) * n) / (count - 1))
        places[2 * n] = line.x - line.aheadY * asideMm
        places[2 * n + 1] = line.y + line.aheadX * asideMm
      }
      return places
    }
    let [best, least] = [placesAside(0), Infinity]
    for (const share of SIDES) {
      const places = placesAside(share * w)
      let cost = 0
      for (let i = 0; i < places.length; i += 2)
        if (!fits(places[i], places[i + 1])) cost += 4
        else if (isOnLines(places[i], places[i + 1], (APART - 0.5) * w)) cost++
      if (cost < least) [best, least] = [places, cost]
      if (cost === 0) break
    }
    let run: number[] = []
    for (let i = 0; i <= best.length; i += 2) {
      if (i < best.length && fits(best[i], best[i + 1])) run.push(best[i], best[i + 1])
      else {
        if ((run.length / 2 - 1) * STEP >= SHORTEST) {
          const points = thinnedLine(Float64Array.from(run), STRAIGHT_MM)
          const middle = 2 * Math.floor(run.length / 4)
          const at = outlineAt(run[middle], run[middle + 1])
          writers[Math.max(0, at)].add('stand', points, 0, points.length / 2, false)
        }
        run = []
      }
    }
  }
}

/** How far aside a line may lie, in widths: the least first. */
const SIDES = Array.from({ length: 1 + Math.round((2 * ASIDE) / ASIDE_STEP) }, (_, n) =>
  n % 2 === 0 ? (n / 2) * ASIDE_STEP : -((n + 1) / 2) * ASIDE_STEP,
)
