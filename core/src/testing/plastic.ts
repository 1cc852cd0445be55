import type { ToolPaths } from '../path'
import { isEmptyRegion, type Region } from '../polygon'

/**
 * What is checked: lines with their heights, and the part's layers. Nothing of the areas that lines were made
 * from.
 */
export type Plastic = {
  readonly layers: readonly { readonly bottomMm: number; readonly topMm: number; readonly region: Region }[]
  /** Per layer: what of it hangs. */
  readonly hold: readonly Region[]
  readonly passes: readonly { readonly role: string; readonly bottomMm: number; readonly topMm: number }[]
  readonly supportPaths: readonly ToolPaths[]
}

export type PlasticAsk = {
  readonly lineWidthMm: number
  readonly gapMm: number
  readonly lowerGapMm: number
  /** Free width between interface lines laid apart on purpose. */
  readonly apartMm?: number
}

export type PlasticReport = {
  readonly wantedMm2: number
  /** Of that: with plastic below it, ending within 0.02 mm of the gap. */
  readonly heldMm2: number
  /** Support plastic that begins on nothing. */
  readonly floatingMm2: number
  /**
   * Farthest that an end of an interface line hangs, and the longest way between two places that carry one.
   */
  readonly worstEndMm: number
  readonly worstSpanMm: number
  /** Share of support lines that lie on other lines of their own layer. */
  readonly doubledShare: number
  /** Length of support lines within 0.05 mm of the part beside them. */
  readonly sideContactMm: number
  readonly layersChecked: number
  /** Passes with the farthest hanging end and the longest span. */
  readonly worstAt: readonly [number, number]
}

const PIXEL_MM = 0.1
const AT_GAP_MM = 0.02
const TOUCH_MM = 0.05
/**
 * Plastic below counts as carrying when it ends this near to where a line begins: more than rounding, less
 * than any layer.
 */
const CARRIED_MM = 0.03
const CAP_MM = 0.03

type Box = { minX: number; minY: number; maxX: number; maxY: number }

/** A picture of an area, one byte a pixel; pixels of all pictures lie on one grid. */
class Picture {
  readonly bytes: Uint8Array
  readonly width: number
  readonly height: number
  private readonly left: number
  private readonly low: number

  /** Of a box and a millimetre around it. */
  constructor({ minX, minY, maxX, maxY }: Box) {
    const [column, row] = [Math.floor((minX - 1) / PIXEL_MM), Math.floor((minY - 1) / PIXEL_MM)]
    this.left = column * PIXEL_MM
    this.low = row * PIXEL_MM
    this.width = Math.max(0, Math.ceil((maxX + 1) / PIXEL_MM) - column)
    this.height = Math.max(0, Math.ceil((maxY + 1) / PIXEL_MM) - row)
    this.bytes = new Uint8Array(this.width * this.height)
  }

  /** Marks everything within a distance of the lines. */
  draw({ xyMm, starts, flow }: ToolPaths, widthMm: number, reachMm = 0): void {
    for (let p = 0; p + 1 < starts.length; p++) {
      const radius = (widthMm * flow[p]) / 2 + reachMm
      for (let i = starts[p]; i + 1 < starts[p + 1]; i++)
        this.capsule(xyMm[2 * i], xyMm[2 * i + 1], xyMm[2 * i + 2], xyMm[2 * i + 3], radius)
    }
  }

