import {
  applyPlacing,
  coarsen,
  meshBounds,
  meshOfBodies,
  placingOf,
  write3mf,
  writeStl,
  type Bounds3,
  type MendReport,
  type Mesh,
  type Placing,
  type Pose,
  type ShellPlace,
  type SolidEngine,
} from '@tender/core/mesh'
import type { Bridge, Access, PatchKind } from '@tender/core/overhang'
import { planBounds, type Needs } from '@tender/core/plan'
import { solidOfPasses } from '@tender/core/solid'
import { type BodyRole, type PlanDocument } from '@tender/core/decide'
import { regionAreaMm2, ringCount, ringOf, type PolygonEngine } from '@tender/core/polygon'
import { standingOf, type Standing } from '@tender/core/pose'
import { reliefChange, relieve } from '@tender/core/relief'
import { overlapExtent, slicedVolumeMm3, type Checkpoint, type Slices } from '@tender/core/slice'
import { massGrams } from '@tender/core/units'
import { transfer } from 'comlink'
import { BufferAttribute, BufferGeometry } from 'three'
import { MeshBVH } from 'three-mesh-bvh'

/** Triangles of a part as it lies: nine floats each. */
export type Drawing = {
  readonly positions: Float32Array
  /** A rougher copy, drawn while the view moves; null for a part light enough to be drawn whole. */
  readonly rough: Float32Array | null
  /** Bodies of the file that are stands or zones. */
  readonly others: Float32Array | null
  readonly sizeMm: readonly [number, number, number]
  /** The box around the part as drawn, before it was laid. */
  readonly ownBox: Bounds3
  readonly placing: Placing
  readonly standing: Standing
}

/** More triangles than this are not drawn while the view moves. */
const LIGHT_TRIANGLES = 150_000
const ROUGH_CELLS = 90

export const partOf = (mesh: Mesh, roles: readonly BodyRole[]): Mesh =>
  meshOfBodies(mesh, (body) => (roles[body] ?? 'part') === 'part') ?? mesh

export function drawPart(mesh: Mesh, pose: Pose, roles: readonly BodyRole[]): Drawing {
  const part = partOf(mesh, roles)
  const placing = placingOf(part, pose)
  const posed = applyPlacing(part, placing)
  const { min, max } = meshBounds(posed)
  const positions = soupOf(posed)
  const rough = posed.corners.length / 3 > LIGHT_TRIANGLES ? soupOf(coarsen(posed, ROUGH_CELLS)) : null
  const rest = part === mesh ? null : meshOfBodies(mesh, (body) => (roles[body] ?? 'part') !== 'part')
  const others = rest && soupOf(applyPlacing(rest, placing))
  const drawing = {
    positions,
    rough,
    others,
    ownBox: meshBounds(part),
    placing,
    standing: standingOf(posed),
    sizeMm: [max[0] - min[0], max[1] - min[1], max[2] - min[2]] as const,
  }
  return transfer(drawing, [
    positions.buffer,
    ...(rough ? [rough.buffer] : []),
    ...(others ? [others.buffer] : []),
  ])
}

function soupOf({ positionsMm, corners }: Mesh): Float32Array<ArrayBuffer> {
  const soup = new Float32Array(corners.length * 3)
  for (let c = 0; c < corners.length; c++)
    for (let axis = 0; axis < 3; axis++) soup[3 * c + axis] = positionsMm[3 * corners[c] + axis]
  return soup
}

/** A tree of triangles that leaves them where they are. */
export function growTree(positions: Float32Array) {
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(positions, 3))
  const tree = MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false })
  return transfer(tree, [
    ...(tree.roots as ArrayBuffer[]),
    ...(tree.indirectBuffer ? [(tree.indirectBuffer as Uint32Array).buffer as ArrayBuffer] : []),
  ])
}

/** What is wrong with a mesh, and where. */
export type Wounds = {
  readonly report: Omit<MendReport, 'openEdgesMm' | 'turned' | 'places'>
  /** Pairs of points, as the part lies. */
  readonly openEdges: Float32Array
  readonly turned: Float32Array
  /** Specks and shells inside others, as the part lies. */
  readonly places: readonly ShellPlace[]
}

export function woundsOf(
  mesh: Mesh,
  report: MendReport | null,
  pose: Pose,
  roles: readonly BodyRole[],
): Wounds | null {
  if (!report) return null
  const placing = placingOf(partOf(mesh, roles), pose)
  const { openEdgesMm, turned, places, ...counts } = report
  const put = (positionsMm: Float64Array) =>
    applyPlacing({ positionsMm, corners: new Uint32Array(0) }, placing).positionsMm
  const corners = new Uint32Array(turned.length * 3)
  turned.forEach((t, i) => corners.set(mesh.corners.subarray(3 * t, 3 * t + 3), 3 * i))
  return {
    report: counts,
    openEdges: Float32Array.from(put(openEdgesMm)),
    places: places.map((place) => ({
      ...place,
      atMm: [...put(Float64Array.from(place.atMm))] as [number, number, number],
      sizeMm: place.sizeMm * pose.scale,
    })),
    turned: soupOf(applyPlacing({ positionsMm: mesh.positionsMm, corners }, placing)),
  }
}

