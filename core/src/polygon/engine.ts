// Workspaces that import core as source must see this declaration too, which an import could not bring them.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./clipper2z.d.ts" />
import createClipper from 'clipper2-wasm/dist/es/clipper2z.js'
import type { MainModule, Path64, Paths64 } from 'clipper2-wasm/dist/clipper2z'
import { ARC_TOLERANCE_MM, GRID_PER_MM } from '../tolerances'
import { BACKWARD_FRAME, EMPTY_REGION, isEmptyRegion, type Region } from './region'

export type Corner = 'round' | 'miter'

/** Boolean operations and growth on regions. Results are clean: outer rings counter-clockwise, nothing crossing. */
export type PolygonEngine = {
  /** Everything inside any ring, whatever overlaps; `rule` says how raw outlines count, `thinMm` thins near-straight runs first. */
  clean(region: Region, rule?: 'nonzero' | 'positive', thinMm?: number): Region
  union(...regions: Region[]): Region
  /** What of `from` lies in none of the others; those may overlap, which saves uniting them first. */
  minus(from: Region, ...what: Region[]): Region
  common(a: Region, b: Region): Region
  /** What of `from` lies outside at least one of the others: `from` without all that they share. */
  minusCommon(from: Region, ...of: Region[]): Region
  /** Grows by deltaMm (shrinks when negative). */
  grow(region: Region, deltaMm: number, corner?: Corner, arcToleranceMm?: number): Region
  /** `from` without `what` grown by deltaMm, in one go: the grown shape never leaves the engine. */
  minusGrown(from: Region, what: Region, deltaMm: number, arcToleranceMm?: number): Region
  /** What `a` shares with `b` grown by deltaMm, in one go. */
  commonGrown(a: Region, b: Region, deltaMm: number, corner: Corner): Region
  /** Thins near-straight runs of points. */
  thin(region: Region, toleranceMm: number): Region
}

/**
 * Starts the polygon engine. The caller brings the bytes of `clipper2z.wasm`, so that core itself never reads a file or a network.
 * Memory inside the engine is freed before every call returns.
 */
export async function loadPolygonEngine(wasmBinary: Uint8Array | ArrayBuffer): Promise<PolygonEngine> {
  const clipper = (await createClipper({ wasmBinary })) as MainModule

  /** Runs an operation on loaded regions and frees everything it touched. */
  function run(regions: readonly Region[], operate: (...paths: Paths64[]) => Paths64): Region {
    const loaded = regions.map((region) => load(clipper, region))
    const result = operate(...loaded)
    const region = unload(result)
    for (const paths of loaded) paths.delete()
    result.delete()
    return region
  }

  const inflate = (paths: Paths64, deltaMm: number, corner: Corner, arcToleranceMm: number) =>
    clipper.InflatePaths64(paths, deltaMm * GRID_PER_MM, corner === 'round' ? clipper.JoinType.Round : clipper.JoinType.Miter, clipper.EndType.Polygon, 2, arcToleranceMm * GRID_PER_MM)
  /** Two steps of which the first one's result is only passed on. */
  const grownThen = (paths: Paths64, deltaMm: number, corner: Corner, arcToleranceMm: number, then: (grown: Paths64) => Paths64): Paths64 => {
    const grown = inflate(paths, deltaMm, corner, arcToleranceMm)
    const result = then(grown)
    grown.delete()
    return result
  }

  const { NonZero, Positive } = clipper.FillRule
  const engine: PolygonEngine = {
    clean(region, rule = 'nonzero', thinMm = 0) {
      if (isEmptyRegion(region)) return EMPTY_REGION
      const fill = rule === 'positive' ? Positive : NonZero
      return run([region], (raw) => {
        if (thinMm === 0) return clipper.UnionSelf64(raw, fill)
        const thinned = clipper.SimplifyPaths64(raw, thinMm * GRID_PER_MM, true)
        const clean = clipper.UnionSelf64(thinned, fill)
        thinned.delete()
        return clean
      })
    },
    union(...regions) {
      const filled = regions.filter((region) => !isEmptyRegion(region))
      if (filled.length === 0) return EMPTY_REGION
      if (filled.length === 1) return filled[0]
      if (filled.length === 2) return run(filled, (a, b) => clipper.Union64(a, b, NonZero))
      return run(filled.slice(0, 1), (all) => {
        for (const region of filled.slice(1)) append(clipper, all, region)
        return clipper.UnionSelf64(all, NonZero)
      })
    },
    minus(from, ...what) {
      const filled = what.filter((region) => !isEmptyRegion(region))
      if (isEmptyRegion(from) || filled.length === 0) return from
      return run([from, filled[0]], (a, b) => {
        for (const region of filled.slice(1)) append(clipper, b, region)
        return clipper.Difference64(a, b, NonZero)
      })
    },
    common: (a, b) => (isEmptyRegion(a) || isEmptyRegion(b) ? EMPTY_REGION : run([a, b], (p, q) => clipper.Intersect64(p, q, NonZero))),
    minusCommon(from, ...of) {
      if (isEmptyRegion(from) || of.length === 0) return EMPTY_REGION
      if (of.some(isEmptyRegion)) return from
      // Frames that run the other way round take one from every count: only what all others cover still counts.
      return run([from, of[0]], (a, b) => {
        for (const region of of.slice(1)) {
          append(clipper, b, region)
          append(clipper, b, BACKWARD_FRAME)
        }
        return clipper.Difference64(a, b, Positive)
      })
    },
    grow(region, deltaMm, corner = 'round', arcToleranceMm = ARC_TOLERANCE_MM) {
      if (isEmptyRegion(region) || deltaMm === 0) return region
      return run([region], (a) => inflate(a, deltaMm, corner, arcToleranceMm))
    },
    minusGrown(from, what, deltaMm, arcToleranceMm = ARC_TOLERANCE_MM) {
      if (isEmptyRegion(from) || isEmptyRegion(what)) return from
      return run([from, what], (a, b) => grownThen(b, deltaMm, 'round', arcToleranceMm, (grown) => clipper.Difference64(a, grown, NonZero)))
    },
    commonGrown(a, b, deltaMm, corner) {
      if (isEmptyRegion(a) || isEmptyRegion(b)) return EMPTY_REGION
      return run([a, b], (p, q) => grownThen(q, deltaMm, corner, ARC_TOLERANCE_MM, (grown) => clipper.Intersect64(p, grown, NonZero)))
    },
    thin: (region, toleranceMm) => (isEmptyRegion(region) ? region : run([region], (a) => clipper.SimplifyPaths64(a, toleranceMm * GRID_PER_MM, true))),
  }
  return engine
}

