export const PATH_KINDS = ['wall', 'fill', 'skin', 'stand', 'interface', 'footing', 'brim', 'bridge'] as const
export type PathKind = (typeof PATH_KINDS)[number]

/**
 * Lines to print, in order. Path p runs through points starts[p] .. starts[p+1]-1 of xyMm, is of kind
 * PATH_KINDS[kinds[p]], and is flow[p] times as wide as a usual line.
 */
export type ToolPaths = {
  readonly xyMm: Float64Array
  readonly starts: Uint32Array
  readonly kinds: Uint8Array
  readonly flow: Float32Array
}

export const NO_PATHS: ToolPaths = {
  xyMm: new Float64Array(0),
  starts: new Uint32Array(1),
  kinds: new Uint8Array(0),
  flow: new Float32Array(0),
}

/** Lines one after the other as one list. */
export function joinPaths(all: readonly ToolPaths[]): ToolPaths {
  if (all.length < 2) return all[0] ?? NO_PATHS
  const paths = all.reduce((sum, { kinds }) => sum + kinds.length, 0)
  const numbers = all.reduce((sum, { xyMm }) => sum + xyMm.length, 0)
  const joined = {
    xyMm: new Float64Array(numbers),
    starts: new Uint32Array(paths + 1),
    kinds: new Uint8Array(paths),
    flow: new Float32Array(paths),
  }
  let path = 0
  let at = 0
  for (const { xyMm, starts, kinds, flow } of all) {
    joined.xyMm.set(xyMm, at)
    joined.kinds.set(kinds, path)
    joined.flow.set(flow, path)
    for (let p = 0; p < kinds.length; p++) joined.starts[path + p + 1] = starts[p + 1] + at / 2
    path += kinds.length
    at += xyMm.length
  }
  return joined
}

/** Gathers paths into flat arrays, remembering where the nozzle last stopped. */
export class PathWriter {
  private xy = new Float64Array(256)
  private size = 0
  private readonly starts: number[] = [0]
  private readonly kinds: number[] = []
  private readonly flow: number[] = []

  /** @param after paths that were laid before these */
  constructor(private readonly after: ToolPaths = NO_PATHS) {}

  get lastX(): number {
    return this.size > 0 ? this.xy[this.size - 2] : (this.after.xyMm.at(-2) ?? 0)
  }

  get lastY(): number {
    return this.size > 0 ? this.xy[this.size - 1] : (this.after.xyMm.at(-1) ?? 0)
  }

  /**
   * Adds a path through count points starting at point `from` of a flat list; a closed one returns to its
   * start.
   */
  add(kind: PathKind, points: Float64Array, from: number, count: number, closed: boolean, flow = 1): void {
    const need = this.size + (count + 1) * 2
    if (need > this.xy.length) {
      const larger = new Float64Array(Math.max(need, this.xy.length * 2))
      larger.set(this.xy)
      this.xy = larger
    }
    this.xy.set(points.subarray(from * 2, (from + count) * 2), this.size)
    this.size += count * 2
    if (closed) {
      this.xy[this.size++] = points[from * 2]
      this.xy[this.size++] = points[from * 2 + 1]
    }
    this.starts.push(this.size / 2)
    this.kinds.push(PATH_KINDS.indexOf(kind))
    this.flow.push(flow)
  }

  finish(): ToolPaths {
    if (this.kinds.length === 0) return NO_PATHS
    return {
      xyMm: this.xy.slice(0, this.size),
      starts: Uint32Array.from(this.starts),
      kinds: Uint8Array.from(this.kinds),
      flow: Float32Array.from(this.flow),
    }
  }
}
