import { TenderError } from '../errors'
import type { Mesh } from '../mesh/mesh'
import type { PolygonEngine, Region } from '../polygon'
import { isEmptyRegion, regionAreaMm2, sameRegion } from '../polygon'
import { fineness, OUTLINE_TOLERANCE_MM, SAME_HEIGHT_MM } from '../tolerances'
import { outlineCutter } from './cutOutlines'
import { overlapOf, type Overlap } from './overlaps'

/**
 * One layer of the part: it fills region from bottomMm to topMm. Equal neighbours share one region object.
 */
export type Layer = {
  readonly index: number
  readonly bottomMm: number
  readonly topMm: number
  readonly region: Region
}

export type Slices = {
  readonly layers: readonly Layer[]
  readonly heightMm: number
  readonly mendedOutlines: number
  /** Where shells lie in one another, ascending; most meshes have none. */
  readonly overlaps: readonly Overlap[]
}

export type SliceOptions = { readonly layerHeightMm: number; readonly firstLayerHeightMm: number }

/** Called between pieces of work; may wait, may throw STOPPED. */
export type Checkpoint = (done: number, total: number) => void | Promise<void>

const MOST_LAYERS = 20_000

/**
 * Cuts a posed mesh at the middle of every layer. Where the mesh is open the ends are joined to the nearest
 * start and counted.
 * @param mesh standing on z = 0
 * @throws TenderError LAYERS_TOO_MANY
 */
export async function sliceMesh(
  mesh: Mesh,
  engine: PolygonEngine,
  options: SliceOptions,
  checkpoint?: Checkpoint,
): Promise<Slices> {
  const heightMm = topOf(mesh)
  const { layerHeightMm: h, firstLayerHeightMm: first } = options
  const count = Math.max(1, 1 + Math.ceil((heightMm - first) / h - 0.5 - SAME_HEIGHT_MM))
  if (count > MOST_LAYERS)
    throw new TenderError(
      'LAYERS_TOO_MANY',
      `${heightMm.toFixed(1)} mm in layers of ${h} mm makes ${count} layers; up to ${MOST_LAYERS} can be planned.`,
      { count },
    )
  const cutter = outlineCutter(
    mesh,
    Float64Array.from({ length: count }, (_, index) => (index === 0 ? first / 2 : first + (index - 0.5) * h)),
  )
  const layers: Layer[] = []
  const overlaps: Overlap[] = []
  let mended = 0
  for (let index = 0; index < count; index++) {
    if (checkpoint && index % 8 === 0) await checkpoint(index, count)
    const raw = cutter(index)
    mended += raw.mended
    const region = engine.clean(raw.region, 'nonzero', OUTLINE_TOLERANCE_MM * fineness(h))
    const twice = overlapOf(raw.region, region, engine)
    if (!isEmptyRegion(twice)) overlaps.push({ layerIndex: index, region: twice })
    const below = layers[index - 1]
    layers.push({
      index,
      bottomMm: layerBoundaryMm(index, first, h),
      topMm: layerBoundaryMm(index + 1, first, h),
      region: below && sameRegion(below.region, region) ? below.region : region,
    })
  }
  return { layers, heightMm, mendedOutlines: mended, overlaps }
}

/**
 * The regions of a mesh at given heights, which need not start at its foot.
 * @param heightsMm ascending; quickest when evenly spaced from the second on, as the undersides of layers are
 */
export async function cutMesh(
  mesh: Mesh,
  heightsMm: readonly number[],
  engine: PolygonEngine,
  checkpoint?: Checkpoint,
): Promise<Region[]> {
  const cutter = outlineCutter(mesh, Float64Array.from(heightsMm))
  const regions: Region[] = []
  for (let index = 0; index < heightsMm.length; index++) {
    if (checkpoint && index % 8 === 0) await checkpoint(index, heightsMm.length)
    regions.push(engine.clean(cutter(index).region, 'nonzero', OUTLINE_TOLERANCE_MM))
  }
  return regions
}

/** What slices fill: area times height, the last layer only as far as the part reaches. */
export function slicedVolumeMm3({ layers, heightMm }: Pick<Slices, 'layers' | 'heightMm'>): number {
  return layers.reduce(
    (sum, { region, bottomMm, topMm }) =>
      sum + regionAreaMm2(region) * (Math.min(topMm, Math.max(heightMm, bottomMm)) - bottomMm),
    0,
  )
}

/**
 * Height below layer `index`. One formula for tops and bottoms: neighbours must meet in the very same number.
 */
export function layerBoundaryMm(index: number, firstLayerHeightMm: number, layerHeightMm: number): number {
  return index <= 0 ? 0 : firstLayerHeightMm + (index - 1) * layerHeightMm
}

/** Height of the highest vertex in use. */
function topOf({ positionsMm, corners }: Mesh): number {
  let top = 0
  for (let c = 0; c < corners.length; c++) {
    const z = positionsMm[3 * corners[c] + 2]
    if (z > top) top = z
  }
  return top
}