  /** Marks what lies near a line: one run of each row, between its round ends or long sides. */
  private capsule(ax: number, ay: number, bx: number, by: number, radius: number): void {
    const { left, low, width, height, bytes } = this
    if (Math.max(ax, bx) + radius < left || Math.min(ax, bx) - radius > left + width * PIXEL_MM) return
    const y0 = Math.max(0, Math.floor((Math.min(ay, by) - radius - low) / PIXEL_MM))
    const y1 = Math.min(height - 1, Math.ceil((Math.max(ay, by) + radius - low) / PIXEL_MM))
    const [ux, uy] = [bx - ax, by - ay]
    const aside = radius / Math.max(1e-12, Math.hypot(ux, uy))
    for (let yy = y0; yy <= y1; yy++) {
      const y = low + (yy + 0.5) * PIXEL_MM
      const [endA, endB] = [radius * radius - (y - ay) ** 2, radius * radius - (y - by) ** 2]
      const [halfA, halfB] = [Math.sqrt(Math.max(0, endA)), Math.sqrt(Math.max(0, endB))]
      let from = Math.min(endA < 0 ? Infinity : ax - halfA, endB < 0 ? Infinity : bx - halfB)
      let to = Math.max(endA < 0 ? -Infinity : ax + halfA, endB < 0 ? -Infinity : bx + halfB)
      for (let side = -aside; side <= aside; side += 2 * aside) {
        const share = (y - ay - side * ux) / uy
        if (!(share >= 0 && share <= 1)) continue
        const x = ax - side * uy + share * ux
        from = Math.min(from, x)
        to = Math.max(to, x)
      }
      const first = Math.max(0, Math.ceil((from - left) / PIXEL_MM - 0.5))
      const last = Math.min(width - 1, Math.floor((to - left) / PIXEL_MM - 0.5))
      if (first <= last) bytes.fill(1, yy * width + first, yy * width + last + 1)
    }
  }

  /** Marks the inside of outlines. */
  fill({ xyMm, starts }: Region): void {
    const { left, low, width, height, bytes } = this
    const crossed: number[][] = Array.from({ length: height }, () => [])
    for (let r = 0; r + 1 < starts.length; r++)
      for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++) {
        const [py, qy] = [xyMm[2 * p + 1], xyMm[2 * q + 1]]
        const first = Math.max(0, Math.floor((Math.min(py, qy) - low) / PIXEL_MM - 0.5))
        const last = Math.min(height - 1, Math.ceil((Math.max(py, qy) - low) / PIXEL_MM - 0.5))
        for (let yy = first; yy <= last; yy++) {
          const y = low + (yy + 0.5) * PIXEL_MM
          if (py > y !== qy > y)
            crossed[yy].push(xyMm[2 * p] + ((xyMm[2 * q] - xyMm[2 * p]) * (y - py)) / (qy - py))
        }
      }
    for (let yy = 0; yy < height; yy++) {
      const at = crossed[yy]
      at.sort((a, b) => a - b)
      for (let k = 0; k + 1 < at.length; k += 2) {
        const from = Math.max(0, Math.ceil((at[k] - left) / PIXEL_MM - 0.5))
        const to = Math.min(width - 1, Math.ceil((at[k + 1] - left) / PIXEL_MM - 0.5) - 1)
        if (to >= from) bytes.fill(1, yy * width + from, yy * width + to + 1)
      }
    }
  }

  at(x: number, y: number): boolean {
    const xx = Math.floor((x - this.left) / PIXEL_MM)
    const yy = Math.floor((y - this.low) / PIXEL_MM)
    return xx >= 0 && yy >= 0 && xx < this.width && yy < this.height && this.bytes[yy * this.width + xx] === 1
  }
}

/**
 * Looks at support lines as they will lie: what they hold, what they lie on, how near they come to the part.
 * Areas are counted on pixels of a tenth of a millimetre; distances are exact.
 */
