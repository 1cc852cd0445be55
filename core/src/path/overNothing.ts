import { regionContains, type Region } from '../polygon'
import type { SupportPass } from '../stand'
import { gridOf } from './lineGrid'
import { PathWriter, PATH_KINDS, type ToolPaths } from './toolPaths'

/** Heights nearer than this are one. */
const SAME_MM = 0.03
/** An end of an interface line hangs no farther than this. */
const HANGS_MM = 1.9
/** Lines are walked in steps of so many widths. */
const STEP = 0.25
/** A line lies on another, or is tied to one beside it, when it shares so much of their widths. */
const SHARED = 0.1

/** What support lines may lie on besides each other. */
export type Ground = {
  /** Layers of the part, from below. */
  readonly layers: readonly { readonly bottomMm: number; readonly topMm: number; readonly region: Region }[]
  /** How far below a support the part may end that carries it. */
  readonly belowMm: number
}

/** What lines of one layer became on what they lay on. */
type Settled = { readonly of: readonly unknown[]; readonly laid: readonly ToolPaths[] }
export type SettledKnown = WeakMap<ToolPaths, Settled[]>
const REMEMBERED = 3

/**
 * Lines as they can be laid: what areas promise, a line need not keep. A line that lies on nothing, and is
 * tied to none that does, is left out, and an end of an interface line that would hang far is cut off.
 * @param lines of each pass
 */
export function onSomething(
  passes: readonly SupportPass[],
  lines: readonly ToolPaths[],
  ground: Ground,
  lineWidthMm: number,
  known: SettledKnown = new WeakMap(),
): ToolPaths[] {
  const settled = [...lines]
  for (const members of layersOf(passes)) {
    const { bottomMm } = passes[members[0]]
    if (bottomMm < 1e-6) continue
    const below: ToolPaths[] = []
    // From the last that may end below it downwards.
    for (let k = members.at(-1)!; k >= 0 && passes[k].topMm > bottomMm - SAME_MM; k--)
      if (passes[k].bottomMm < bottomMm - 1e-6 && settled[k].kinds.length > 0) below.push(settled[k])
    const rests = ground.layers.filter(
      (layer) => layer.bottomMm < bottomMm && layer.topMm > bottomMm - ground.belowMm,
    )
    const own = members.map((m) => lines[m])
    const key = own.find(({ kinds }) => kinds.length > 0)
    if (!key) continue
    const of = [own.length, ...own, ...below, ...rests.map(({ region }) => region)]
    const before = known.get(key) ?? []
    let one = before.find(
      (past) => past.of.length === of.length && past.of.every((each, n) => each === of[n]),
    )
    if (!one) {
      const isOver: Over = (x, y, moreMm) =>
        below.some((carrier) => gridOf(carrier, lineWidthMm).isNear(x, y, moreMm)) ||
        rests.some(({ region }) => regionContains(region, x, y))
      const roles = members.map((m) => passes[m].role)
      one = { of, laid: settle(own, roles, below, isOver, lineWidthMm) }
      known.set(key, [one, ...before].slice(0, REMEMBERED))
    }
    members.forEach((m, n) => (settled[m] = one.laid[n]))
  }
  return settled
}

/** Numbers of the passes that share bottom and top, from below: one layer of support. */
function layersOf(passes: readonly SupportPass[]): number[][] {
  const layers = new Map<string, number[]>()
  passes.forEach(({ bottomMm, topMm }, i) => {
    const at = `${topMm.toFixed(5)} ${bottomMm.toFixed(5)}`
    const layer = layers.get(at)
    if (layer) layer.push(i)
    else layers.set(at, [i])
  })
  return [...layers.values()]
}

/** Whether something that carries lies within half a line, and some more, of a place. */
type Over = (x: number, y: number, moreMm: number) => boolean