/** What needs holding, in numbers small enough to be sent. */
export type NeedsReport = {
  /** What its section and its layers are asked by. */
  readonly id: string
  readonly bounds: ReturnType<typeof planBounds>
  readonly heightMm: number
  readonly undersides: number
  readonly layers: number
  /** What slicing takes the part to be: area times height over all layers. */
  readonly slicedMm3: number
  /** Where shells lie in one another: in words, and pairs of points to draw. */
  readonly overlap: { readonly sentence: string; readonly outlines: Float32Array } | null
  readonly holdMm2: number
  readonly patches: readonly {
    readonly kind: PatchKind
    readonly access: Access
    readonly areaMm2: number
    readonly lowestMm: number
    readonly highestMm: number
    readonly atMm: readonly [number, number, number]
  }[]
  readonly islands: readonly {
    readonly areaMm2: number
    readonly atMm: readonly [number, number, number]
    readonly keptOffBy: string | null
  }[]
  readonly bridges: readonly (Omit<Bridge, 'atMm'> & { readonly atMm: readonly [number, number, number] })[]
}

export function reportNeeds({ slices, overhangs }: Needs): Omit<NeedsReport, 'id'> {
  const { layers, heightMm } = slices
  return {
    bounds: planBounds({ layers, passes: [], towerLaid: null }),
    heightMm,
    undersides: overhangs.patches.length,
    layers: layers.length,
    slicedMm3: slicedVolumeMm3(slices),
    overlap: overlapDrawn(slices),
    holdMm2: overhangs.patches.reduce((sum, patch) => sum + patch.areaMm2, 0),
    patches: overhangs.patches.map(({ kind, access, areaMm2, lowestMm, highestMm, steps }) => {
      const { xyMm } = [...steps.values()][0]
      return { kind, access, areaMm2, lowestMm, highestMm, atMm: [xyMm[0], xyMm[1], lowestMm] as const }
    }),
    islands: overhangs.islands.map(({ areaMm2, atMm, zMm, keptOffBy }) => ({
      areaMm2,
      atMm: [atMm[0], atMm[1], zMm] as const,
      keptOffBy,
    })),
    bridges: overhangs.bridges.map((bridge) => ({
      ...bridge,
      atMm: [bridge.atMm[0], bridge.atMm[1], bridge.zMm] as const,
    })),
  }
}

/** More outlines than this would lie too close to be told apart. */
const MOST_OVERLAP_OUTLINES = 24

function overlapDrawn(slices: Slices): NeedsReport['overlap'] {
  const extent = overlapExtent(slices)
  if (!extent) return null
  const { layers, overlaps } = slices
  const points: number[] = []
  const every = Math.ceil(overlaps.length / MOST_OVERLAP_OUTLINES)
  for (let k = 0; k < overlaps.length; k += every) {
    const { layerIndex, region } = overlaps[k]
    const z = (layers[layerIndex].bottomMm + layers[layerIndex].topMm) / 2
    for (let r = 0; r < ringCount(region); r++) {
      const ring = ringOf(region, r)
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
        points.push(ring[j], ring[j + 1], z, ring[i], ring[i + 1], z)
    }
  }
  return { sentence: extent.sentence, outlines: Float32Array.from(points) }
}

export type ReliefReport = {
  readonly mode: 'add' | 'cut'
  readonly addedMm3: number
  readonly cutMm3: number
  readonly grams: number
  readonly layers: number
  /** What was added or cut, to be drawn. */ readonly positions: Float32Array<ArrayBuffer>
}

async function relieved(
  { slices }: Needs,
  { decisions }: PlanDocument,
  mode: 'add' | 'cut',
  polygons: PolygonEngine,
  checkpoint: Checkpoint,
) {
  return relieve(slices.layers, polygons, { mode, ...decisions }, checkpoint)
}

export async function reshape(
  needs: Needs,
  document: PlanDocument,
  mode: 'add' | 'cut',
  polygons: PolygonEngine,
  solids: SolidEngine,
  checkpoint: Checkpoint,
): Promise<ReliefReport> {
  const after = await relieved(needs, document, mode, polygons, (done, total) => checkpoint(done, 2 * total))
  const { added, cut } = reliefChange(needs.slices.layers, after.layers, polygons)
  const changed = mode === 'add' ? added : cut
  const layers = needs.slices.layers
  const body = await solidOfPasses(
    layers
      .map(({ bottomMm, topMm }, i) => ({ bottomMm, topMm, region: changed[i] }))
      .filter(({ region }) => regionAreaMm2(region) > 1e-4),
    polygons,
    solids,
    (done, total) => checkpoint(total + done, 2 * total),
  )
  const filament = document.filaments.find(({ id }) => id === document.decisions.partFilament)
  return {
    mode,
    addedMm3: after.addedMm3,
    cutMm3: after.cutMm3,
    grams: massGrams(mode === 'add' ? after.addedMm3 : after.cutMm3, filament?.densityGcm3 ?? 1.24),
    layers: after.changed,
    positions: body ? soupOf(body) : new Float32Array(0),
  }
}

export async function reshapedFile(
  needs: Needs,
  document: PlanDocument,
  mode: 'add' | 'cut',
  form: 'stl' | '3mf',
  title: string,
  polygons: PolygonEngine,
  solids: SolidEngine,
  checkpoint: Checkpoint,
): Promise<Uint8Array<ArrayBuffer>> {
  const after = await relieved(needs, document, mode, polygons, (done, total) => checkpoint(done, 2 * total))
  const body = await solidOfPasses(after.layers, polygons, solids, (done, total) =>
    checkpoint(total + done, 2 * total),
  )
  if (!body) throw new Error('Nothing of the part is left.')
  return Uint8Array.from(
    form === 'stl' ? writeStl(body) : write3mf(title, [{ name: title, colour: '#a5a8b4', mesh: body }]),
  )
}