export function checkPlastic(
  { layers, hold, passes, supportPaths }: Plastic,
  ask: PlasticAsk,
): PlasticReport {
  const w = ask.lineWidthMm
  const at = (bottomMm: number, topMm: number) => `${bottomMm.toFixed(5)} ${topMm.toFixed(5)}`
  /** Lines that share bottom and top are one layer of support. */
  const slabs = new Map<string, number[]>()
  passes.forEach(({ bottomMm, topMm }, i) => {
    const key = at(bottomMm, topMm)
    slabs.set(key, [...(slabs.get(key) ?? []), i])
  })
  let [wantedMm2, heldMm2] = [0, 0]
  hold.forEach((region, i) => {
    if (isEmptyRegion(region)) return
    const box = boxOf([region.xyMm])
    const wanted = new Picture(box)
    wanted.fill(region)
    const plastic = new Picture(box)
    passes.forEach(({ role, topMm }, p) => {
      if (role !== 'stand' && role !== 'interface') return
      if (Math.abs(layers[i].bottomMm - topMm - ask.gapMm) <= AT_GAP_MM)
        plastic.draw(supportPaths[p], w, CAP_MM + (role === 'interface' ? (ask.apartMm ?? 0) / 2 : 0))
    })
    let [want, held] = [0, 0]
    for (let n = 0; n < wanted.bytes.length; n++)
      if (wanted.bytes[n]) {
        want++
        if (plastic.bytes[n]) held++
      }
    wantedMm2 += want * PIXEL_MM * PIXEL_MM
    heldMm2 += held * PIXEL_MM * PIXEL_MM
  })

  const worstAt: [number, number] = [-1, -1]
  let [floatingMm2, worstEndMm, worstSpanMm] = [0, 0, 0]
  let [laidMm2, doubledMm2, sideContactMm] = [0, 0, 0]
  for (const members of slabs.values()) {
    const { bottomMm, topMm } = passes[members[0]]
    const box = boxOf(members.map((i) => supportPaths[i].xyMm))
    const own = new Picture(box)
    let laid = 0
    for (const i of members) {
      own.draw(supportPaths[i], w)
      laid += laidArea(supportPaths[i], w)
    }
    // What carries it: the bed, support plastic that ends where it begins, the part within the lower gap.
    const below = new Picture(box)
    if (bottomMm > 1e-6) {
      passes.forEach(({ topMm: top, bottomMm: bottom }, p) => {
        if (bottom < bottomMm - 1e-6 && top > bottomMm - CARRIED_MM && bottom < topMm)
          below.draw(supportPaths[p], w)
      })
      for (const { region, bottomMm: b, topMm: t } of layers)
        if (b < bottomMm && t > bottomMm - ask.lowerGapMm - 0.35) below.fill(region)
      for (const i of members)
        if (passes[i].role === 'interface') {
          const { end, span } = hangs(supportPaths[i], below, w)
          if (end > worstEndMm) worstAt[0] = i
          if (span > worstSpanMm) worstAt[1] = i
          worstEndMm = Math.max(worstEndMm, end)
          worstSpanMm = Math.max(worstSpanMm, span)
        }
    }
    const { areaMm2, carriedMm2 } = areasOf(own, below)
    laidMm2 += laid
    doubledMm2 += Math.max(0, laid - areaMm2)
    if (bottomMm > 1e-6) floatingMm2 += areaMm2 - carriedMm2
    for (const layer of layers)
      if (layer.bottomMm < topMm - 1e-6 && layer.topMm > bottomMm + 1e-6)
        for (const i of members) sideContactMm += nearLength(supportPaths[i], layer.region, w, TOUCH_MM)
  }
  return {
    wantedMm2,
    heldMm2,
    floatingMm2,
    worstEndMm,
    worstSpanMm,
    doubledShare: laidMm2 > 0 ? doubledMm2 / laidMm2 : 0,
    sideContactMm,
    layersChecked: slabs.size,
    worstAt,
  }
}

function boxOf(lists: readonly Float64Array[]): Box {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity }
  for (const xy of lists)
    for (let i = 0; i < xy.length; i += 2) {
      box.minX = Math.min(box.minX, xy[i])
      box.maxX = Math.max(box.maxX, xy[i])
      box.minY = Math.min(box.minY, xy[i + 1])
      box.maxY = Math.max(box.maxY, xy[i + 1])
    }
  return box
}