// Coordinates go in and out as 64-bit integers with three numbers a point. They fit in 32 bits, so both halves are written and read
// as plain numbers through an Int32 view: a BigInt per coordinate would cost more than the boolean operation itself.

function load(clipper: MainModule, region: Region): Paths64 {
  const paths = new clipper.Paths64()
  append(clipper, paths, region)
  return paths
}

/** Where the points of a ring are laid out on their way in; the third number of each stays zero. */
let scratch = new Int32Array(6 * 4096)

function append(clipper: MainModule, paths: Paths64, { xyMm, starts }: Region): void {
  for (let r = 0; r + 1 < starts.length; r++) {
    const count = starts[r + 1] - starts[r]
    if (6 * count > scratch.length) scratch = new Int32Array(12 * count)
    const halves = scratch
    for (let i = 0, at = starts[r] * 2; i < 6 * count; i += 6, at += 2) {
      const x = Math.round(xyMm[at] * GRID_PER_MM)
      const y = Math.round(xyMm[at + 1] * GRID_PER_MM)
      halves[i] = x
      halves[i + 1] = x >> 31
      halves[i + 2] = y
      halves[i + 3] = y >> 31
    }
    const path: Path64 = new clipper.Path64()
    path.assign(new BigInt64Array(halves.buffer, 0, 3 * count))
    paths.push_back(path)
    path.delete()
  }
}

function unload(paths: Paths64): Region {
  const rings = paths.size()
  if (rings === 0) return EMPTY_REGION
  const starts = new Uint32Array(rings + 1)
  const held: Path64[] = []
  for (let r = 0; r < rings; r++) {
    const path = paths.get(r)
    held.push(path)
    starts[r + 1] = starts[r] + path.size()
  }
  const xyMm = new Float64Array(starts[rings] * 2)
  for (let r = 0; r < rings; r++) {
    const view = held[r].view()
    const halves = new Int32Array(view.buffer, view.byteOffset, view.length * 2)
    for (let i = 0, at = starts[r] * 2; i < halves.length; i += 6, at += 2) {
      xyMm[at] = halves[i] / GRID_PER_MM
      xyMm[at + 1] = halves[i + 2] / GRID_PER_MM
    }
    held[r].delete()
  }
  return { xyMm, starts }
}
