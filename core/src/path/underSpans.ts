import { containment, thinnedLine } from '../polygon'
import { sameValues } from '../sameValues'
import type { Checkpoint } from '../slice'
import type { SupportPass } from '../stand'
import { chainsOf, isSame, liesFirmly, overAny, overLines, type Over } from './overLines'
import { carriersOf, hasWalls, layersOf, restsOf, type Ground } from './supportLayers'
import { joinPaths, PathWriter, type ToolPaths } from './toolPaths'

/** An end may hang as far as this; farther it would be cut off. */
const END_MM = 1.9
/** Lines are looked at in steps of so many widths. */
const STEP = 0.25
/** So many widths aside at most, in such steps, the new line still lies under the one that it carries. */
const ASIDE = 0.4
const ASIDE_STEP = 0.1
/** Lines whose middles are so many widths apart do not lie on each other, or hardly. */
const APART = 0.85
/** A line shorter than so many widths carries nothing that lies across two of its neighbours. */
const SHORTEST = 2
/** Places around a line's middle that tell whether all of it is within an outline, and what they miss. */
const AROUND = 16
const ROUNDING_MM = 0.01
/** Points that stray less from a straight line are left out. */
const STRAIGHT_MM = 0.01

/** What of the lines of one layer's carriers there was besides, the last few times. */
type Laid = { readonly of: readonly unknown[]; readonly lines: readonly ToolPaths[] }
const known = new WeakMap<ToolPaths, Laid[]>()
const REMEMBERED = 3

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
    // In the same walls as what is below it, a rim lies on that one's.
    const walled = new Set(carriers.filter((k) => hasWalls(passes[k])).map((k) => passes[k].region))
    const touching = members.filter(
      (m) => passes[m].role === 'interface' && all[m].kinds.length > 0 && !walled.has(passes[m].region),
    )
    if (stands.length === 0 || touching.length === 0) continue
    await checkpoint?.(members[0], passes.length)
    const rests = restsOf(ground, bottomMm)
    const own = touching.map((m) => all[m])
    const below = carriers.map((k) => all[k])
    const regions = stands.map((k) => passes[k].region)
    const of = [spanMm, lineWidthMm, ...own, ...below, ...regions, ...rests.map(({ region }) => region)]
    const before = known.get(own[0]) ?? []
    let one = before.find((past) => sameValues(past.of, of))
    if (!one) {
      const more = linesUnder(own, below, overAny(below, rests, lineWidthMm), regions, lineWidthMm, spanMm)
      one = {
        of,
        lines: stands.map((k, n) => (more[n].kinds.length > 0 ? joinPaths([all[k], more[n]]) : all[k])),
      }
      known.set(own[0], [one, ...before].slice(0, REMEMBERED))
    }
    stands.forEach((k, n) => (all[k] = one.lines[n]))
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
    for (let n = 0; n < AROUND; n++) {
      const turn = (2 * Math.PI * n) / AROUND
      const [px, py] = [Math.cos(turn), Math.sin(turn)].map((part) => part * (w / 2 - ROUNDING_MM))
      if (outlineAt(x + px, y + py) < 0) return false
    }
    return true
  }
  for (const one of lines)
    for (const [from, end] of chainsOf(one)) {
      // What fills an interface is straight, and crosses the lines below it.
      if (one.starts[end] - one.starts[from] === 2 && one.flow[from] === 1) continue
      const line = new Line(one.xyMm, one.starts[from], one.starts[end])
      for (const [begin, stop] of hangingRuns(line, isOver, w, spanMm)) layUnder(line, begin, stop)
    }
  return writers.map((writer) => writer.finish())

  /** Lays a line under a run of another one, as far from the lines beside it as it may be. */
  function layUnder(line: Line, begin: number, stop: number): void {
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
          const at = outlineAt(run[(run.length >> 2) << 1], run[((run.length >> 2) << 1) + 1])
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

/**
 * From where to where, along a line, it hangs farther than it may: between two places that carry it, or at an
 * end.
 */
function hangingRuns(line: Line, isOver: Over, w: number, spanMm: number): [begin: number, stop: number][] {
  const { mm, isClosed } = line
  if (mm <= (isClosed ? spanMm : Math.min(spanMm, END_MM))) return []
  const hangs = (at: number) => {
    line.goTo(at)
    return !liesFirmly(isOver, line.x, line.y, line.aheadX, line.aheadY, w)
  }
  // Most lines are carried all along: looked at first where what spans too far must hang twice in a row.
  const rough = Math.ceil((2 * mm) / spanMm)
  const stepMm = mm / rough
  let firstMm = 0
  if (isClosed) {
    // A ring is looked at from where it lies on something.
    const fine = STEP * w
    while (firstMm < mm && hangs(firstMm)) firstMm += fine
    if (firstMm >= mm) return [[0, mm]]
  }
  const at = (n: number) => firstMm + n * stepMm
  const found: [number, number][] = []
  for (let n = 0, from = -1; n <= rough + 1; n++) {
    const isHanging = n <= rough && hangs(at(n))
    if (isHanging && from < 0) from = n
    if (isHanging || from < 0) continue
    const isEnd =
      !isClosed &&
      ((from === 0 && hangs(Math.min(mm, END_MM))) || (n > rough && hangs(Math.max(0, mm - END_MM))))
    if (n - from > 1 || isEnd) found.push(...runsWithin(at(Math.max(0, from - 1)), at(Math.min(rough, n))))
    from = -1
  }
  return found

  /** The runs of a stretch of the line that are too long. */
  function runsWithin(low: number, high: number): [number, number][] {
    const count = Math.max(1, Math.ceil((high - low) / (STEP * w)))
    const place = (n: number) => low + ((high - low) * n) / count
    const runs: [number, number][] = []
    for (let n = 0, from = -1; n <= count + 1; n++) {
      const isHanging = n <= count && hangs(place(n))
      if (isHanging && from < 0) from = n
      if (isHanging || from < 0) continue
      const [begin, stop] = [place(from), place(n - 1)]
      const isEnd = !isClosed && (begin < 1e-6 || stop > mm - 1e-6)
      if (stop - begin > (isEnd ? END_MM : spanMm)) runs.push([begin, stop])
      from = -1
    }
    return runs
  }
}

/** A line that may go on as others, walked by how far along it is; a ring goes on from its end. */
class Line {
  x = 0
  y = 0
  /** The direction at that place. */
  aheadX = 1
  aheadY = 0
  readonly mm: number
  readonly isClosed: boolean
  private readonly alongMm: Float64Array
  private side = 0

  /** @param end the point after its last one */
  constructor(
    private readonly xyMm: Float64Array,
    private readonly from: number,
    end: number,
  ) {
    const sides = end - from - 1
    this.alongMm = new Float64Array(sides + 1)
    for (let i = 0; i < sides; i++) {
      const p = 2 * (from + i)
      this.alongMm[i + 1] = this.alongMm[i] + Math.hypot(xyMm[p + 2] - xyMm[p], xyMm[p + 3] - xyMm[p + 1])
    }
    this.mm = this.alongMm[sides]
    this.isClosed = sides > 1 && isSame(xyMm, from, end - 1)
  }

  /** Goes to a place so far along it. */
  goTo(mm: number): void {
    const { alongMm, xyMm } = this
    const at = this.isClosed && mm > this.mm ? mm - this.mm : mm
    if (at < alongMm[this.side]) this.side = 0
    while (this.side + 2 < alongMm.length && alongMm[this.side + 1] <= at) this.side++
    const p = 2 * (this.from + this.side)
    const lengthMm = alongMm[this.side + 1] - alongMm[this.side]
    const [ux, uy] = [xyMm[p + 2] - xyMm[p], xyMm[p + 3] - xyMm[p + 1]]
    const share = lengthMm > 0 ? Math.min(1, (at - alongMm[this.side]) / lengthMm) : 0
    this.x = xyMm[p] + share * ux
    this.y = xyMm[p + 1] + share * uy
    if (lengthMm > 0) [this.aheadX, this.aheadY] = [ux / lengthMm, uy / lengthMm]
  }
}
