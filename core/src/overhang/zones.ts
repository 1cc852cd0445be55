import { applyPlacing, type Mesh, type Placing } from '../mesh'
import { EMPTY_REGION, regionFromRings, type PolygonEngine, type Region } from '../polygon'
import { cutMesh, type Layer } from '../slice'

/** Where a zone is, in the part's own coordinates as drawn, so that it goes along when the part is turned. */
export type ZoneShape =
  | {
      readonly kind: 'box'
      readonly minMm: readonly [number, number, number]
      readonly maxMm: readonly [number, number, number]
    }
  /** Standing upright as drawn, from the middle of its foot. */
  | {
      readonly kind: 'cylinder'
      readonly footMm: readonly [number, number, number]
      readonly radiusMm: number
      readonly heightMm: number
    }
  /** Dabs of a brush: balls of one radius, three coordinates each. */
  | { readonly kind: 'brush'; readonly radiusMm: number; readonly atMm: readonly number[] }
  /** A body of the part's own file. */
  | { readonly kind: 'body'; readonly body: number }

/**
 * The maker's own mark. Inside it the usual limit does not count but this one: a hold zone holds whatever
 * leans past limitDeg (0: every underside), a keep-off zone leaves free whatever does not lean past it (90:
 * everything). Of zones that overlap the later one counts. A show zone marks faces that must look good:
 * nothing is held or left free by it, but poses are judged by what touches it.
 */
export type Zone = {
  readonly id: string
  readonly name: string
  readonly kind: 'hold' | 'keepOff' | 'show'
  readonly limitDeg: number
  readonly shape: ZoneShape
}

/** A zone cut by the layers: the region of its volume at the underside of each layer. */
export type ZoneLayers = { readonly zone: Zone; readonly regions: readonly Region[] }

const ROUND = 48

/**
 * Cuts zones at the undersides of layers.
 * @param bodyMesh gives the mesh of a body of the file, as drawn; null when the file has no such body
 */
export async function cutZones(
  zones: readonly Zone[],
  layers: readonly Layer[],
  placing: Placing,
  bodyMesh: (body: number) => Mesh | null,
  engine: PolygonEngine,
): Promise<ZoneLayers[]> {
  const cut: ZoneLayers[] = []
  for (const zone of zones) {
    const { shape } = zone
    if (shape.kind === 'brush') cut.push({ zone, regions: brushRegions(shape, layers, placing, engine) })
    else {
      const mesh =
        shape.kind === 'body'
          ? bodyMesh(shape.body)
          : shape.kind === 'box'
            ? boxMesh(shape.minMm, shape.maxMm)
            : cylinderMesh(shape)
      cut.push({
        zone,
        regions: mesh
          ? await cutMesh(applyPlacing(mesh, placing), layers.map(undersideOf), engine)
          : layers.map(() => EMPTY_REGION),
      })
    }
  }
  return cut
}

/** Just above the lower face: a zone that ends exactly at an underside holds it. */
const undersideOf = (layer: Layer) => layer.bottomMm + 1e-4

function brushRegions(
  shape: Extract<ZoneShape, { kind: 'brush' }>,
  layers: readonly Layer[],
  placing: Placing,
  engine: PolygonEngine,
): Region[] {
  const dabs = applyPlacing(
    { positionsMm: Float64Array.from(shape.atMm), corners: new Uint32Array(0) },
    placing,
  ).positionsMm
  const radius = shape.radiusMm * placing.scale
  return layers.map((layer) => {
    const z = undersideOf(layer)
    const rings: number[][] = []
    for (let i = 0; i + 2 < dabs.length; i += 3) {
      const r2 = radius * radius - (dabs[i + 2] - z) ** 2
      if (r2 > 0) rings.push(circle(dabs[i], dabs[i + 1], Math.sqrt(r2)))
    }
    return rings.length === 0 ? EMPTY_REGION : engine.clean(regionFromRings(rings))
  })
}

function circle(x: number, y: number, r: number): number[] {
  const ring: number[] = []
  for (let k = 0; k < ROUND; k++)
    ring.push(x + r * Math.cos((2 * Math.PI * k) / ROUND), y + r * Math.sin((2 * Math.PI * k) / ROUND))
  return ring
}

/** A box's surface. */
export function boxMesh([x0, y0, z0]: readonly number[], [x1, y1, z1]: readonly number[]): Mesh {
  return prism([x0, y0, x1, y0, x1, y1, x0, y1], z0, z1)
}

/** A standing cylinder's surface. */
export function cylinderMesh({
  footMm: [x, y, z],
  radiusMm,
  heightMm,
}: {
  readonly footMm: readonly [number, number, number]
  readonly radiusMm: number
  readonly heightMm: number
}): Mesh {
  return prism(circle(x, y, radiusMm), z, z + heightMm)
}

/** A convex outline, counter-clockwise, drawn up from z0 to z1. */
function prism(ring: readonly number[], z0: number, z1: number): Mesh {
  const n = ring.length / 2
  const positionsMm = new Float64Array(6 * n)
  const corners: number[] = []
  for (let i = 0; i < n; i++) {
    positionsMm.set([ring[2 * i], ring[2 * i + 1], z0], 3 * i)
    positionsMm.set([ring[2 * i], ring[2 * i + 1], z1], 3 * (n + i))
    const j = (i + 1) % n
    corners.push(i, j, n + j, i, n + j, n + i)
    if (i > 0 && i < n - 1) corners.push(0, i + 1, i, n, n + i, n + i + 1)
  }
  return { positionsMm, corners: Uint32Array.from(corners) }
}