/** Of one layer. Lines that stay as they are stay the same lists. */
function settle(
  own: readonly ToolPaths[],
  roles: readonly SupportPass['role'][],
  below: readonly ToolPaths[],
  isOver: Over,
  w: number,
): readonly ToolPaths[] {
  const touchMm = ({ flow }: ToolPaths, p: number) => Math.max(0, flow[p] / 2 - SHARED) * w
  const dropped = own.map(() => new Set<number>())
  /** Per pass: lines that nothing below carries, but perhaps something beside them. */
  let loose: [member: number, path: number][] = []
  own.forEach((lines, m) => {
    // Upright walls: what lies there already is the very same.
    if (below.includes(lines)) return
    for (const [from, end] of chainsOf(lines)) {
      const free: [number, number][] = []
      for (let p = from; p < end; p++)
        if (!somewhere(lines, p, w, (x, y) => isOver(x, y, touchMm(lines, p)))) free.push([m, p])
      for (const [, p] of free) dropped[m].add(p)
      // An interface line that hangs from end to end is not held by what lies beside it.
      const hangs = roles[m] === 'interface' && free.length === end - from
      if (!hangs || lengthOf(lines, from, end) <= HANGS_MM) loose.push(...free)
    }
  })
  // What is tied to something that is carried stays, and so does what is tied to that.
  let tied = loose.length > 0
  while (tied) {
    const held = own.map((lines, m) =>
      gridOf(
        only(lines, (p) => !dropped[m].has(p)),
        w,
      ),
    )
    const stays = loose.filter(([m, p]) =>
      somewhere(own[m], p, w, (x, y) => held.some((grid) => grid.isNear(x, y, touchMm(own[m], p)))),
    )
    for (const [m, p] of stays) dropped[m].delete(p)
    loose = loose.filter(([m, p]) => dropped[m].has(p))
    tied = stays.length > 0 && loose.length > 0
  }
  return own.map((lines, m) => {
    const left = dropped[m].size > 0 ? only(lines, (p) => !dropped[m].has(p)) : lines
    return roles[m] === 'interface' ? shortened(left, isOver, w) : left
  })
}

const isSame = (xyMm: Float64Array, a: number, b: number): boolean =>
  Math.abs(xyMm[2 * a] - xyMm[2 * b]) + Math.abs(xyMm[2 * a + 1] - xyMm[2 * b + 1]) < 1e-6

/** Lines from which to before which each goes on where the one before it ended, as wide as it may be. */
function chainsOf({ xyMm, starts, kinds }: ToolPaths): [from: number, end: number][] {
  const chains: [number, number][] = []
  for (let p = 0; p < kinds.length; p++)
    if (p > 0 && isSame(xyMm, starts[p], starts[p] - 1)) chains.at(-1)![1] = p + 1
    else chains.push([p, p + 1])
  return chains
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

/** Some of the lines. */
function only(lines: ToolPaths, stays: (path: number) => boolean): ToolPaths {
  const writer = new PathWriter()
  for (let p = 0; p < lines.kinds.length; p++) if (stays(p)) copy(writer, lines, p)
  return writer.finish()
}

function copy(writer: PathWriter, { xyMm, starts, kinds, flow }: ToolPaths, p: number): void {
  writer.add(PATH_KINDS[kinds[p]], xyMm, starts[p], starts[p + 1] - starts[p], false, flow[p])
}

/** Interface lines whose ends hang no farther than they should. */
function shortened(lines: ToolPaths, isOver: Over, w: number): ToolPaths {
  const { xyMm, starts, kinds, flow } = lines
  const cuts = chainsOf(lines).map(([from, end]) => {
    const [first, last] = [starts[from], starts[end] - 1]
    const isRing = isSame(xyMm, first, last)
    return { from, end, mm: isRing ? [0, 0] : [excess(first, last, 1), excess(last, first, -1)] }
  })
  const isWhole = ({ mm: [before, after] }: (typeof cuts)[number]) => before === 0 && after === 0
  if (cuts.every(isWhole)) return lines
  const writer = new PathWriter()
  for (const cut of cuts) {
    const pieces = Array.from({ length: cut.end - cut.from }, (_, n) => {
      const p = cut.from + n
      return { points: xyMm.slice(2 * starts[p], 2 * starts[p + 1]), p }
    })
    cutOff(pieces, cut.mm[0], 1)
    cutOff(pieces.toReversed(), cut.mm[1], -1)
    for (const { points, p } of pieces)
      if (points.length > 2) writer.add(PATH_KINDS[kinds[p]], points, 0, points.length / 2, false, flow[p])
  }
  return writer.finish()

  /** How much too far a line hangs at the end that is the point `from`. */
  function excess(from: number, to: number, step: 1 | -1): number {
    let hangs = 0
    for (let i = from; i !== to; i += step) {
      const [ax, ay] = [xyMm[2 * i], xyMm[2 * i + 1]]
      const [ux, uy] = [xyMm[2 * (i + step)] - ax, xyMm[2 * (i + step) + 1] - ay]
      const length = Math.sqrt(ux * ux + uy * uy)
      const steps = Math.max(1, Math.ceil(length / (STEP * w)))
      for (let k = 0; k < steps; k++) {
        if (isOver(ax + (k / steps) * ux, ay + (k / steps) * uy, SHARED * w))
          return Math.max(0, hangs - HANGS_MM)
        hangs += length / steps
      }
    }
    // Nowhere more than beside what is below: a short one may stay.
    return hangs > HANGS_MM ? hangs : 0
  }
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
