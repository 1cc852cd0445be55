import { sameValues } from '../sameValues'
import type { Checkpoint } from '../slice'
import type { SupportPass } from '../stand'
import { lastTimes } from './lastTimes'
import { gridOf } from './lineGrid'
import {
  chainsOf,
  HANGS_MM,
  INSIDE,
  isSame,
  liesFirmly,
  overAny,
  overLines,
  STEP,
  type Over,
} from './overLines'
import { carriersOf, hasWalls, isInSameWalls, layersOf, restsOf, type Ground } from './supportLayers'
import { PathWriter, PATH_KINDS, type ToolPaths } from './toolPaths'

/** A line lies on another, or is tied to one beside it, when it shares so much of their widths. */
const SHARED = 0.1

/** What lines of one layer became on what they lay on. */
const became = lastTimes<readonly ToolPaths[]>()

/**
 * Lines as they can be laid: what areas promise, a line need not keep. A line that lies on nothing, and is
 * tied to none that does, is left out, and an end of an interface line that would hang far is cut off.
 * @param lines of each pass
 */
export async function onSomething(
  passes: readonly SupportPass[],
  lines: readonly ToolPaths[],
  ground: Ground,
  lineWidthMm: number,
  checkpoint?: Checkpoint,
): Promise<ToolPaths[]> {
  const settled = [...lines]
  for (const members of layersOf(passes)) {
    await checkpoint?.(members[0], passes.length)
    const { bottomMm } = passes[members[0]]
    if (bottomMm < 1e-6) continue
    const carriers = carriersOf(members, passes, settled)
    const below = carriers.map((k) => settled[k])
    const rests = restsOf(ground, bottomMm)
    const own = members.map((m) => lines[m])
    const key = own.find(({ kinds }) => kinds.length > 0)
    if (!key) continue
    // Lines in the same walls as those below, or the very same, lie on them.
    const isUpright = members.map((m) =>
      carriers.some(
        (k) => settled[k] === lines[k] && (lines[k] === lines[m] || isInSameWalls(passes[m], passes[k])),
      ),
    )
    const of = [own.length, ...own, ...isUpright, ...below, ...rests.map(({ region }) => region)]
    const laid = became(key, of, () => {
      const near = carriers.filter((k) => hasWalls(passes[k])).map((k) => settled[k])
      const roles = members.map((m) => passes[m].role)
      return settle(own, roles, isUpright, near, overAny(below, rests, lineWidthMm), lineWidthMm)
    })
    members.forEach((m, n) => (settled[m] = laid[n]))
  }
  return settled
}

/** Which of some lines hang far, over what they were laid on last. */
const hanging = new WeakMap<ToolPaths, { of: readonly ToolPaths[]; chains: readonly [number, number][] }>()

/**
 * Lines that hang far over some carriers, as chains. Asked of the walled layers alone first: those stay the
 * same when only the stands below are laid in another way.
 */
function hangingOver(
  carriers: readonly ToolPaths[],
  lines: ToolPaths,
  w: number,
): readonly [from: number, end: number][] {
  const before = hanging.get(lines)
  if (before && sameValues(before.of, carriers)) return before.chains
  const { xyMm, starts } = lines
  const isOver = overLines(carriers, w)
  const chains = chainsOf(lines).filter(([from, end]) => {
    const [first, last] = [starts[from], starts[end] - 1]
    if (hangsMm(xyMm, first, last, isOver, w) > HANGS_MM) return true
    return !isSame(xyMm, first, last) && hangsMm(xyMm, last, first, isOver, w) > HANGS_MM
  })
  hanging.set(lines, { of: carriers, chains })
  return chains
}

/** How much is taken off a line that goes on as others: at its beginning and its end. */
type Cut = { readonly end: number; readonly mm: readonly [before: number, after: number] }

/** Of one layer. Lines that stay as they are stay the same lists. */
function settle(
  own: readonly ToolPaths[],
  roles: readonly SupportPass['role'][],
  isUpright: readonly boolean[],
  near: readonly ToolPaths[],
  isOver: Over,
  w: number,
): readonly ToolPaths[] {
  const touchMm = ({ flow }: ToolPaths, p: number) => Math.max(0, flow[p] / 2 - SHARED) * w
  const isCarried = (lines: ToolPaths, p: number) =>
    somewhere(lines, p, w, (x, y) => isOver(x, y, touchMm(lines, p)))
  const dropped = own.map(() => new Set<number>())
  const cuts = own.map(() => new Map<number, Cut>())
  /** Per pass: lines that nothing below carries, but perhaps something beside them. */
  let loose: [member: number, path: number][] = []
  own.forEach((lines, m) => {
    if (isUpright[m]) return
    if (roles[m] !== 'interface') {
      for (let p = 0; p < lines.kinds.length; p++) if (!isCarried(lines, p)) loose.push([m, p])
      return
    }
    const { xyMm, starts } = lines
    for (const [from, end] of hangingOver(near, lines, w)) {
      const [first, last] = [starts[from], starts[end] - 1]
      const before = hangsMm(xyMm, first, last, isOver, w)
      if (before < Infinity) {
        if (isSame(xyMm, first, last)) continue
        const after = hangsMm(xyMm, last, first, isOver, w)
        if (Math.max(before, after) > HANGS_MM)
          cuts[m].set(from, { end, mm: [Math.max(0, before - HANGS_MM), Math.max(0, after - HANGS_MM)] })
        continue
      }
      // What hangs from end to end is not held by what lies beside it, unless it is short.
      const isLong = lengthOf(lines, from, end) > HANGS_MM
      for (let p = from; p < end; p++)
        if (isLong) dropped[m].add(p)
        else if (!isCarried(lines, p)) loose.push([m, p])
    }
  })
  for (const [m, p] of loose) dropped[m].add(p)
  // What is tied to something that is carried stays, and so does what is tied to that.
  let tied = loose.length > 0
  while (tied) {
    const held = gridOf(
      own.map((_, m) => kept(m)),
      w,
    )
    const stays = loose.filter(([m, p]) =>
      somewhere(own[m], p, w, (x, y) => held.isNear(x, y, touchMm(own[m], p))),
    )
    for (const [m, p] of stays) dropped[m].delete(p)
    loose = loose.filter(([m, p]) => dropped[m].has(p))
    tied = stays.length > 0 && loose.length > 0
  }
  return own.map((_, m) => kept(m))

  function kept(m: number): ToolPaths {
    return dropped[m].size + cuts[m].size > 0 ? left(own[m], dropped[m], cuts[m]) : own[m]
  }
}

