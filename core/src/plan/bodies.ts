import { meshOfSolid, type Body3mf, type Mesh, type SolidEngine } from '../mesh'
import { ringCount, ringOf, type Region } from '../polygon'
import type { SupportPass } from '../stand'
import type { PlanGeometry } from './planResult'

export type BodyColours = { readonly part: string; readonly stand: string; readonly interface: string }

/**
 * The plan as bodies of their own: the part as posed, the stands and the interface layers with exactly the heights and gaps planned.
 * Supports are joined slab by slab, so that each body is one closed solid.
 */
export function planBodies(posedPart: Mesh, geometry: PlanGeometry, engine: SolidEngine, colours: BodyColours): Body3mf[] {
  const bodies: Body3mf[] = [{ name: 'Part', colour: colours.part, mesh: posedPart }]
  const stand = joinSlabs(engine, geometry.passes.filter((pass) => pass.role !== 'interface')) // prettier-ignore
  const touching = joinSlabs(engine, geometry.passes.filter((pass) => pass.role === 'interface')) // prettier-ignore
  if (stand) bodies.push({ name: 'Stand', colour: colours.stand, mesh: stand })
  if (touching) bodies.push({ name: 'Interface', colour: colours.interface, mesh: touching })
  return bodies
}

function joinSlabs(engine: SolidEngine, passes: readonly SupportPass[]): Mesh | null {
  // Passes of one shape that follow each other become one slab: a straight stand is a prism, not a pile.
  const slabs: { bottomMm: number; topMm: number; region: Region }[] = []
  for (const pass of passes) {
    const below = slabs.find((slab) => slab.region === pass.region && slab.topMm === pass.bottomMm)
    if (below) below.topMm = pass.topMm
    else slabs.push({ bottomMm: pass.bottomMm, topMm: pass.topMm, region: pass.region })
  }
  if (slabs.length === 0) return null
  const solids = slabs.map(({ bottomMm, topMm, region }) => {
    const flat = engine.Manifold.extrude(polygonsOf(region), topMm - bottomMm)
    const placed = flat.translate([0, 0, bottomMm])
    flat.delete()
    return placed
  })
  const sum = engine.Manifold.union(solids)
  for (const solid of solids) solid.delete()
  if (sum.isEmpty()) {
    sum.delete()
    return null
  }
  return meshOfSolid(sum)
}

function polygonsOf(region: Region): [number, number][][] {
  return Array.from({ length: ringCount(region) }, (_, r) => {
    const ring = ringOf(region, r)
    return Array.from({ length: ring.length / 2 }, (_, p): [number, number] => [ring[2 * p], ring[2 * p + 1]])
  })
}