function laidArea({ xyMm, starts, flow }: ToolPaths, w: number): number {
  let area = 0
  for (let p = 0; p + 1 < starts.length; p++)
    for (let i = starts[p]; i + 1 < starts[p + 1]; i++)
      area += Math.hypot(xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1]) * w * flow[p]
  return area
}

/** What of a picture is marked, and how much of that in connected pieces that meet something below. */
function areasOf({ width, bytes }: Picture, below: Picture): { areaMm2: number; carriedMm2: number } {
  // Runs of marked pixels, row by row; what touches is one piece, known by its first run.
  const starts: number[] = []
  const ends: number[] = []
  const firsts: number[] = []
  const carried: boolean[] = []
  const firstOf = (run: number) => {
    while (firsts[run] !== run) run = firsts[run] = firsts[firsts[run]]
    return run
  }
  let touched = 0
  for (let start = bytes.indexOf(1); start >= 0; start = bytes.indexOf(1, ends.at(-1))) {
    const end = bytes.indexOf(0, start)
    const run = starts.length
    const isCarried = below.bytes.subarray(start, end).includes(1)
    starts.push(start)
    ends.push(end)
    firsts.push(run)
    carried.push(isCarried)
    while (ends[touched] <= start - width) touched++
    for (let other = touched; starts[other] < end - width; other++) {
      const [one, two] = [firstOf(run), firstOf(other)]
      carried[two] ||= carried[one]
      firsts[one] = two
    }
  }
  let [all, held] = [0, 0]
  for (let run = 0; run < starts.length; run++) {
    all += ends[run] - starts[run]
    if (carried[firstOf(run)]) held += ends[run] - starts[run]
  }
  return { areaMm2: all * PIXEL_MM * PIXEL_MM, carriedMm2: held * PIXEL_MM * PIXEL_MM }
}

/** A line along a slot that is narrower than this share of it lies on both of its sides. */
const OVER_SLOT = 0.8

/** How far lines hang: at their ends, and between two places that carry them. */
function hangs(lines: ToolPaths, below: Picture, w: number): { end: number; span: number } {
  let [end, span] = [0, 0]
  const step = 0.05
  for (const xyMm of whole(lines)) {
    let run = 0
    let carriedYet = false
    const last = xyMm.length - 2
    const closed = Math.hypot(xyMm[0] - xyMm[last], xyMm[1] - xyMm[last + 1]) < 1e-6
    for (let i = 0; i < last; i += 2) {
      const [ax, ay, bx, by] = [xyMm[i], xyMm[i + 1], xyMm[i + 2], xyMm[i + 3]]
      const length = Math.hypot(bx - ax, by - ay)
      const pieces = Math.max(1, Math.ceil(length / step))
      const aside = length > 0 ? (OVER_SLOT * w) / 2 / length : 0
      const [dx, dy] = [aside * (ay - by), aside * (bx - ax)]
      for (let k = 0; k < pieces; k++) {
        const t = (k + 0.5) / pieces
        const [x, y] = [ax + t * (bx - ax), ay + t * (by - ay)]
        if (below.at(x, y) || (below.at(x + dx, y + dy) && below.at(x - dx, y - dy))) {
          if (carriedYet) span = Math.max(span, run)
          else if (!closed) end = Math.max(end, run)
          run = 0
          carriedYet = true
        } else run += length / pieces
      }
    }
    if (!closed) end = Math.max(end, run)
    else span = Math.max(span, run)
  }
  return { end, span }
}

/** Points of lines; what begins where another one ended goes on with it, as wide as it may be. */
function whole({ xyMm, starts }: ToolPaths): number[][] {
  const lines: number[][] = []
  for (let p = 0; p + 1 < starts.length; p++) {
    const points = xyMm.subarray(2 * starts[p], 2 * starts[p + 1])
    const before = lines.at(-1)
    if (before && Math.hypot(points[0] - before.at(-2)!, points[1] - before.at(-1)!) < 1e-6)
      before.push(...points.subarray(2))
    else lines.push([...points])
  }
  return lines
}