function lengthOf({ xyMm, starts }: ToolPaths, from: number, end: number): number {
  let mm = 0
  for (let i = starts[from]; i + 1 < starts[end]; i++)
    mm += Math.hypot(xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1])
  return mm
}

/** Whether something holds anywhere along a line. */
function somewhere(
  { xyMm, starts }: ToolPaths,
  path: number,
  w: number,
  holds: (x: number, y: number) => boolean,
): boolean {
  for (let i = starts[path]; i + 1 < starts[path + 1]; i++) {
    const [ax, ay] = [xyMm[2 * i], xyMm[2 * i + 1]]
    const [ux, uy] = [xyMm[2 * i + 2] - ax, xyMm[2 * i + 3] - ay]
    const steps = Math.max(1, Math.ceil(Math.sqrt(ux * ux + uy * uy) / (STEP * w)))
    for (let k = 0; k < steps; k++) if (holds(ax + (k / steps) * ux, ay + (k / steps) * uy)) return true
  }
  const last = 2 * (starts[path + 1] - 1)
  return holds(xyMm[last], xyMm[last + 1])
}

/**
 * How far a line hangs at the end that is the point `from`; Infinity where it is nowhere over something, but
 * perhaps beside it. What only touches the rim of what carries it swings free until it lies on something.
 */
function hangsMm(xyMm: Float64Array, from: number, to: number, isOver: Over, w: number): number {
  const firmly = untilOver(xyMm, from, to, w, (x, y, aheadX, aheadY) =>
    liesFirmly(isOver, x, y, aheadX, aheadY, w),
  )
  // It hangs up to the edge of that.
  if (firmly < Infinity) return Math.max(0, firmly - INSIDE * w)
  return untilOver(xyMm, from, to, w, (x, y) => isOver(x, y, SHARED * w))
}

/** How far a line goes, from one of its ends, until something holds of a place on it and its direction. */
function untilOver(
  xyMm: Float64Array,
  from: number,
  to: number,
  w: number,
  holds: (x: number, y: number, aheadX: number, aheadY: number) => boolean,
): number {
  const step = to > from ? 1 : -1
  let mm = 0
  for (let i = from; i !== to; i += step) {
    const [ax, ay] = [xyMm[2 * i], xyMm[2 * i + 1]]
    const [ux, uy] = [xyMm[2 * (i + step)] - ax, xyMm[2 * (i + step) + 1] - ay]
    const length = Math.sqrt(ux * ux + uy * uy)
    if (length === 0) continue
    const steps = Math.max(1, Math.ceil(length / (STEP * w)))
    for (let k = 0; k < steps; k++) {
      if (holds(ax + (k / steps) * ux, ay + (k / steps) * uy, ux / length, uy / length)) return mm
      mm += length / steps
    }
  }
  return Infinity
}

/** What is left of lines without some of them, and with some of them cut. */
function left(lines: ToolPaths, dropped: ReadonlySet<number>, cuts: ReadonlyMap<number, Cut>): ToolPaths {
  const { xyMm, starts, kinds, flow } = lines
  const writer = new PathWriter()
  const add = (p: number, points: Float64Array) =>
    writer.add(PATH_KINDS[kinds[p]], points, 0, points.length / 2, false, flow[p])
  for (let p = 0; p < kinds.length; p++) {
    const cut = cuts.get(p)
    if (cut) {
      const pieces = Array.from({ length: cut.end - p }, (_, n) => ({
        p: p + n,
        points: xyMm.slice(2 * starts[p + n], 2 * starts[p + n + 1]),
      }))
      cutOff(pieces, cut.mm[0], 1)
      cutOff(pieces.toReversed(), cut.mm[1], -1)
      for (const piece of pieces) if (piece.points.length > 2) add(piece.p, piece.points)
      p = cut.end - 1
    } else if (!dropped.has(p)) add(p, xyMm.subarray(2 * starts[p], 2 * starts[p + 1]))
  }
  return writer.finish()
}

/** Takes so much off lines that go on from each other, from the first on: off their beginnings or ends. */
function cutOff(pieces: { points: Float64Array }[], mm: number, step: 1 | -1): void {
  let left = mm
  for (const piece of pieces) {
    const { points } = piece
    const size = points.length / 2
    let i = step > 0 ? 0 : size - 1
    for (; left > 0 && i + step >= 0 && i + step < size; i += step) {
      const ux = points[2 * (i + step)] - points[2 * i]
      const uy = points[2 * (i + step) + 1] - points[2 * i + 1]
      const length = Math.hypot(ux, uy)
      if (length > left) {
        points[2 * i] += (ux / length) * left
        points[2 * i + 1] += (uy / length) * left
        left = 0
        break
      }
      left -= length
    }
    piece.points = step > 0 ? points.subarray(2 * i) : points.subarray(0, 2 * i + 2)
    if (left <= 0) return
  }
}
