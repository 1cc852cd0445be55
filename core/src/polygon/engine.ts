// Workspaces that import core as source must see this declaration too, which an import could not bring them.
// oxlint-disable-next-line typescript/triple-slash-reference
/// <reference path="./clipper2z.d.ts" />
import createClipper from 'clipper2-wasm/dist/es/clipper2z.js'
import type { MainModule, Paths64 } from 'clipper2-wasm/dist/clipper2z'
import { ARC_TOLERANCE_MM, GRID_PER_MM } from '../tolerances'
import { growConvex } from './growConvex'
import { boxOf } from './lie'
import { nearTo } from './nearBox'
import { outerFirst } from './outerFirst'
import { pathMemory } from './pathMemory'
import { BACKWARD_FRAME, EMPTY_REGION, isEmptyRegion, type Bounds2, type Region } from './region'
import { withoutTinySides } from './tinySides'

export type Corner = 'round' | 'miter'

/**
 * Boolean operations and growth on regions. Results are clean: outer rings counter-clockwise, nothing
 * crossing.
 */
export type PolygonEngine = {
  /**
   * Everything inside any ring, whatever overlaps; `rule` says how raw outlines count, `thinMm` thins
   * near-straight runs first.
   */
  clean(region: Region, rule?: 'nonzero' | 'positive', thinMm?: number): Region
  union(...regions: Region[]): Region
  /** What of `from` lies in none of the others; those may overlap, which saves uniting them first. */
  minus(from: Region, ...what: Region[]): Region
  /** What lies in any of `from` and in none of `what`; lists need not be united first. */
  minusAll(from: readonly Region[], what: readonly Region[]): Region
  common(a: Region, b: Region): Region
  /** What lies in any of `a` and in any of `b`. */
  commonAll(a: readonly Region[], b: readonly Region[]): Region
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
 * Regions that stay in the engine's memory after their last use: neighbours in a stack of layers are asked
 * about again at once.
 */
const RESIDENT = 24

type Freed = { delete(): void }

/**
 * Starts the polygon engine. The caller brings the bytes of `clipper2z.wasm`, so that core itself never reads
 * a file or a network. Memory inside the engine is freed before every call returns, also when it throws, but
 * for a few regions that were used last.
 */
export async function loadPolygonEngine(wasmBinary: Uint8Array | ArrayBuffer): Promise<PolygonEngine> {
  const clipper = (await createClipper({ wasmBinary })) as MainModule
  const { append, unload } = pathMemory(clipper)
  /** By their region, in the order of their use. */
  const resident = new Map<Region, Paths64>()

  function remember(region: Region, paths: Paths64): void {
    resident.set(region, paths)
    if (resident.size <= RESIDENT) return
    const [oldest, gone] = resident.entries().next().value!
    resident.delete(oldest)
    gone.delete()
  }

  /** A region in the engine's memory, which keeps it. */
  function loaded(region: Region): Paths64 {
    const known = resident.get(region)
    if (known) {
      resident.delete(region)
      resident.set(region, known)
      return known
    }
    const paths = new clipper.Paths64()
    try {
      append(paths, region)
    } catch (error) {
      paths.delete()
      throw error
    }
    remember(region, paths)
    return paths
  }

  /** Several regions as one list of rings; frees it with the scope when it had to be made. */
  function together(regions: readonly Region[], scope: Freed[]): Paths64 {
    const filled = regions.filter((region) => !isEmptyRegion(region))
    if (filled.length === 1) return loaded(filled[0])
    const all = new clipper.Paths64()
    scope.push(all)
    for (const region of filled) append(all, region)
    return all
  }

  /**
   * Runs an operation; everything it puts into its scope is freed, whatever happens. The result stays, as it
   * is mostly asked for next.
   */
  function run(operate: (scope: Freed[]) => Paths64): Region {
    const scope: Freed[] = []
    try {
      const result = operate(scope)
      let region: Region
      try {
        region = unload(result)
      } catch (error) {
        result.delete()
        throw error
      }
      if (isEmptyRegion(region)) result.delete()
      else remember(region, result)
      return region
    } finally {
      for (const one of scope) one.delete()
    }
  }

  const inflate = (paths: Paths64, deltaMm: number, corner: Corner, arcToleranceMm: number) =>
    clipper.InflatePaths64(
      paths,
      deltaMm * GRID_PER_MM,
      corner === 'round' ? clipper.JoinType.Round : clipper.JoinType.Miter,
      clipper.EndType.Polygon,
      2,
      arcToleranceMm * GRID_PER_MM,
    )
  const scoped = <T extends Freed>(scope: Freed[], made: T): T => {
    scope.push(made)
    return made
  }

  const { NonZero, Positive } = clipper.FillRule
  const engine: PolygonEngine = {
    clean(region, rule = 'nonzero', thinMm = 0) {
      if (isEmptyRegion(region)) return EMPTY_REGION
      const fill = rule === 'positive' ? Positive : NonZero
      return run((scope) => {
        // Raw outlines are asked about once: they need not stay.
        const raw = scoped(scope, new clipper.Paths64())
        append(raw, region)
        if (thinMm === 0) return clipper.UnionSelf64(raw, fill)
        return clipper.UnionSelf64(
          scoped(scope, clipper.SimplifyPaths64(raw, thinMm * GRID_PER_MM, true)),
          fill,
        )
      })
    },
    union(...regions) {
      const filled = regions.filter((region) => !isEmptyRegion(region))
      if (filled.length === 0) return EMPTY_REGION
      if (filled.length === 1) return filled[0]
      if (filled.length === 2)
        return run(() => clipper.Union64(loaded(filled[0]), loaded(filled[1]), NonZero))
      return run((scope) => clipper.UnionSelf64(together(filled, scope), NonZero))
    },
    minus: (from, ...what) => engine.minusAll([from], what),
    minusAll(from, what) {
      const subjects = from.filter((region) => !isEmptyRegion(region))
      const clips = what.filter((region) => !isEmptyRegion(region))
      if (subjects.length === 0) return EMPTY_REGION
      if (clips.length === 0) return engine.union(...subjects)
      return run((scope) =>
        clipper.Difference64(together(subjects, scope), together(nearTo(subjects, clips), scope), NonZero),
      )
    },
    common: (a, b) => engine.commonAll([a], [b]),
    commonAll(a, b) {
      if (a.every(isEmptyRegion) || b.every(isEmptyRegion)) return EMPTY_REGION
      return run((scope) =>
        clipper.Intersect64(together(nearTo(b, a), scope), together(nearTo(a, b), scope), NonZero),
      )
    },
    minusCommon(from, ...of) {
      if (isEmptyRegion(from) || of.length === 0) return EMPTY_REGION
      if (of.some(isEmptyRegion)) return from
      // Frames that run the other way round take one from every count: only what all others cover still
      // counts.
      const counted = of.flatMap((region, i) => (i === 0 ? [region] : [region, BACKWARD_FRAME]))
      return run((scope) => clipper.Difference64(loaded(from), together(counted, scope), Positive))
    },
    grow(region, deltaMm, corner = 'round', arcToleranceMm = ARC_TOLERANCE_MM) {
      if (isEmptyRegion(region) || deltaMm === 0) return region
      // Shrinking rounds nothing.
      const quick = corner === 'miter' || deltaMm < 0 ? growConvex(region, deltaMm) : null
      if (quick) return quick
      const asked = outerFirst(deltaMm < 0 ? withoutTinySides(region) : region)
      const grown = run(() => inflate(loaded(asked), deltaMm, corner, arcToleranceMm))
      // Outlines that fold over themselves are taken for inside out, and come out larger when they shrink.
      return deltaMm < 0 && !isEmptyRegion(grown) && !isWithin(boxOf(grown), boxOf(region))
        ? EMPTY_REGION
        : grown
    },
    minusGrown(from, what, deltaMm, arcToleranceMm = ARC_TOLERANCE_MM) {
      if (isEmptyRegion(from) || isEmptyRegion(what)) return from
      return run((scope) => {
        const grown = scoped(scope, inflate(loaded(outerFirst(what)), deltaMm, 'round', arcToleranceMm))
        return clipper.Difference64(loaded(from), grown, NonZero)
      })
    },
    commonGrown(a, b, deltaMm, corner) {
      if (isEmptyRegion(a) || isEmptyRegion(b)) return EMPTY_REGION
      return run((scope) => {
        const grown = scoped(scope, inflate(loaded(outerFirst(b)), deltaMm, corner, ARC_TOLERANCE_MM))
        return clipper.Intersect64(loaded(a), grown, NonZero)
      })
    },
    thin(region, toleranceMm) {
      if (isEmptyRegion(region)) return region
      return run(() => clipper.SimplifyPaths64(loaded(region), toleranceMm * GRID_PER_MM, true))
    },
  }
  return engine
}

const ROUNDED_MM = 1 / GRID_PER_MM

const isWithin = (inner: Bounds2, outer: Bounds2): boolean =>
  inner.minX >= outer.minX - ROUNDED_MM &&
  inner.minY >= outer.minY - ROUNDED_MM &&
  inner.maxX <= outer.maxX + ROUNDED_MM &&
  inner.maxY <= outer.maxY + ROUNDED_MM