/** Length of lines whose edge comes within a distance of an outline: by a sample for every 0.2 mm. */
function nearLength({ xyMm, starts, flow }: ToolPaths, region: Region, w: number, nearMm: number): number {
  if (isEmptyRegion(region) || starts.length < 2) return 0
  let length = 0
  const sides = new SideGrid(region)
  for (let p = 0; p + 1 < starts.length; p++) {
    const radius = (w * flow[p]) / 2 + nearMm
    for (let i = starts[p]; i + 1 < starts[p + 1]; i++) {
      const [ax, ay, bx, by] = [xyMm[2 * i], xyMm[2 * i + 1], xyMm[2 * i + 2], xyMm[2 * i + 3]]
      const long = Math.hypot(bx - ax, by - ay)
      const pieces = Math.max(1, Math.ceil(long / 0.2))
      for (let k = 0; k < pieces; k++) {
        const t = (k + 0.5) / pieces
        const free = sides.distance(ax + t * (bx - ax), ay + t * (by - ay)) - radius
        if (free < 0) length += long / pieces
        // As far as nothing is near, no sample can be.
        else k += Math.floor(free / Math.max(1e-9, long / pieces))
      }
    }
  }
  return length
}

const CELL_MM = 2

/** Sides of an outline by place. */
class SideGrid {
  private readonly columns: number
  private readonly rows: number
  private readonly left: number
  private readonly low: number
  /** Per cell its sides, each as the two points of it. */
  private readonly cells: (number[] | undefined)[]

  constructor(private readonly region: Region) {
    const { xyMm, starts } = region
    const { minX, minY, maxX, maxY } = boxOf([xyMm])
    this.left = minX
    this.low = minY
    this.columns = Math.floor((maxX - minX) / CELL_MM) + 1
    this.rows = Math.floor((maxY - minY) / CELL_MM) + 1
    this.cells = new Array<number[] | undefined>(this.columns * this.rows)
    for (let r = 0; r + 1 < starts.length; r++)
      for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++) {
        const [px, qx] = [this.column(xyMm[2 * p]), this.column(xyMm[2 * q])]
        const [py, qy] = [this.row(xyMm[2 * p + 1]), this.row(xyMm[2 * q + 1])]
        for (let y = Math.min(py, qy); y <= Math.max(py, qy); y++)
          for (let x = Math.min(px, qx); x <= Math.max(px, qx); x++)
            (this.cells[y * this.columns + x] ??= []).push(q, p)
      }
  }

  private column(x: number): number {
    return Math.floor((x - this.left) / CELL_MM)
  }

  private row(y: number): number {
    return Math.floor((y - this.low) / CELL_MM)
  }

  /** To the nearest side; of what is farther than a cell, that it is a cell away. */
  distance(x: number, y: number): number {
    const { xyMm } = this.region
    const [cx, cy] = [this.column(x), this.row(y)]
    let least = CELL_MM * CELL_MM
    for (let j = Math.max(0, cy - 1); j <= Math.min(this.rows - 1, cy + 1); j++)
      for (let i = Math.max(0, cx - 1); i <= Math.min(this.columns - 1, cx + 1); i++) {
        const sides = this.cells[j * this.columns + i]
        if (!sides) continue
        for (let k = 0; k < sides.length; k += 2) {
          const [p, q] = [2 * sides[k], 2 * sides[k + 1]]
          const [ax, ay] = [xyMm[p], xyMm[p + 1]]
          const [ux, uy] = [xyMm[q] - ax, xyMm[q + 1] - ay]
          const l2 = ux * ux + uy * uy
          const t = l2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * ux + (y - ay) * uy) / l2)) : 0
          const [dx, dy] = [x - ax - t * ux, y - ay - t * uy]
          least = Math.min(least, dx * dx + dy * dy)
        }
      }
    return Math.sqrt(least)
  }
}
